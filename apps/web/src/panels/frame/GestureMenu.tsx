import { useStore } from 'zustand';
import { PRESETS } from '../../state/gestures.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

/** In the menu on empty space: what the mouse does, and the other presets. */
export function GestureMenu({ rowHeight, close }: { rowHeight: number; close: () => void }) {
  const ws = useWorkspace();
  const chosen = useStore(ws.profile, (s) => s.gesturePreset);
  return (
    <div role="group" aria-label="Mouse" className="mt-1 border-t border-line pt-1">
      {PRESETS.map((p) => (
        <button
          key={p.id}
          type="button"
          role="menuitemradio"
          aria-checked={p.id === chosen}
          style={{ height: rowHeight }}
          className="flex w-full items-center gap-2.5 px-3 hover:bg-hover focus:bg-hover focus:outline-none"
          onClick={() => {
            close();
            changeSettings(ws, { gesturePreset: p.id });
          }}
        >
          <span className="w-4 text-magenta">{p.id === chosen ? '✓' : ''}</span>
          <span className="flex-1 text-left">{p.name}</span>
        </button>
      ))}
    </div>
  );
}

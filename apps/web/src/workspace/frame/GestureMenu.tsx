import { useStore } from 'zustand';
import { PRESETS } from '../../scene/gestures.ts';
import { changeSettings, settingsStore } from '../../stores/settings-store.ts';

/** In the menu on empty space: what the mouse does, and the other presets. */
export function GestureMenu({ rowHeight, close }: { rowHeight: number; close: () => void }) {
  const chosen = useStore(settingsStore, (s) => s.gesturePreset);
  return (
    <div role="group" aria-label="Mouse" className="mt-1 border-t border-line pt-1">
      {PRESETS.map((p) => (
        <button key={p.id} type="button" role="menuitemradio" aria-checked={p.id === chosen} style={{ height: rowHeight }} className="flex w-full items-center gap-2.5 px-3 hover:bg-hover focus:bg-hover focus:outline-none"
          onClick={() => {
            close();
            changeSettings({ gesturePreset: p.id });
          }}>
          <span className="w-4 text-magenta">{p.id === chosen ? '✓' : ''}</span>
          <span className="flex-1 text-left">{p.name}</span>
        </button>
      ))}
    </div>
  );
}

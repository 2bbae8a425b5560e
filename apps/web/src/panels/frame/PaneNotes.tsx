import { scaleBar } from '@bathyscope/core/camera';
import type { LengthUnit } from '@bathyscope/core/units';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import type { PaneState } from '../../state/camera-store.ts';
import { nothingIn } from '../../workspace/view/in-view.ts';
import { useProfile } from '../use-profile.ts';
import { useWorkspace } from '../use-workspace.ts';

/** A length to read others by; in perspective it holds in the depth of the view's middle. */
export function ScaleBar({ pane: { camera, size } }: { pane: PaneState }) {
  const unit: LengthUnit = useStore(useProfile(), (s) => s.unit);
  const { px, text } = scaleBar(camera.height / size.height, unit);
  const perspective = camera.projection === 'perspective';
  return (
    <span
      data-testid="scale-bar"
      title={perspective ? 'In the depth of the middle of the view' : undefined}
      className="figures flex items-end gap-1.5 text-[12px] text-soft"
    >
      <span aria-hidden className="mb-1 h-1.5 border-x border-b border-current" style={{ width: px }} />
      {perspective && '≈ '}
      {text}
    </span>
  );
}

/** ms after the last move. */
const CALM = 250;

/** Said in a pane in which nothing is to be seen, with the way back. */
export function EmptyNote({ index }: { index: number }) {
  const ws = useWorkspace();
  const [why, setWhy] = useState<'hidden' | 'away' | null>(null);
  useEffect(() => {
    let timer = 0;
    const look = () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => setWhy(nothingIn(ws, index)), CALM);
    };
    look();
    const ends = [ws.camera.subscribe(look), ws.visibility.subscribe(look)];
    return () => {
      window.clearTimeout(timer);
      ends.forEach((end) => end());
    };
  }, [ws, index]);
  if (!why) return null;
  const command = commandById(why === 'hidden' ? 'show-all' : 'fit');
  return (
    <div
      role="status"
      className="pointer-events-auto absolute top-1/2 left-1/2 z-10 flex -translate-x-1/2 -translate-y-1/2 items-center gap-2.5 rounded-md border border-border bg-panel px-3 py-1.5 whitespace-nowrap shadow-card"
    >
      {why === 'hidden' ? 'Everything is hidden.' : 'Nothing of the model is in view.'}
      <button
        type="button"
        className="rounded bg-blue px-2.5 py-0.5 font-medium text-panel hover:brightness-110"
        onClick={() => {
          ws.camera.getState().setActive(index);
          runCommand(ws, command);
        }}
      >
        {command.name}
      </button>
    </div>
  );
}

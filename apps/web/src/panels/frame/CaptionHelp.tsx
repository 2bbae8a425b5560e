import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { FRAMES, pipOf, rollOf } from '@bathyscope/core/camera';
import type { PaneState } from '../../state/camera-store.ts';
import { isUncut, sectionNow } from '../../workspace/cutting/section-now.ts';
import { visiblePaths } from '../../workspace/shown/shown.ts';
import { useSeen } from '../use-derived.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { capital } from '../../ui/capital.ts';

const DEGREES = 180 / Math.PI;
/** Opening angle from which straight parts look bent towards the edges. */
const WIDE = 60;

/** What makes a view look other than a plain one of the whole model. */
function reasonsOf(ws: Workspace, { id, camera: { projection, lens, orientation } }: PaneState): string[] {
  const frame = FRAMES[ws.camera.getState().upAxis];
  const pip = pipOf(orientation, frame);
  const roll = pip ? Math.round(rollOf(orientation, pip, frame) * DEGREES) : 0;
  const { planes, on } = sectionNow(ws);
  const { peeking } = ws.visibility.getState();
  const hidden = ws.model.getState().components.length - visiblePaths(ws).length;
  const angle = Math.round(lens * DEGREES);
  const perspective = `perspective of ${angle}°${angle >= WIDE ? ', which bends what lies near the edges' : ': what is near looks larger'}`;
  return [
    ...(projection === 'perspective' ? [perspective] : []),
    ...(roll ? [`rolled by ${roll}°`] : []),
    ...(on && planes.length && !isUncut(ws, id) ? ['a section cuts the model'] : []),
    ...(id in ws.style.getState().panes ? ['a style of this pane’s own'] : []),
    ...(peeking
      ? ['only what is hidden is shown']
      : hidden
        ? [`${hidden} ${hidden === 1 ? 'component is' : 'components are'} hidden`]
        : []),
  ];
}

/** A line on why a view looks as it does, asked for by “?” where there is a reason. */
export function CaptionHelp({ pane }: { pane: PaneState }) {
  const reasons = useSeen((ws) => reasonsOf(ws, pane));
  if (!reasons.length) return null;
  const said = reasons.join('; ');
  return (
    <Popover className="pointer-events-auto flex">
      <PopoverButton
        aria-label="Why this view looks so"
        title="Why this view looks so"
        className="grid size-4 place-items-center rounded-full border border-border text-[11px] leading-none text-soft hover:text-ink"
      >
        ?
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'top start', gap: 6 }}
        className="z-40 max-w-80 rounded-md border border-line bg-panel px-2.5 py-1.5 text-[12.5px] text-ink shadow-card"
      >
        {capital(said)}.
      </PopoverPanel>
    </Popover>
  );
}

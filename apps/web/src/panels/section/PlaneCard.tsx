import { offsetAt, planePosition, removedSide, type SectionPlane } from '@bathyscope/core/section';
import { Eye, EyeOff, FlipHorizontal2, Move3d, Play, Scan, Square, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import { useStore } from 'zustand';
import {
  acceptSection,
  changePlane,
  rangeOf,
  recordSection,
  setPlane,
  startDrag,
  stepPlane,
} from '../../commands/cut/section-changes.ts';
import { lookAtPlane } from '../../commands/cut/make-planes.ts';
import { setSweepPace, startSweep, stopSweep } from '../../commands/cut/section-sweep.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { LengthField } from '../LengthField.tsx';
import { Status } from '../frame/Status.tsx';
import { useOwnSystem } from '../measure/use-own-system.ts';
import { placeOf } from './plane-place.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

/** One plane: its name, where it is, and what can be done with it. */
export function PlaneCard({ plane }: { plane: SectionPlane }) {
  const ws = useWorkspace();
  const active = useStore(ws.section, (s) => s.active === plane.id);
  const [low, high] = useSeen((now) => rangeOf(now, plane));
  const system = useOwnSystem();
  const place = placeOf(plane, system);
  const drag = useRef<ReturnType<typeof startDrag> | null>(null);
  const slide = (offset: number) => {
    drag.current ??= startDrag(ws, `move ${plane.name}`);
    drag.current.move(changePlane(ws, plane.id, { offset }));
  };
  const settle = () => {
    drag.current?.end();
    drag.current = null;
  };
  const change = (what: string, values: Partial<SectionPlane>) =>
    recordSection(ws, `${what} ${plane.name}`, { planes: changePlane(ws, plane.id, values) });
  return (
    <li
      className={`rounded-md border p-2 ${active ? 'border-magenta' : plane.on ? 'border-blue' : 'border-line opacity-70'}`}
    >
      <div className="flex items-center gap-0.5">
        <EditableName
          name={plane.name}
          label="Name of the plane"
          className="min-w-0 flex-1 font-medium"
          onRename={(name) => change('rename', { name })}
        />
        {plane.from && <Status of={[plane.from]} />}
        <IconButton
          icon={plane.on ? Eye : EyeOff}
          label={`${plane.on ? 'Switch off' : 'Switch on'} ${plane.name}`}
          className="size-6 text-soft"
          onClick={() => change('switch', { on: !plane.on })}
        />
        <IconButton
          icon={Trash2}
          label={`Delete ${plane.name}`}
          className="size-6 text-soft"
          onClick={() =>
            recordSection(ws, `delete ${plane.name}`, {
              planes: ws.section.getState().planes.filter((p) => p.id !== plane.id),
            })
          }
        />
      </div>
      <div className="mt-1 flex items-center gap-1.5">
        <input
          type="range"
          aria-label={`${place.name} of ${plane.name}, slider`}
          min={low}
          max={high}
          step={Math.max((high - low) / 1000, 1e-4)}
          value={plane.offset}
          className="min-w-0 flex-1 accent-(--blue)"
          onChange={(e) => slide(Number(e.target.value))}
          onPointerUp={settle}
          onKeyUp={settle}
          onBlur={settle}
        />
        <span title={place.counted}>{place.name === 'Offset' ? '' : `${place.name} =`}</span>
        <LengthField
          label={`${place.name} of ${plane.name}`}
          title={place.counted}
          value={place.at}
          className="w-24"
          onChange={(at) => change('move', { offset: offsetAt(plane, at, system) })}
          onStep={(sign) => stepPlane(ws, plane, sign)}
        />
      </div>
      <PlaneActions plane={plane} active={active} flip={() => change('flip', { flipped: !plane.flipped })} />
      {active && <Where plane={plane} />}
    </li>
  );
}

interface ActionsProps {
  plane: SectionPlane;
  active: boolean;
  flip: () => void;
}

function PlaneActions({ plane, active, flip }: ActionsProps) {
  const ws = useWorkspace();
  const { name } = plane;
  const handle = () => (active ? acceptSection(ws) : setPlane(ws, plane.id));
  const actions = [
    [
      active ? 'Handle off' : 'Handle',
      Move3d,
      `${active ? 'Take off' : 'Put on'} the handle of ${name}`,
      handle,
    ],
    ['Normal to', Scan, `Normal to ${name}`, () => lookAtPlane(ws, plane)],
    ['Flip', FlipHorizontal2, `Flip ${name}`, flip],
  ] as const;
  return (
    <div className="mt-1 flex gap-1">
      {actions.map(([text, Icon, label, run]) => {
        const pressed = active && Icon === Move3d;
        return (
          <button
            key={label}
            type="button"
            aria-label={label}
            aria-pressed={pressed}
            onClick={run}
            className={`flex flex-1 items-center justify-center gap-1 rounded border border-line py-0.5 text-[12.5px] hover:bg-hover ${pressed ? 'text-magenta' : ''}`}
          >
            <Icon size={13} strokeWidth={1.6} aria-hidden />
            {text}
          </button>
        );
      })}
    </div>
  );
}

/** Where a plane is in the model's frame, and its sweep. */
function Where({ plane }: { plane: SectionPlane }) {
  const ws = useWorkspace();
  const seconds = useStore(ws.profile, (s) => s.sweepSeconds);
  const sweeping = useStore(ws.sweep, (s) => s.plane === plane.id);
  const n = removedSide(plane);
  const { axis } = planePosition(plane);
  return (
    <>
      <p className="mt-1 text-[12.5px] text-soft">
        {axis !== null ? (
          <>
            Removes {n[axis] > 0 ? '+' : '−'}
            {'XYZ'[axis]}
          </>
        ) : (
          <>
            Offset {placeOf(plane).counted}; removes towards{' '}
            <span className="figures">{n.map((x) => x.toFixed(3)).join(' ')}</span>
          </>
        )}
      </p>
      <div className="mt-1 flex items-center gap-2 text-[13px]">
        <button
          type="button"
          className="flex items-center gap-1 rounded border border-line bg-paper px-2 py-0.5 hover:bg-hover"
          onClick={() => (sweeping ? stopSweep(ws) : startSweep(ws, plane.id))}
        >
          {sweeping ? <Square size={13} aria-hidden /> : <Play size={13} aria-hidden />}
          {sweeping ? 'Stop the sweep' : 'Sweep'}
        </button>
        <span className="flex-1 text-right text-soft">one run in</span>
        <NumberField
          label="Seconds of one run of the sweep"
          value={seconds}
          kind="time"
          unit="s"
          decimals={1}
          className="w-14"
          check={(s) => (s >= 0.5 && s <= 120 ? null : 'Between 0.5 and 120 seconds.')}
          onChange={(seconds) => setSweepPace(ws, seconds)}
        />
      </div>
    </>
  );
}

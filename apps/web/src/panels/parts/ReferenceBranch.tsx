import { squareOn } from '@bathyscope/core/camera';
import { map3, scale, type Vec3 } from '@bathyscope/core/math';
import {
  FIXED_NAMES,
  FIXED_REFERENCES,
  type ReferenceAxis,
  type ReferencePlane,
} from '@bathyscope/core/references';
import { ROUNDING } from '@bathyscope/core/tolerances';
import { ChevronRight, DoorOpen, Eye, EyeOff, MousePointerClick, Scan, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { clickOn } from '../../commands/pick/clicks.ts';
import { datumOf } from '../../workspace/picking/datums.ts';
import { turnToOrientation } from '../../commands/look/direction-commands.ts';
import {
  envelopeVerdict,
  recordReferences,
  toggleReference,
} from '../../commands/show/reference-commands.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import type { Workspace } from '../../workspace/workspace.ts';
import { Status } from '../frame/Status.tsx';
import { LengthField } from '../LengthField.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { modelFrame } from '../../workspace/view/panes.ts';

/** Reference geometry, each switchable alone or all at once; one's own planes and axes with their names. */
export function ReferenceBranch() {
  const ws = useWorkspace();
  const [open, setOpen] = useState(false);
  const state = useStore(ws.reference);
  const own = [...state.planes.map((p) => ({ ...p, direction: p.normal })), ...state.axes];
  return (
    <section aria-label="Reference geometry" className="shrink-0 border-t border-line">
      <div className="flex items-center pr-1.5 pl-2">
        <button
          type="button"
          aria-expanded={open}
          className="flex flex-1 items-center gap-1 py-1 font-medium"
          onClick={() => setOpen(!open)}
        >
          <ChevronRight size={15} className={open ? 'rotate-90' : ''} aria-hidden /> Reference geometry{' '}
          <span className="text-[12.5px] font-normal text-soft">{state.shown.length} shown</span>
        </button>
        <IconButton
          icon={state.shown.length ? Eye : EyeOff}
          label="All reference geometry on or off"
          className="size-6 text-soft"
          onClick={() => runCommand(ws, commandById('references-all'))}
        />
      </div>
      {open && (
        <div className="max-h-64 overflow-y-auto pb-2">
          <ul>
            {FIXED_REFERENCES.filter((id) => id !== 'envelope' || state.envelope).map((id) => (
              <Row key={id} id={id} name={FIXED_NAMES[id]} shown={state.shown.includes(id)} />
            ))}
            {own.map((r) => (
              <OwnRow key={r.id} of={r} shown={state.shown.includes(r.id)} />
            ))}
          </ul>
          {state.envelope && <EnvelopeFields />}
          <div className="mt-1.5 grid grid-cols-2 gap-1 px-3">
            {['plane-offset', 'plane-points', 'plane-edge', 'axis-of', 'axis-points', 'envelope'].map(
              (id) => {
                const command = commandById(id);
                return (
                  <button
                    key={id}
                    type="button"
                    title={command.name}
                    className="truncate rounded border border-line bg-paper px-1.5 py-0.5 text-left text-[12.5px] hover:bg-hover"
                    onClick={() => runCommand(ws, command)}
                  >
                    {command.name.replace('Reference ', '').replace(/^./, (c) => c.toUpperCase())}
                  </button>
                );
              },
            )}
          </div>
        </div>
      )}
    </section>
  );
}

type OwnReference = (ReferencePlane | ReferenceAxis) & { direction: Vec3 };

/** A plane or axis of one's own: named, picked, looked along, turned about, deleted. */
function OwnRow({ of: r, shown }: { of: OwnReference; shown: boolean }) {
  const ws = useWorkspace();
  const remove = () => {
    const { planes, axes, shown: all } = ws.reference.getState();
    recordReferences(ws, `delete ${r.name}`, {
      planes: planes.filter((p) => p.id !== r.id),
      axes: axes.filter((a) => a.id !== r.id),
      shown: all.filter((s) => s !== r.id),
    });
  };
  const rename = (name: string) => {
    const { planes, axes } = ws.reference.getState();
    recordReferences(ws, `rename ${name}`, {
      planes: planes.map((p) => (p.id === r.id ? { ...p, name } : p)),
      axes: axes.map((a) => (a.id === r.id ? { ...a, name } : a)),
    });
  };
  return (
    <li className="flex h-7 items-center gap-0.5 pr-1.5 pl-8 hover:bg-hover" title={r.made}>
      <EditableName name={r.name} label="Name" className="min-w-0 flex-1" onRename={(name) => rename(name)} />
      {r.from && <Status of={[r.from]} />}
      <IconButton
        icon={MousePointerClick}
        label={`Pick ${r.name}`}
        className="size-6 text-soft"
        onClick={(e) => pickDatum(ws, r.id, e)}
      />
      <IconButton
        icon={Scan}
        label={`Normal to ${r.name}`}
        className="size-6 text-soft"
        onClick={() => lookAlong(ws, r.direction)}
      />
      <IconButton
        icon={DoorOpen}
        label={`Hinge about ${r.name}`}
        className="size-6 text-soft"
        onClick={() =>
          ws.camera.getState().setHinge({
            origin: r.origin,
            axis: r.direction,
            name: r.name,
            ...(r.from && { from: r.from }),
          })
        }
      />
      <IconButton
        icon={Trash2}
        label={`Delete ${r.name}`}
        className="size-6 text-soft"
        onClick={() => remove()}
      />
      <Mark id={r.id} name={r.name} shown={shown} />
    </li>
  );
}

const lookAlong = (ws: Workspace, d: Vec3): void =>
  turnToOrientation(
    ws,
    squareOn(
      d[2] < -ROUNDING || (Math.abs(d[2]) < ROUNDING && d[1] > ROUNDING) ? scale(d, -1) : d,
      modelFrame(ws),
    ),
  );

/** Picks reference geometry; with Shift or Ctrl besides what is picked. */
function pickDatum(
  ws: Workspace,
  datum: string,
  { shiftKey, ctrlKey }: { shiftKey: boolean; ctrlKey: boolean },
): void {
  clickOn(ws, { kind: 'datum', component: '', index: 0, datum }, shiftKey || ctrlKey);
}

function Row({ id, name, shown }: { id: string; name: string; shown: boolean }) {
  const ws = useWorkspace();
  const there = useSeen((now) => datumOf(now, id) !== null);
  return (
    <li className="flex h-6 items-center pr-1.5 pl-8 hover:bg-hover">
      {there ? (
        <button
          type="button"
          className={`flex-1 text-left ${shown ? '' : 'text-soft'}`}
          title="Pick it"
          onClick={(e) => pickDatum(ws, id, e)}
        >
          {name}
        </button>
      ) : (
        <span className={`flex-1 ${shown ? '' : 'text-soft'}`}>{name}</span>
      )}
      <Mark id={id} name={name} shown={shown} />
    </li>
  );
}

function Mark({ id, name, shown }: { id: string; name: string; shown: boolean }) {
  const ws = useWorkspace();
  return (
    <IconButton
      icon={shown ? Eye : EyeOff}
      label={`${shown ? 'Hide' : 'Show'} ${name}`}
      aria-pressed={shown}
      className={`size-6 ${shown ? 'text-magenta' : 'text-soft'}`}
      onClick={() => ws.history.getState().record(toggleReference(ws, id, name))}
    />
  );
}

/** Size of the envelope and what it says of the model. */
function EnvelopeFields() {
  const ws = useWorkspace();
  const envelope = useStore(ws.reference, (s) => s.envelope)!;
  const setSize = (k: number, value: number) =>
    ws.reference.setState({
      envelope: { ...envelope, size: map3(envelope.size, (x, i) => (i === k ? value : x)) },
    });
  const verdict = useSeen(envelopeVerdict);
  return (
    <div className="mt-1 px-3 text-[13px]">
      <div className="flex items-center gap-1">
        Envelope
        {envelope.size.map((x, k) => (
          <LengthField
            key={k}
            label={`Envelope ${'XYZ'[k]}`}
            value={x}
            check={(mm) => (mm > 0 ? null : 'A box is larger than 0.')}
            onChange={(mm) => setSize(k, mm)}
            className="w-full min-w-0 px-1"
          />
        ))}
      </div>
      {verdict && (
        <p
          role="status"
          data-testid="envelope-verdict"
          className={`mt-1 text-[12.5px] ${verdict.startsWith('Fits') ? 'text-green' : verdict.includes('Fits when turned') ? 'text-amber' : 'text-red'}`}
        >
          {verdict}
        </p>
      )}
      <button
        type="button"
        className="text-[12.5px] text-blue underline"
        onClick={() =>
          recordReferences(ws, 'delete envelope', {
            envelope: null,
            shown: ws.reference.getState().shown.filter((s) => s !== 'envelope'),
          })
        }
      >
        Delete the envelope
      </button>
    </div>
  );
}

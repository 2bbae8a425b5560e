import { CheckBox } from '../../ui/CheckBox.tsx';
import { changeRecords, given } from '../../workspace/keeping/records.ts';
import { home, PLAIN_HOME, upAxis, type HomeSetting } from '@bathyscope/contracts/records';
import { MAX_LENS, MIN_LENS, pipName, pipOf, withLens, type PaneLayout } from '@bathyscope/core/camera';
import { ChevronDown } from 'lucide-react';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import { useShortcut } from '../use-shortcut.ts';
import { setArrangement, setLayout } from '../../commands/look/pane-commands.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { setUpAxis, switchProjection } from '../../commands/look/view-commands.ts';
import { type PivotPolicy } from '../../state/settings-store.ts';
import { Choice } from '../../ui/Choice.tsx';
import { SavedViews } from './SavedViews.tsx';
import { useRecordAt } from '../use-records.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { activePane, modelFrame } from '../../workspace/view/panes.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { capital } from '../../ui/capital.ts';

/** Views: saved ones first, then directions, projection, home, pivot and panes. */
export function ViewsPanel() {
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3 pt-2.5 pb-4">
      <h2 className="font-semibold">Views</h2>
      <SavedViews />
      <Section title="Directions">
        <Directions />
      </Section>
      <Section title="Projection">
        <Projection />
      </Section>
      <Section title="Panes">
        <Panes />
      </Section>
      <Section title="Home and up axis">
        <Home />
      </Section>
      <Section title="Orbit and pivot">
        <Orbiting />
      </Section>
    </div>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <details open className="group mt-3 border-t border-line pt-2">
      <summary className="flex cursor-pointer list-none items-center text-[12px] font-semibold tracking-wider text-soft uppercase">
        <span className="flex-1">{title}</span>
        <ChevronDown size={14} className="-rotate-90 group-open:rotate-0" aria-hidden />
      </summary>
      <div className="mt-1.5 space-y-1.5">{children}</div>
    </details>
  );
}

/** A button for a command, with its key. */
function CommandButton({ id, on, children }: { id: string; on?: boolean; children?: ReactNode }) {
  const ws = useWorkspace();
  const command = commandById(id);
  const key = useShortcut(command);
  return (
    <button
      type="button"
      aria-pressed={on}
      title={key ? `${command.name} (${key})` : command.name}
      onClick={() => runCommand(ws, command)}
      className={`flex min-w-0 items-center justify-between gap-1 rounded border px-1.5 py-0.5 text-left text-[12.5px] ${on ? 'border-magenta bg-magenta-wash text-magenta' : 'border-line bg-paper hover:bg-hover'}`}
    >
      <span className="truncate">{children ?? command.name}</span>
      {key && <kbd className="figures text-[11px] text-soft">{key}</kbd>}
    </button>
  );
}

function Directions() {
  const ws = useWorkspace();
  const orientation = useStore(ws.camera, (s) => (s.panes[s.active] ?? s.panes[0]).camera.orientation);
  const at = pipOf(orientation, useSeen(modelFrame));
  const button = (name: string) => (
    <CommandButton
      key={name}
      id={`look-${name.replaceAll(' ', '-')}`}
      on={at !== null && pipName(at) === name}
    >
      {capital(name)}
    </CommandButton>
  );
  const corners = [
    'front left top',
    'front right top',
    'back left top',
    'back right top',
    'front left bottom',
    'front right bottom',
    'back left bottom',
    'back right bottom',
  ];
  return (
    <>
      <div className="grid grid-cols-3 gap-1">
        {['front', 'left', 'top', 'back', 'right', 'bottom'].map(button)}
      </div>
      <p className="text-[12.5px] text-soft">Isometric, from</p>
      <div className="grid grid-cols-2 gap-1">{corners.map(button)}</div>
      <div className="grid grid-cols-2 gap-1">
        <CommandButton id="dimetric">Dimetric</CommandButton>
        <CommandButton id="trimetric">Trimetric</CommandButton>
      </div>
      <p className="text-[12px] text-soft">
        Dimetric after ISO 5456-3; trimetric from 35° beside and 25° above the front. Edge views are on the
        bearing globe.
      </p>
      <div className="grid grid-cols-2 gap-1">
        <CommandButton id="normal-to" />
        <CommandButton id="across-edge" />
      </div>
    </>
  );
}

const DEGREES = 180 / Math.PI;

function Projection() {
  const ws = useWorkspace();
  const camera = useStore(ws.camera, (s) => (s.panes[s.active] ?? s.panes[0]).camera);
  const perspective = camera.projection === 'perspective';
  return (
    <>
      <Choice
        label="Projection"
        value={camera.projection}
        options={[
          ['orthographic', 'Orthographic'],
          ['perspective', 'Perspective'],
        ]}
        onChange={() => switchProjection(ws)}
      />
      <label className={`flex items-center gap-2 text-[13px] ${perspective ? '' : 'text-soft'}`}>
        Lens angle
        <input
          type="range"
          className="min-w-0 flex-1 accent-(--blue)"
          min={Math.round(MIN_LENS * DEGREES)}
          max={Math.round(MAX_LENS * DEGREES)}
          value={Math.round(camera.lens * DEGREES)}
          disabled={!perspective}
          onChange={(e) => {
            const lens = Number(e.target.value) / DEGREES;
            ws.camera.getState().setCamera(withLens(activePane(ws).camera, lens));
            changeSettings(ws, { lens });
          }}
        />
        <span className="figures w-9 text-right">{Math.round(camera.lens * DEGREES)}°</span>
      </label>
    </>
  );
}

const LAYOUTS: [PaneLayout, string][] = [
  ['one', 'One'],
  ['beside', 'Beside'],
  ['above', 'Above'],
  ['four', 'Four'],
];

function Panes() {
  const ws = useWorkspace();
  const layout = useStore(ws.camera, (s) => s.layout);
  const arrangement = useStore(ws.profile, (s) => s.arrangement);
  return (
    <>
      <Choice label="Panes" value={layout} options={LAYOUTS} onChange={(layout) => setLayout(ws, layout)} />
      <Choice
        label="Arrangement of linked panes"
        value={arrangement}
        options={[
          ['third angle', 'Third angle'],
          ['first angle', 'First angle'],
        ]}
        onChange={(arrangement) => setArrangement(ws, arrangement)}
      />
      <p className="text-[12px] text-soft">
        Linked panes show the main one from its own sides. The pane under the cursor takes commands.
      </p>
    </>
  );
}

function Home() {
  const ws = useWorkspace();
  const { view, framesVisible } = useRecordAt(home, '') ?? PLAIN_HOME;
  const axis = useRecordAt(upAxis, '')?.axis ?? 'z';
  const set = (name: string, to: HomeSetting) => changeRecords(ws, name, [given(ws, home, to)]);
  return (
    <>
      <div className="grid grid-cols-2 gap-1">
        <CommandButton id="set-home">Set to this view</CommandButton>
        <button
          type="button"
          disabled={!view}
          className="rounded border border-line bg-paper px-2 py-0.5 text-left text-[13px] hover:bg-hover disabled:text-soft"
          onClick={() => set('isometric Home', PLAIN_HOME)}
        >
          Isometric again
        </button>
      </div>
      <CheckBox
        className="text-[13px]"
        checked={framesVisible}
        onChange={(on) => set('what Home frames', { view, framesVisible: on })}
      >
        Frame what is visible on going home
      </CheckBox>
      <Choice
        label="Up axis"
        value={axis}
        options={[
          ['z', 'Z up'],
          ['y', 'Y up'],
        ]}
        onChange={(to) => setUpAxis(ws, to)}
      />
    </>
  );
}

const POLICIES: [PivotPolicy, string][] = [
  ['kept', 'Kept where it was put'],
  ['cursor', 'Under the cursor at each drag'],
  ['picked', 'The picked thing'],
  ['centre', 'The middle of the model'],
];

function Orbiting() {
  const ws = useWorkspace();
  const { orbitMode, pivotPolicy, pivotGlides } = useStore(ws.profile);
  return (
    <>
      <Choice
        label="Orbit"
        value={orbitMode}
        options={[
          ['turntable', 'Turntable'],
          ['free', 'Free'],
        ]}
        onChange={(mode) => changeSettings(ws, { orbitMode: mode })}
      />
      <label className="flex items-center gap-2 text-[13px]">
        Pivot
        <select
          value={pivotPolicy}
          onChange={(e) => changeSettings(ws, { pivotPolicy: e.target.value as PivotPolicy })}
          className="h-7 min-w-0 flex-1 rounded border border-border bg-well px-1"
        >
          {POLICIES.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <CheckBox
        className="text-[13px]"
        checked={pivotGlides}
        onChange={(on) => changeSettings(ws, { pivotGlides: on })}
      >
        Pivot glides to the middle while orbiting
      </CheckBox>
      <div className="grid grid-cols-2 gap-1">
        {['pivot-home', 'hinge', 'hinge-x', 'hinge-y', 'hinge-z', 'hinge-off'].map((id) => (
          <CommandButton key={id} id={id}>
            {id === 'pivot-home' ? 'Pivot to the middle' : undefined}
          </CommandButton>
        ))}
      </div>
    </>
  );
}

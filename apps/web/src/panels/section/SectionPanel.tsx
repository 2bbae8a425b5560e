import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import type { Combination } from '@bathyscope/core/math';
import { ChevronDown, Eye, EyeOff, PanelRight } from 'lucide-react';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { abandonSection, acceptSection, recordSection } from '../../commands/cut/section-changes.ts';
import { addPlane } from '../../commands/cut/make-planes.ts';
import { Choice } from '../../ui/Choice.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { CutFigures } from './CutFigures.tsx';
import { KeptSections } from './KeptSections.tsx';
import { KeptWhole } from './KeptWhole.tsx';
import { PlaneCard } from './PlaneCard.tsx';
import { LengthField } from '../LengthField.tsx';
import { useWorkspace } from '../use-workspace.ts';

const NEW = [
  ['section-x', 'X'],
  ['section-y', 'Y'],
  ['section-z', 'Z'],
  ['section-eye', 'Facing the eye'],
] as const;
const MORE = [
  'section-face',
  'section-points',
  'section-edge',
  'section-axis',
  'section-slab',
  'section-quarter',
  'section-box',
] as const;
const COMBINATIONS: [Combination, string][] = [
  ['any', 'What any removes'],
  ['all', 'What all remove'],
];

/** The planes that cut the model, what they leave whole, and the figures of what they cut. */
export function SectionPanel() {
  const ws = useWorkspace();
  const { planes, on, combine, before, step } = useStore(ws.section);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3 pt-2.5 pb-4">
      <Head />
      <div className="mt-1.5 flex gap-1">
        {NEW.map(([id, name]) => (
          <button
            key={id}
            type="button"
            title={commandById(id).name}
            className="flex-1 rounded border border-line bg-paper px-1.5 py-1 text-[13px] whitespace-nowrap hover:bg-hover"
            onClick={() => runCommand(ws, commandById(id))}
          >
            {name}
          </button>
        ))}
      </div>
      <MorePlanes />
      {!planes.length && (
        <p className="mt-2 text-[13px] text-soft">
          Nothing is cut. Choose a direction, or one of the other planes.
        </p>
      )}
      {before && <Setting />}
      {planes.length > 1 && (
        <div className="mt-2">
          <Choice
            label="What the planes remove together"
            value={combine}
            options={COMBINATIONS}
            onChange={(c) => recordSection(ws, 'combine the planes', { combine: c })}
          />
        </div>
      )}
      <ul className="mt-2 space-y-1.5">
        {planes.map((p) => (
          <PlaneCard key={p.id} plane={p} />
        ))}
      </ul>
      {planes.length > 0 && (
        <div className="mt-1.5 flex items-center gap-2 text-[13px] text-soft">
          <span className="flex-1" title="Arrow keys on the handle or the offset; Alt+↑ and Alt+↓ anywhere">
            Step of the arrow keys
          </span>
          <LengthField
            label="Step of the arrow keys"
            value={step}
            className="w-20"
            check={(mm) => (mm > 0 ? null : 'A step is more than 0.')}
            onChange={(mm) => ws.section.setState({ step: mm })}
          />
        </div>
      )}
      {planes.length > 0 && <KeptWhole />}
      <KeptSections />
      {on && <CutFigures />}
    </div>
  );
}

function Head() {
  const ws = useWorkspace();
  const { planes, on } = useStore(ws.section);
  const flat = useStore(ws.flat, (s) => s.open);
  return (
    <div className="flex items-center">
      <h2 className="flex-1 font-semibold">Section</h2>
      {planes.length > 0 && (
        <IconButton
          icon={PanelRight}
          label={flat ? 'Close the flat view' : 'Flat view of the cut'}
          aria-pressed={flat}
          className={`size-6 ${flat ? 'text-blue' : 'text-soft'}`}
          onClick={() => runCommand(ws, commandById('section-flat'))}
        />
      )}
      {planes.length > 0 && (
        <IconButton
          icon={on ? Eye : EyeOff}
          label={on ? 'All planes off' : 'All planes on'}
          shortcut="K"
          className="size-6 text-soft"
          onClick={() => runCommand(ws, commandById('section'))}
        />
      )}
    </div>
  );
}

/** While a section is being set: what keeps it, and what takes it back. */
function Setting() {
  const ws = useWorkspace();
  return (
    <div
      role="group"
      aria-label="Setting the section"
      className="mt-2 flex items-center gap-1.5 rounded border border-magenta px-2 py-1 text-[13px]"
    >
      <span className="flex-1">Setting the section</span>
      <button
        type="button"
        title="Enter on the handle"
        className="rounded bg-blue px-2 py-0.5 font-medium text-on-blue"
        onClick={() => acceptSection(ws)}
      >
        Accept
      </button>
      <button
        type="button"
        title="Esc"
        className="rounded border border-border px-2 py-0.5 hover:bg-hover"
        onClick={() => abandonSection(ws)}
      >
        Abandon
      </button>
    </div>
  );
}

/** The other ways to make planes; reference planes by their names. */
function MorePlanes() {
  const ws = useWorkspace();
  const references = useStore(ws.reference, (s) => s.planes);
  return (
    <Menu>
      <MenuButton className="mt-1 flex w-full items-center rounded border border-line bg-paper px-2 py-1 text-left text-[13px] hover:bg-hover">
        <span className="flex-1">Other planes</span>
        <ChevronDown size={14} aria-hidden />
      </MenuButton>
      <MenuItems
        anchor="bottom start"
        className="z-50 w-64 rounded-md border border-border bg-panel py-1 text-[14px] text-ink shadow-card"
      >
        {MORE.map((id) => {
          const command = commandById(id);
          return (
            <MenuItem key={id}>
              <button
                type="button"
                className="flex w-full items-center gap-2 px-3 py-1 text-left data-focus:bg-hover"
                onClick={() => runCommand(ws, command)}
              >
                <command.icon size={15} strokeWidth={1.6} aria-hidden />
                {command.name}
              </button>
            </MenuItem>
          );
        })}
        {references.map((p) => (
          <MenuItem key={p.id}>
            <button
              type="button"
              className="block w-full truncate px-3 py-1 pl-9 text-left data-focus:bg-hover"
              onClick={() => {
                const done = addPlane(ws, { origin: p.origin, normal: p.normal }, `at ${p.name}`);
                if (done) ws.history.getState().record(done);
              }}
            >
              At reference plane “{p.name}”
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}

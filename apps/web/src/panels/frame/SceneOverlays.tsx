import {
  FRAMES,
  pipKind,
  pipName,
  PIPS,
  viewName,
  type PaneMode,
  type UpAxis,
} from '@bathyscope/core/camera';
import { ChevronDown, X } from 'lucide-react';
import { useStore } from 'zustand';
import { keysOf, shownKey } from '../../commands/keys.ts';
import { setPaneDirection } from '../../commands/look/pane-commands.ts';
import { commandById, COMMANDS } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { type PaneState } from '../../state/camera-store.ts';
import { CaptionHelp } from './CaptionHelp.tsx';
import { CursorNote } from './CursorNote.tsx';
import { EmptyNote, ScaleBar } from './PaneNotes.tsx';
import { Status } from './Status.tsx';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { capital } from '../../ui/capital.ts';

/**
 * What floats over the scene: captions and borders of the panes, the box being drawn, the mode in force,
 * pinned commands.
 */
export function SceneOverlays() {
  return (
    <>
      <PaneCaptions />
      <DrawnBox />
      <ModeNote />
      <PinnedStrip />
      <CursorNote />
    </>
  );
}

function captionOf(pane: PaneState, upAxis: UpAxis, several: boolean): string {
  const name = viewName(pane.camera.orientation, FRAMES[upAxis]);
  const how: Record<PaneMode['kind'], string> = {
    free: several ? 'own' : '',
    fixed: 'fixed',
    linked: pane.mode.kind === 'linked' ? `linked: ${pane.mode.side} of the main pane` : '',
  };
  return [
    name ? capital(name) : 'Turned',
    how[pane.mode.kind],
    pane.camera.projection === 'perspective' ? 'perspective' : '',
  ]
    .filter(Boolean)
    .join(' · ');
}

function PaneCaptions() {
  const ws = useWorkspace();
  const { panes, active, upAxis } = useStore(ws.camera);
  if (panes.length < 2)
    return (
      <>
        <div className="pointer-events-none absolute bottom-2 left-3 flex items-center gap-3 rounded bg-panel/70 px-1 text-[12.5px] text-soft">
          <span className="flex items-center gap-1.5">
            <span data-testid="caption">{captionOf(panes[0], upAxis, false)}</span>
            <CaptionHelp pane={panes[0]} />
          </span>
          <ScaleBar pane={panes[0]} />
        </div>
        <EmptyNote index={0} />
      </>
    );
  return panes.map((pane, i) => (
    <div
      key={pane.id}
      data-testid={`pane-${i}`}
      className={`pointer-events-none absolute border ${i === active ? 'z-10 border-blue' : 'border-line'}`}
      style={{
        left: `${pane.rect.x * 100}%`,
        top: `${pane.rect.y * 100}%`,
        width: `${pane.rect.width * 100}%`,
        height: `${pane.rect.height * 100}%`,
      }}
    >
      <span className="absolute top-1 left-2 flex items-center gap-0.5 rounded bg-panel/70 px-1 text-[12.5px] text-soft has-[select:focus-visible]:outline-2 has-[select:focus-visible]:outline-(--blue)">
        <span data-testid="caption">{captionOf(pane, upAxis, true)}</span>
        {i > 0 && (
          <>
            <ChevronDown size={13} aria-hidden />
            <PaneDirection index={i} mode={pane.mode} />
          </>
        )}
        <span className="relative z-10">
          <CaptionHelp pane={pane} />
        </span>
      </span>
      <span className="absolute bottom-1 left-2 rounded bg-panel/70 px-1">
        <ScaleBar pane={pane} />
      </span>
      <EmptyNote index={i} />
    </div>
  ));
}

const FACES = PIPS.filter((p) => pipKind(p) === 'face' || pipName(p) === 'front right top');

/** What a pane shows: a direction of its own, or a fixed one, or as linked. */
function PaneDirection({ index, mode }: { index: number; mode: PaneMode }) {
  const ws = useWorkspace();
  const value =
    mode.kind === 'fixed' ? pipName(mode.pip) : mode.kind === 'linked' ? `linked ${mode.side}` : 'free';
  return (
    <select
      aria-label={`Direction of pane ${index + 1}`}
      value={value}
      title="Own direction, fixed or linked"
      className="pointer-events-auto absolute inset-0 cursor-pointer opacity-0"
      onChange={(e) => {
        const { value: v } = e.target;
        if (v.startsWith('linked '))
          ws.camera.getState().setMode(index, { kind: 'linked', side: v.slice(7) as 'top' });
        else setPaneDirection(ws, index, FACES.find((p) => pipName(p) === v) ?? null);
      }}
    >
      <option value="free">Own direction</option>
      {FACES.map((p) => (
        <option key={pipName(p)} value={pipName(p)}>
          Fixed: {pipName(p)}
        </option>
      ))}
      {(['top', 'bottom', 'left', 'right'] as const).map((side) => (
        <option key={side} value={`linked ${side}`}>
          Linked: {side} of the main pane
        </option>
      ))}
    </select>
  );
}

function DrawnBox() {
  const ws = useWorkspace();
  const box = useStore(ws.mode, (s) => s.box);
  if (!box) return null;
  return (
    <div
      aria-hidden
      style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
      className={`pointer-events-none absolute border bg-blue/10 ${box.touching ? 'border-dashed border-magenta' : 'border-blue'}`}
    />
  );
}

/** A mode that lasts, and how it ends. */
function ModeNote() {
  const ws = useWorkspace();
  const leftDrag = useStore(ws.mode, (s) => s.leftDrag);
  const hinge = useStore(ws.camera, (s) => s.hinge);
  if (!leftDrag && !hinge) return null;
  return (
    <div className="absolute top-3 left-1/2 z-10 flex -translate-x-1/2 items-center gap-2 rounded-full border border-magenta bg-panel px-3 py-0.5 text-magenta shadow-card">
      {leftDrag ? `${leftDrag.name}: left drag` : `Hinged about ${hinge!.name}`}
      {!leftDrag && hinge?.from && <Status of={[hinge.from]} />}
      <button
        type="button"
        className="flex items-center gap-1 text-[12.5px] text-soft hover:text-ink"
        onClick={() => runCommand(ws, commandById('back-out'))}
      >
        <X size={13} aria-hidden /> Esc ends
      </button>
    </div>
  );
}

/** Commands the user pinned, always at hand in the scene. */
function PinnedStrip() {
  const ws = useWorkspace();
  const pinned = useStore(ws.profile, (s) => s.pinned);
  const ownKeys = useStore(ws.profile, (s) => s.ownKeys);
  const { caps } = useStore(ws.keyboard);
  const commands = pinned.flatMap((id) => COMMANDS.find((c) => c.id === id) ?? []);
  if (!commands.length) return null;
  return (
    <div
      role="toolbar"
      aria-label="Pinned commands"
      className="absolute top-3 left-3 z-10 flex max-w-[45%] flex-wrap gap-0.5 rounded-md border border-line bg-panel p-0.5 shadow-card"
    >
      {commands.map((command) => {
        const [key] = keysOf(ws, command, ownKeys);
        return (
          <button
            key={command.id}
            type="button"
            aria-label={command.name}
            title={`${command.name}${key ? ` (${shownKey(key, caps)})` : ''}\nAlt+click takes it out`}
            className="flex h-7 items-center gap-1 rounded px-1.5 text-[12.5px] hover:bg-hover"
            onClick={(e) =>
              e.altKey
                ? changeSettings(ws, { pinned: pinned.filter((id) => id !== command.id) })
                : runCommand(ws, command)
            }
          >
            <command.icon size={15} strokeWidth={1.6} aria-hidden />
            {command.name}
          </button>
        );
      })}
    </div>
  );
}

import { ChevronDown, ChevronUp, Mouse, Plus } from 'lucide-react';
import { pipName, pipOf, VIEW_PAD } from '@bathyscope/core/camera';
import { presetOfStyle } from '@bathyscope/core/style';
import { useStore } from 'zustand';
import { shownKey } from '../../commands/keys.ts';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { saveView, showSavedView } from '../../commands/keep/saved-views.ts';
import { recordStyle } from '../../commands/look/style-commands.ts';
import { gestureMapOf, presetOf } from '../../scene/input/active-gestures.ts';
import { hintOf, PRESETS } from '../../state/gestures.ts';
import { nameOfDatum } from '../../workspace/picking/datums.ts';
import { kindName } from '../../workspace/measuring/figures.ts';
import { trailOf } from '../../state/trail-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { probe } from '../../workspace/picking/probe.ts';
import { savedView } from '@bathyscope/contracts/records';
import { useRecords } from '../use-records.ts';
import { useDerived, useSeen } from '../use-derived.ts';
import { useShortcut } from '../use-shortcut.ts';
import { useWorkspace } from '../use-workspace.ts';
import { ViewPicture } from '../views/ViewPicture.tsx';
import { modelFrame } from '../../workspace/view/panes.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { allPresets } from '../../workspace/view/styles.ts';
import { capital } from '../../ui/capital.ts';

/** The view pad, ways back to the model, the saved views, and what the mouse does now: always in sight. */
export function ViewStrip() {
  const ws = useWorkspace();
  const chosen = useStore(ws.profile, (s) => s.stripFolded);
  const small = useStore(ws.mode, (s) => s.stripFolded);
  const folded = chosen || small;
  return (
    <footer
      className={`relative flex shrink-0 items-center gap-3 border-t border-line bg-panel px-3 ${folded ? 'h-8' : 'h-[92px]'}`}
    >
      {!folded && <ViewPad />}
      <Ways folded={folded} />
      {!folded && <FilmStrip />}
      {folded && <span className="flex-1" />}
      <Status folded={folded} />
      <IconButton
        icon={folded ? ChevronUp : ChevronDown}
        label={folded ? 'Unfold the strip' : 'Fold the strip'}
        onClick={() => {
          ws.mode.setState({ stripFolded: false });
          changeSettings(ws, { stripFolded: !folded });
        }}
      />
    </footer>
  );
}

/** Corner marks of the isometrics: which corner the eye is at. */
const CORNERS: Record<string, string> = { KeyQ: '◤', KeyE: '◥', KeyZ: '◣', KeyC: '◢' };

/** Nine views as an unfolded projection, by the place of their keys. */
function ViewPad() {
  const ws = useWorkspace();
  const orientation = useStore(ws.camera, (s) => (s.panes[s.active] ?? s.panes[0]).camera.orientation);
  const at = pipOf(orientation, useSeen(modelFrame));
  const { caps } = useStore(ws.keyboard);
  return (
    <div
      role="group"
      aria-label="View pad"
      className="grid shrink-0 grid-cols-[repeat(3,62px)] grid-rows-[repeat(3,25px)] gap-px overflow-hidden rounded border border-line bg-line"
    >
      {Object.entries(VIEW_PAD).map(([code, pip]) => {
        const name = pipName(pip);
        const on = at?.join() === pip.join();
        return (
          <button
            key={code}
            type="button"
            aria-label={`Look from ${name}`}
            aria-pressed={on}
            title={`Look from ${name} (${shownKey(`@${code}`, caps)}), with Shift from behind`}
            className={`flex items-center gap-1 px-1.5 text-[12px] ${on ? 'bg-magenta-wash font-medium text-magenta' : 'bg-paper hover:bg-hover'}`}
            onClick={(e) =>
              runCommand(ws, commandById(`${e.shiftKey ? 'behind' : 'look'}-${name.replaceAll(' ', '-')}`))
            }
          >
            <kbd className={`figures text-[10.5px] ${on ? '' : 'text-soft'}`}>
              {shownKey(`@${code}`, caps)}
            </kbd>
            {CORNERS[code] ?? capital(name)}
          </button>
        );
      })}
    </div>
  );
}

const WAYS = ['home', 'fit', 'trail-back', 'trail-forward'] as const;
const SHORT: Record<string, string> = {
  home: 'Home',
  fit: 'Fit all',
  'trail-back': 'Back',
  'trail-forward': 'Forward',
};

function Ways({ folded }: { folded: boolean }) {
  const ws = useWorkspace();
  const key = useShortcut(commandById('projection'));
  const projection = useStore(ws.camera, (s) => (s.panes[s.active] ?? s.panes[0]).camera.projection);
  const id = useStore(ws.camera, (s) => (s.panes[s.active] ?? s.panes[0]).id);
  const trail = useStore(ws.trail, (s) => trailOf(s.trails, id));
  const ended: Record<string, boolean> = {
    'trail-back': trail.at <= 0,
    'trail-forward': trail.at >= trail.views.length - 1,
  };
  return (
    <div className={`shrink-0 ${folded ? 'flex gap-1' : 'grid grid-flow-col grid-rows-2 gap-1'}`}>
      {WAYS.map((way) => (
        <Way key={way} way={way} ended={ended[way] ?? false} folded={folded} />
      ))}
      <button
        type="button"
        title={`Orthographic or perspective (${key})`}
        aria-label={`Projection: ${projection}`}
        onClick={() => runCommand(ws, commandById('projection'))}
        className={`rounded border border-line bg-paper px-2 text-[13px] hover:bg-hover ${folded ? 'h-6' : 'h-[36px]'}`}
      >
        {projection === 'orthographic' ? 'Ortho' : 'Perspective'}
      </button>
      <SectionSwitch folded={folded} />
      <StyleSwitch folded={folded} />
    </div>
  );
}

function Way({ way, ended, folded }: { way: string; ended: boolean; folded: boolean }) {
  const ws = useWorkspace();
  const command = commandById(way);
  const key = useShortcut(command);
  return (
    <button
      type="button"
      aria-disabled={ended}
      title={`${command.name} (${key})`}
      onClick={() => runCommand(ws, command)}
      className={`flex items-center gap-1.5 rounded border border-line bg-paper px-2 text-[13px] hover:bg-hover ${ended ? 'text-soft' : ''} ${folded ? 'h-6' : 'h-[36px]'}`}
    >
      <command.icon size={15} strokeWidth={1.6} aria-hidden />{' '}
      <span className="max-[819px]:sr-only">{SHORT[way]}</span>
    </button>
  );
}

function SectionSwitch({ folded }: { folded: boolean }) {
  const ws = useWorkspace();
  const cuts = useStore(ws.section, (s) => s.on && s.planes.some((p) => p.on));
  const command = commandById('section');
  const key = useShortcut(command);
  return (
    <button
      type="button"
      aria-label={command.name}
      aria-pressed={cuts}
      title={`${command.name} (${key})`}
      onClick={() => runCommand(ws, command)}
      className={`flex items-center gap-1.5 rounded border px-2 text-[13px] ${cuts ? 'border-blue bg-blue text-on-blue' : 'border-line bg-paper hover:bg-hover'} ${folded ? 'h-6' : 'h-[36px]'}`}
    >
      <command.icon size={15} strokeWidth={1.6} aria-hidden /> Section
    </button>
  );
}

function StyleSwitch({ folded }: { folded: boolean }) {
  const ws = useWorkspace();
  const pane = useStore(ws.camera, (s) => (s.panes[s.active] ?? s.panes[0]).id);
  const style = useStore(ws.style, (s) => s.panes[pane] ?? s.style);
  const presets = useSeen(allPresets);
  return (
    <select
      aria-label="Style"
      title="Style (V for the next one)"
      value={presetOfStyle(style, presets)?.id ?? ''}
      className={`max-w-24 rounded border border-line bg-paper px-1 text-[12.5px] hover:bg-hover ${folded ? 'h-6' : 'row-span-2'}`}
      onChange={(e) => {
        const preset = presets.find((p) => p.id === e.target.value);
        if (preset) recordStyle(ws, `style ${preset.name}`, preset.style);
      }}
    >
      <option value="" disabled>
        Own style
      </option>
      {presets.map((p) => (
        <option key={p.id} value={p.id}>
          {p.name}
        </option>
      ))}
    </select>
  );
}

function FilmStrip() {
  const ws = useWorkspace();
  const views = useRecords(savedView);
  const { current } = useStore(ws.savedViews);
  return (
    <ol aria-label="Saved views" className="flex min-w-0 flex-1 gap-2 self-stretch overflow-x-auto py-1.5">
      {views.map((view) => (
        <li key={view.id} className="w-[104px] shrink-0">
          <button
            type="button"
            aria-label={`Recall ${view.name}`}
            aria-current={view.id === current}
            title={view.slot ? `${view.name} (${view.slot})` : view.name}
            className="block w-full text-left"
            onClick={() => showSavedView(ws, view)}
          >
            <span
              className={`block h-[56px] overflow-hidden rounded border bg-linear-to-b from-(--shoal-top) to-(--shoal-bottom) ${view.id === current ? 'border-2 border-magenta' : 'border-line'}`}
            >
              <ViewPicture id={view.id} />
            </span>
            <span
              className={`block truncate text-[12px] ${view.id === current ? 'text-magenta' : 'text-soft'}`}
            >
              {view.slot && <kbd className="figures mr-1 text-[11px]">{view.slot}</kbd>}
              {view.name}
            </span>
          </button>
        </li>
      ))}
      <li className="shrink-0">
        <button
          type="button"
          aria-label="Save this view"
          title="Save this view; hold a number key to store it in that slot"
          onClick={() => saveView(ws)}
          className="grid h-[56px] w-12 place-items-center rounded border border-dashed border-border text-soft hover:bg-hover"
        >
          <Plus size={16} aria-hidden />
        </button>
        <span className="block text-center text-[12px] text-soft">Save</span>
      </li>
    </ol>
  );
}

/** What the buttons do right now, in a few words. */
function useHint(): { text: string; mode: boolean } {
  const ws = useWorkspace();
  const { waiting, repeating, collected } = useStore(ws.waiting);
  const leftDrag = useStore(ws.mode, (s) => s.leftDrag);
  const hinge = useStore(ws.camera, (s) => s.hinge);
  const settings = useStore(ws.profile);
  if (waiting)
    return {
      text: `${waiting.name}: click ${waiting.needs === 'components' ? 'a component' : waiting.count ? `point ${collected.length + 1} of ${waiting.count}` : 'what it is for'}${repeating ? ', and the next' : ''}; Esc ends`,
      mode: true,
    };
  if (leftDrag) return { text: `${leftDrag.name}: drag with the left button; Esc ends`, mode: true };
  const hint = hintOf(gestureMapOf(settings));
  return { text: hinge ? `${hint} (hinged)` : hint, mode: false };
}

/** Tells who does not see it what keys point at, and its figure. */
function Pointed({ probe }: { probe: string | null }) {
  const ws = useWorkspace();
  const walked = useStore(ws.pointer, (s) => s.walked);
  const hover = useStore(ws.selection, (s) => s.hover);
  const name = useSeen(
    (now) => hover && (now.model.getState().byPath.get(hover.component)?.name ?? nameOfDatum(now, hover)),
  );
  return (
    <p aria-live="polite" className="sr-only" data-testid="pointed">
      {walked && hover ? [`${kindName(hover)} of ${name}`, ...(probe ? [probe] : [])].join('. ') : ''}
    </p>
  );
}

function Status({ folded }: { folded: boolean }) {
  const ws = useWorkspace();
  const settings = useStore(ws.profile);
  const picked = useStore(ws.selection, (s) => s.picked);
  const first = useSeen((now) => {
    const [item] = now.selection.getState().picked;
    if (item?.datum !== undefined) return nameOfDatum(now, item);
    return item && `1 ${kindName(item)} of ${now.model.getState().byPath.get(item.component)?.name ?? '…'}`;
  });
  const hint = useHint();
  const here = useDerived(probe);
  const said =
    picked.length === 0
      ? 'Nothing picked'
      : picked.length === 1
        ? `Picked: ${first}`
        : `Picked: ${picked.length} things`;
  // What a waiting command wants goes first; a probe is for the eye, and would be read out at every move.
  const probed = hint.mode || settings.probe !== 'line' ? null : here;
  return (
    <div
      className={`min-w-0 border-line text-[12.5px] text-soft ${folded ? 'flex items-center gap-4' : 'w-[244px] shrink-0 border-l pl-3 max-[959px]:sr-only'}`}
    >
      <select
        aria-label="Gesture preset"
        title="What the mouse does; Settings › Gestures rebinds it"
        value={presetOf(settings).id}
        onChange={(e) => changeSettings(ws, { gesturePreset: e.target.value })}
        className="-ml-1 max-w-full cursor-pointer rounded bg-transparent font-medium text-ink hover:bg-hover"
      >
        {PRESETS.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      {probed && (
        <p
          aria-hidden
          data-testid="probe"
          className={`text-ink ${folded ? 'truncate' : 'line-clamp-2 min-h-[37px]'}`}
        >
          {probed}
        </p>
      )}
      <Pointed probe={here} />
      <div role="status" className={folded ? 'flex min-w-0 gap-4' : ''}>
        <p
          className={`${probed ? 'sr-only' : folded ? 'truncate' : 'line-clamp-2'} ${hint.mode ? 'font-medium text-magenta' : ''}`}
        >
          <Mouse size={13} className="mr-1 inline" aria-hidden />
          {hint.text}
        </p>
        <p className="truncate">{said}</p>
      </div>
    </div>
  );
}

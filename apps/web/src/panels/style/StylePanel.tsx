import { CheckBox } from '../../ui/CheckBox.tsx';
import { presetOfStyle, STYLE_PRESETS, type ViewStyle } from '@bathyscope/core/style';
import { Save, Trash2 } from 'lucide-react';
import { useState, type ComponentProps, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { v4 as uuid } from 'uuid';
import {
  changeStyle,
  recordStyle,
  setPaneStyle,
  styleComponents,
} from '../../commands/look/style-commands.ts';
import { belowAll } from '../../commands/show/visibility-commands.ts';
import { Choice } from '../../ui/Choice.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { allPresets } from '../../workspace/view/styles.ts';
import { record } from '../../workspace/perform.ts';

/** Presets by purpose, and beneath them each choice on its own. */
export function StylePanel() {
  const ws = useWorkspace();
  const pane = useStore(ws.camera, (s) => s.panes[s.active] ?? s.panes[0]);
  const paneCount = useStore(ws.camera, (s) => s.panes.length);
  const { style: common, panes } = useStore(ws.style);
  const style = panes[pane.id] ?? common;
  const set = (name: string, change: Partial<ViewStyle>) => recordStyle(ws, name, { ...style, ...change });
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3 pt-2.5 pb-4">
      <h2 className="font-semibold">Style</h2>
      {paneCount > 1 && (
        <CheckBox
          className="mt-1 text-[13px]"
          checked={panes[pane.id] !== undefined}
          onChange={(on) => record(ws, setPaneStyle(ws, on))}
        >
          For the pane under the cursor only
        </CheckBox>
      )}
      <Presets style={style} />
      <ForPicked />
      <Rows style={style} set={set} />
    </div>
  );
}

function Presets({ style }: { style: ViewStyle }) {
  const ws = useWorkspace();
  const own = useStore(ws.profile, (s) => s.ownStyles);
  const [name, setName] = useState('');
  const presets = [...STYLE_PRESETS, ...own];
  const now = presetOfStyle(style, presets);
  const save = () => {
    const wanted = name.trim();
    if (!wanted) return;
    changeSettings(ws, {
      ownStyles: [...own.filter((p) => p.name !== wanted), { id: `own-${uuid()}`, name: wanted, style }],
    });
    setName('');
  };
  return (
    <>
      <div role="group" aria-label="Presets" className="mt-2 grid grid-cols-2 gap-1">
        {presets.map((p) => (
          <span key={p.id} className="flex min-w-0">
            <button
              type="button"
              aria-pressed={now?.id === p.id}
              onClick={() => ws.history.getState().record(changeStyle(ws, `style ${p.name}`, p.style))}
              className={`min-w-0 flex-1 rounded border px-2 py-1 text-left text-[13px] break-words ${now?.id === p.id ? 'border-magenta bg-magenta-wash font-medium text-magenta' : 'border-line bg-paper hover:bg-hover'}`}
            >
              {p.name}
            </button>
            {p.id.startsWith('own-') && (
              <IconButton
                icon={Trash2}
                label={`Delete the style ${p.name}`}
                className="size-7 text-soft"
                onClick={() => changeSettings(ws, { ownStyles: own.filter((o) => o.id !== p.id) })}
              />
            )}
          </span>
        ))}
      </div>
      {!now && (
        <form
          className="mt-1.5 flex gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            save();
          }}
        >
          <input
            value={name}
            onChange={(e) => setName(e.target.value)}
            aria-label="Name for this style"
            placeholder="Keep this style as …"
            maxLength={60}
            className="h-7 min-w-0 flex-1 rounded border border-border bg-well px-2"
          />
          <button
            type="submit"
            disabled={!name.trim()}
            aria-label="Save the style"
            className="grid w-8 place-items-center rounded bg-blue text-on-blue disabled:opacity-50"
          >
            <Save size={15} aria-hidden />
          </button>
        </form>
      )}
    </>
  );
}

/** A style for the picked components alone. */
function ForPicked() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const paths = useSeen((now) =>
    belowAll(
      now,
      picked.map((p) => p.component),
    ),
  );
  const presets = useSeen(allPresets);
  if (!paths.length) return null;
  return (
    <label className="mt-2 block text-[13px]">
      Picked components ({paths.length})
      <select
        value=""
        className="mt-0.5 block h-7 w-full rounded border border-border bg-well px-1"
        onChange={(e) => {
          const inverse = styleComponents(
            ws,
            paths,
            presets.find((p) => p.id === e.target.value),
          );
          if (inverse) ws.history.getState().record(inverse);
        }}
      >
        <option value="" disabled>
          Give them a style of their own …
        </option>
        <option value="none">As the pane</option>
        {presets.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
    </label>
  );
}

type Set = (name: string, change: Partial<ViewStyle>) => void;

function Row({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mt-2.5">
      <p className="mb-0.5 text-[12.5px] text-soft">{title}</p>
      {children}
    </div>
  );
}

function ChoiceRow<T extends string>(props: ComponentProps<typeof Choice<T>>) {
  return (
    <Row title={props.label}>
      <Choice {...props} />
    </Row>
  );
}

type Way<K extends keyof ViewStyle> = ViewStyle[K] extends boolean ? 'on' | 'off' : ViewStyle[K] & string;

/** One row of a style: which of some ways a thing is drawn. */
const way = <K extends keyof ViewStyle>(key: K, label: string, options: (readonly [Way<K>, string])[]) => ({
  key,
  label,
  options: options as (readonly [string, string])[],
});

const WAYS = [
  way('hiddenEdges', 'Hidden edges', [
    ['off', 'Off'],
    ['thin', 'Thin'],
    ['dashed', 'Dashed'],
    ['full', 'Full'],
  ]),
  way('smoothEdges', 'Smooth edges', [
    ['off', 'Off'],
    ['thin', 'Thin'],
    ['on', 'On'],
  ]),
  way('outlines', 'Outlines of curved faces', [
    ['off', 'Off'],
    ['on', 'On'],
  ]),
  way('stroke', 'Stroke', [
    ['ruled', 'Ruled'],
    ['hand-drawn', 'Hand-drawn'],
  ]),
  way('caps', 'Cut faces', [
    ['hatched', 'Hatched'],
    ['plain', 'Plain'],
    ['tinted', 'One tint'],
  ]),
  way('background', 'Background', [
    ['theme', 'Water'],
    ['white', 'White'],
    ['grey', 'Grey'],
    ['dark', 'Dark'],
  ]),
];

function Rows({ style, set }: { style: ViewStyle; set: Set }) {
  return (
    <div className="mt-3 border-t border-line pt-1">
      <Row title="Surface">
        <select
          aria-label="Surface"
          value={style.surface}
          onChange={(e) => set('surface', { surface: e.target.value as ViewStyle['surface'] })}
          className="h-7 w-full rounded border border-border bg-well px-1"
        >
          {[
            ['plain', 'Plain, in the parts’ colours'],
            ['material', 'Material, lit by a studio'],
            ['tint', 'One tint'],
            ['see-through', 'See-through'],
            ['none', 'None'],
          ].map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </Row>
      {style.surface === 'material' && (
        <ChoiceRow
          label="Colours"
          value={style.colours}
          options={[
            ['file', 'The file’s first'],
            ['material', 'The material’s first'],
          ]}
          onChange={(v) => set('colours', { colours: v })}
        />
      )}
      <ChoiceRow
        label="Visible edges"
        value={style.edges ? 'on' : 'off'}
        options={[
          ['off', 'Off'],
          ['on', 'On'],
        ]}
        onChange={(v) => set('visible edges', { edges: v === 'on' })}
      />
      <label className="mt-1.5 flex items-center gap-2 text-[13px]">
        Weight
        <input
          type="range"
          min={1}
          max={4}
          step={0.5}
          value={style.edgeWeight}
          className="min-w-0 flex-1 accent-(--blue)"
          onChange={(e) => set('edge weight', { edgeWeight: Number(e.target.value) })}
        />
        <span className="figures w-12 text-right">{style.edgeWeight} px</span>
      </label>
      {WAYS.map(({ key, label, options }) => {
        const now = style[key];
        return (
          <ChoiceRow
            key={key}
            label={label}
            value={typeof now === 'boolean' ? (now ? 'on' : 'off') : String(now)}
            options={options}
            onChange={(v) => set(label.toLowerCase(), { [key]: typeof now === 'boolean' ? v === 'on' : v })}
          />
        );
      })}
      <div className="mt-2.5 space-y-1">
        {(
          [
            ['shadow', 'Soft shadow'],
            ['ground', 'Ground'],
            ['triangles', 'Triangles of the mesh'],
            ['openEdges', 'Open edges'],
          ] as const
        ).map(([key, name]) => (
          <CheckBox
            key={key}
            className="text-[13px]"
            checked={style[key]}
            onChange={(on) => set(name.toLowerCase(), { [key]: on })}
          >
            {name}
          </CheckBox>
        ))}
      </div>
    </div>
  );
}

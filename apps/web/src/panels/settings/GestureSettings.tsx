import { useState, type PointerEvent as ReactPointer } from 'react';
import { useStore } from 'zustand';
import { gestureMapOf, presetOf } from '../../scene/input/active-gestures.ts';
import {
  ACTION_NAMES,
  ACTIONS_OF,
  actionFor,
  gestureName,
  GESTURES,
  LEFT,
  MIDDLE,
  PRESETS,
  RIGHT,
  type GestureAction,
  type GestureMap,
} from '../../state/gestures.ts';
import { useWorkspace } from '../use-workspace.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';
import { capital } from '../../ui/capital.ts';

/**
 * What each gesture does: a drawing that answers to presses, and a table in which
 * each can be bound otherwise.
 */
export function GestureSettings() {
  const ws = useWorkspace();
  const settings = useStore(ws.profile);
  const preset = presetOf(settings);
  const map = gestureMapOf(settings);
  const own = settings.ownGestures[preset.id] ?? {};
  const [lit, setLit] = useState<{ buttons: number; name: string } | null>(null);
  const bind = (name: string, action: GestureAction) => {
    const { [name]: _, ...others } = own;
    const same = (preset.map[name] ?? 'none') === action;
    changeSettings(ws, {
      ownGestures: { ...settings.ownGestures, [preset.id]: same ? others : { ...others, [name]: action } },
    });
  };
  return (
    <div className="space-y-4">
      <div className="flex items-start gap-6">
        <div className="flex-1 space-y-2">
          <label className="block">
            Preset
            <select
              value={preset.id}
              onChange={(e) => changeSettings(ws, { gesturePreset: e.target.value })}
              className="mt-0.5 block h-8 w-full rounded border border-border bg-well px-2"
            >
              {PRESETS.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-2">
            Zoom speed
            <input
              type="range"
              min={0.3}
              max={3}
              step={0.1}
              value={settings.zoomSpeed}
              className="flex-1 accent-(--blue)"
              onChange={(e) => changeSettings(ws, { zoomSpeed: Number(e.target.value) })}
            />
            <span className="figures w-10 text-right">{settings.zoomSpeed.toFixed(1)}×</span>
          </label>
          <button
            type="button"
            disabled={!Object.keys(own).length}
            className="rounded border border-border px-2 py-1 hover:bg-hover disabled:text-soft"
            onClick={() => changeSettings(ws, { ownGestures: { ...settings.ownGestures, [preset.id]: {} } })}
          >
            {Object.keys(own).length
              ? `Undo your ${Object.keys(own).length} own binding${Object.keys(own).length > 1 ? 's' : ''}`
              : 'As the preset has it'}
          </button>
        </div>
        <Device map={map} lit={lit} onLit={setLit} />
      </div>
      <GestureTable map={map} own={own} lit={lit?.name} bind={bind} />
    </div>
  );
}

interface TableProps {
  map: GestureMap;
  /** What is bound otherwise than the preset has it. */
  own: GestureMap;
  lit?: string;
  bind: (name: string, action: GestureAction) => void;
}

/** What each gesture does, to be bound otherwise. */
function GestureTable({ map, own, lit, bind }: TableProps) {
  return (
    <table className="w-full">
      <thead>
        <tr className="text-left text-[12.5px] text-soft">
          <th className="font-normal">Gesture</th>
          <th className="font-normal">Does</th>
          <th className="font-normal">Direction</th>
        </tr>
      </thead>
      <tbody>
        {GESTURES.map((g) => {
          const action = map[g.name] ?? 'none';
          return (
            <tr key={g.name} className={`border-t border-line ${lit === g.name ? 'bg-magenta-wash' : ''}`}>
              <td className="py-0.5">
                {capital(g.name)}
                {own[g.name] !== undefined && <span className="ml-2 text-[12px] text-magenta">yours</span>}
              </td>
              <td>
                <select
                  aria-label={`What ${g.name} does`}
                  value={action}
                  onChange={(e) => bind(g.name, e.target.value as GestureAction)}
                  className={`h-7 w-full rounded border border-line bg-well px-1 ${action === 'none' ? 'text-soft' : ''}`}
                >
                  {ACTIONS_OF[g.kind].map((a) => (
                    <option key={a} value={a}>
                      {ACTION_NAMES[a]}
                    </option>
                  ))}
                </select>
              </td>
              <td className="pl-3">
                {action === 'zoom' && <ZoomDirection name={g.name} wheel={g.kind !== 'drag'} />}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Which way a zoom gesture brings the model nearer. */
function ZoomDirection({ name, wheel }: { name: string; wheel: boolean }) {
  const ws = useWorkspace();
  const inverted = useStore(ws.profile, (s) => s.invertedZooms);
  const other = inverted.includes(name);
  const ways = wheel
    ? ['Away from the hand = nearer', 'Towards the hand = nearer']
    : ['Up = nearer', 'Down = nearer'];
  return (
    <select
      aria-label={`Zoom direction of ${name}`}
      value={other ? 1 : 0}
      className="h-7 rounded border border-line bg-well px-1 text-[13px]"
      onChange={(e) =>
        changeSettings(ws, {
          invertedZooms: e.target.value === '1' ? [...inverted, name] : inverted.filter((n) => n !== name),
        })
      }
    >
      {ways.map((way, i) => (
        <option key={way} value={i}>
          {way}
        </option>
      ))}
    </select>
  );
}

/** Rectangles that the outline of the mouse clips. */
const BUTTONS: [bit: number, x: number, y: number, width: number, height: number, radius: number][] = [
  [LEFT, 10, 8, 50, 70, 0],
  [RIGHT, 60, 8, 50, 70, 0],
  [MIDDLE, 53, 26, 14, 34, 7],
];

/** A mouse: pressing a button over it lights it and names what its drag does. */
function Device({
  map,
  lit,
  onLit,
}: {
  map: GestureMap;
  lit: { buttons: number; name: string } | null;
  onLit: (lit: { buttons: number; name: string } | null) => void;
}) {
  const press = (e: ReactPointer) => {
    e.preventDefault();
    if (!e.buttons) return onLit(null);
    onLit({ buttons: e.buttons, name: gestureName('drag', e.buttons, modifiersOf(e)) });
  };
  return (
    <div
      className="flex w-56 flex-col items-center rounded border border-line bg-well p-2 select-none"
      onPointerDown={press}
      onPointerMove={(e) => lit && e.buttons !== lit.buttons && press(e)}
      onPointerUp={press}
      onPointerLeave={() => onLit(null)}
      onContextMenu={(e) => e.preventDefault()}
      data-testid="device"
    >
      <svg
        viewBox="0 0 120 170"
        className="h-40"
        role="img"
        aria-label="Mouse: press a button here to see what it does"
      >
        <clipPath id="mouse">
          <rect x="10" y="8" width="100" height="154" rx="50" />
        </clipPath>
        <rect x="10" y="8" width="100" height="154" rx="50" fill="var(--panel)" />
        <g clipPath="url(#mouse)">
          {BUTTONS.map(([bit, x, y, width, height, radius]) => (
            <rect
              key={bit}
              x={x}
              y={y}
              width={width}
              height={height}
              rx={radius}
              fill={lit && lit.buttons & bit ? 'var(--magenta)' : 'var(--paper)'}
              stroke="var(--border)"
              strokeWidth="1.5"
            />
          ))}
        </g>
        <rect
          x="10"
          y="8"
          width="100"
          height="154"
          rx="50"
          fill="none"
          stroke="var(--border)"
          strokeWidth="2"
        />
      </svg>
      <p aria-live="polite" className="min-h-10 text-center text-[13px]">
        {lit ? (
          <>
            <strong>{capital(lit.name)}</strong>
            <br />
            {ACTION_NAMES[actionFor(map, 'drag', lit.buttons, parseModifiers(lit.name))]}
          </>
        ) : (
          <span className="text-soft">Press a button here, with Ctrl, Shift or Alt as you like</span>
        )}
      </p>
    </div>
  );
}

const modifiersOf = (e: ReactPointer) => ({ ctrl: e.ctrlKey || e.metaKey, shift: e.shiftKey, alt: e.altKey });
const parseModifiers = (name: string) => ({
  ctrl: name.includes('Ctrl+'),
  shift: name.includes('Shift+'),
  alt: name.includes('Alt+'),
});

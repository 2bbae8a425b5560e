import { useCallback } from 'react';
import { formatQuantity } from '@bathyscope/core/units';
import type { WallMap } from '@bathyscope/core/walls';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { whereOf } from '../../workspace/measuring/figures.ts';
import {
  mapWalls,
  stopWalls,
  thinnestPlace,
  wallAtPick,
  wallColour,
} from '../../workspace/measuring/walls.ts';
import { useUnits } from '../use-units.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { Figures } from './Figures.tsx';

const BUTTON =
  'rounded border border-border bg-paper px-2 py-0.5 text-[13px] hover:bg-hover disabled:opacity-40';

/** The wall where a face was clicked; and all over a part, as colours, with its thinnest place. */
export function WallTab() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const one = picked.length === 1 ? picked[0] : null;
  const wall = useSeen(
    useCallback(
      (now) => (one ? wallAtPick(now, one) : 'Click a face where the wall is to be measured.'),
      [one],
    ),
  );
  const where = useSeen((now) => (one ? whereOf(now, one) : ''));
  return (
    <section aria-label="Wall" className="mt-2">
      {typeof wall === 'string' ? (
        <p className="px-3 text-[13px] text-soft">{wall}</p>
      ) : (
        <>
          <Figures facts={wall.facts} where={where} />
          <p className="px-3 text-[12.5px] text-soft">
            Along the inward normal, and as the largest ball within the material that touches the surface
            here.
          </p>
        </>
      )}
      <WallMapping component={one?.component ?? null} />
    </section>
  );
}

function WallMapping({ component }: { component: string | null }) {
  const ws = useWorkspace();
  const { component: mapped, progress, map, error } = useStore(ws.wall);
  const part = useStore(ws.model, (s) => (component ? s.byPath.get(component)?.part : undefined));
  return (
    <div className="mt-3 border-t border-line px-3 pt-2">
      <h3 className="text-[12px] font-semibold tracking-wider text-soft uppercase">All over a part</h3>
      <div className="mt-1.5 flex gap-2">
        <button
          type="button"
          className={BUTTON}
          disabled={part === undefined || progress !== null}
          onClick={() => mapWalls(ws, component!)}
          title="Colours the picked part by the thickness of its walls"
        >
          Colour by thickness
        </button>
        {(mapped || error) && (
          <button type="button" className={BUTTON} onClick={() => stopWalls(ws)}>
            {progress === null ? 'Take the colours off' : 'Stop'}
          </button>
        )}
      </div>
      {progress !== null && (
        <progress
          value={progress}
          max={1}
          aria-label="Walls measured"
          className="mt-2 w-full accent-(--blue)"
        />
      )}
      {error && (
        <p role="alert" className="mt-1 text-[13px] text-red">
          {error}
        </p>
      )}
      {map && <Legend map={map} />}
    </div>
  );
}

const STEPS = 24;

function Legend({ map: { range } }: { map: WallMap }) {
  const ws = useWorkspace();
  const unit = useUnits();
  const component = useStore(ws.wall, (s) => s.component);
  const thinnest = useSeen(thinnestPlace);
  const say = (mm: number) =>
    Object.values(formatQuantity(mm, 'length', unit))
      .join(' ')
      .trim();
  const css = (share: number) =>
    `rgb(${wallColour(range[0] + share * (range[1] - range[0]), range)
      .map((x) => Math.round(255 * x))
      .join(' ')})`;
  const chord = useSeen((now) => {
    const { byPath, parts } = now.model.getState();
    const part = byPath.get(component ?? '')?.part;
    return (part === undefined ? undefined : parts.get(part))?.geometry.chordTolerance ?? 0;
  });
  return (
    <div className="mt-2 text-[13px]">
      {thinnest && (
        <p>
          Thinnest{' '}
          <button
            type="button"
            className="figures rounded font-medium text-magenta hover:underline"
            title="Bring it into view"
            onClick={() => {
              ws.selection.getState().pick([{ kind: 'component', component: component!, index: 0 }]);
              runCommand(ws, commandById('fit-picked'));
              ws.selection.getState().pick([]);
            }}
          >
            {say(thinnest.thickness)}
          </button>
          <span className="text-soft">, from the mesh, within {say(2 * chord)}</span>
        </p>
      )}
      <div
        className="mt-1.5 h-3 rounded border border-border"
        role="img"
        aria-label={`Colours from ${say(range[0])} to ${say(range[1])} and more`}
        style={{
          background: `linear-gradient(to right, ${Array.from({ length: STEPS + 1 }, (_, i) => css(i / STEPS)).join(', ')})`,
        }}
      />
      <p className="figures flex justify-between text-[12px] text-soft">
        <span>{say(range[0])}</span>
        <span>{say(range[1])} and more</span>
      </p>
    </div>
  );
}

import { componentColour } from '@bathyscope/core/colours';
import { accuracyOfCut, boundText, figureText, sectionFacts } from '@bathyscope/core/facts';
import type { Vec3 } from '@bathyscope/core/math';
import { aboutPoint, combineSections, toPlane, type SectionProperties } from '@bathyscope/core/section';
import { ALONG_AXIS } from '@bathyscope/core/tolerances';
import { formatQuantity, type LengthUnit, type UnitStyle } from '@bathyscope/core/units';
import { stateOf } from '@bathyscope/core/visibility';
import { memo, useCallback, useState } from 'react';
import { useStore } from 'zustand';
import { commandById } from '../../commands/registry.ts';
import { runCommand } from '../../commands/run-command.ts';
import { type BestCut, type PlaneCut } from '../../state/cut-store.ts';
import { ASKED_ALONE } from '../../workspace/cutting/exact-cuts.ts';
import { cssColour } from '../parts/part-colour.ts';
import { CheckBox } from '../../ui/CheckBox.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { useUnits } from '../use-units.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { figuresOf } from '../../workspace/cutting/cuts.ts';
import { capital } from '../../ui/capital.ts';
import { askExactCut } from '../../workspace/cutting/cutting.ts';

/** The figures of what each plane cuts, of all of it or of one component. */
export const CutFigures = memo(function CutFigures() {
  const ws = useWorkspace();
  const { results, asking, exact } = useStore(ws.cut);
  const shown = results.filter((m) => m.cuts.length);
  const axes = useStore(ws.section, (s) => s.axes);
  if (!shown.length)
    return results.length ? (
      <p className="mt-3 text-[12.5px] text-soft">The section meets nothing that is shown.</p>
    ) : null;
  return (
    <>
      {shown.map((m) => (
        <PlaneFigures key={m.plane.id} plane={m} />
      ))}
      {!asking &&
        shown.reduce((n, m) => n + m.cuts.length, 0) > ASKED_ALONE &&
        !shown.some((m) => exact.has(m.plane.id)) && (
          <button
            type="button"
            className="mt-1 w-full rounded border border-border px-2 py-1 text-[13px] hover:bg-hover"
            onClick={() => askExactCut(ws)}
          >
            Ask for the exact cut of all {shown.reduce((n, m) => n + m.cuts.length, 0)}
          </button>
        )}
      {asking && (
        <p role="status" className="mt-1 text-[12.5px] text-soft">
          Asking for the exact cut …
        </p>
      )}
      <CheckBox
        className="mt-2 text-[13px]"
        checked={axes}
        onChange={() => runCommand(ws, commandById('section-axes'))}
      >
        Centroid and principal axes in the scene
      </CheckBox>
    </>
  );
});

/** Rows beyond this are left out of the list; the sum has them. */
const LISTED = 60;

function PlaneFigures({ plane }: { plane: PlaneCut }) {
  const ws = useWorkspace();
  const unit = useStore(ws.profile, (s) => s.unit);
  const [chosen, setChosen] = useState<number | null>(null);
  const components = useStore(ws.model, (s) => s.components);
  const states = useStore(ws.visibility, (s) => s.states);
  const figures = useSeen(useCallback((now) => figuresOf(now, plane), [plane]));
  const closed = figures
    .filter(({ best }) => best.properties)
    .sort((a, b) => b.best.properties!.area - a.best.properties!.area);
  const one = closed.find(({ cut }) => cut.component === chosen);
  const total = combineSections(closed.map(({ best }) => best.properties!));
  const open = figures.filter(({ cut }) => cut.open.length && !cut.loops.length).length;
  const partly = figures.filter(({ cut }) => cut.open.length && cut.loops.length).length;
  const area = areaText(useUnits());
  return (
    <section aria-label={`Cut of ${plane.plane.name}`} className="mt-3">
      <h3 className="text-[12px] font-semibold tracking-wider text-soft uppercase">
        In the cut of {plane.plane.name}
      </h3>
      <div role="listbox" aria-label="Whose figures are shown">
        {closed.slice(0, LISTED).map(({ cut, best }) => {
          const component = components[cut.component];
          return (
            <button
              key={cut.component}
              type="button"
              role="option"
              aria-selected={chosen === cut.component}
              onClick={() => setChosen(chosen === cut.component ? null : cut.component)}
              className={`flex w-full items-center gap-2 border-b border-line py-0.5 text-left text-[13px] hover:bg-hover ${chosen === cut.component ? 'bg-hover' : ''}`}
            >
              <span
                className="size-2.5 shrink-0 rounded-[2px] border border-black/25"
                style={{ background: cssColour(componentColour(component, stateOf(states, component.path))) }}
              />
              <span className="min-w-0 flex-1 truncate">{component.instanceName ?? component.name}</span>
              <span
                className="figures text-[12.5px] whitespace-nowrap"
                title={best.exact ? undefined : 'From the mesh'}
              >
                {area(best.properties!.area, [best])}
              </span>
            </button>
          );
        })}
      </div>
      {closed.length > LISTED && (
        <p className="text-[12.5px] text-soft">and {closed.length - LISTED} smaller ones</p>
      )}
      {total && (
        <div className="flex justify-between py-0.5 font-medium">
          <span>Area, all {closed.length}</span>
          <span className="figures text-[12.5px]" data-testid="cut-area">
            {area(
              total.area,
              closed.map((f) => f.best),
            )}
          </span>
        </div>
      )}
      {closed.length > 0 && <Quality figures={closed.map((f) => f.best)} unit={unit} />}
      {open + partly > 0 && (
        <p className="text-[12.5px] text-amber">
          {open + partly === 1 ? 'One open mesh is' : `${open + partly} open meshes are`} drawn as an outline;
          what does not close is not capped and has no figures.
        </p>
      )}
      {total && (
        <Details
          plane={plane}
          properties={one?.best.properties ?? total}
          of={
            one ? (components[one.cut.component].instanceName ?? components[one.cut.component].name) : 'all'
          }
        />
      )}
    </section>
  );
}

/** An area as it stands everywhere else, marked where any of what it is of is not exact. */
const areaText =
  (unit: UnitStyle) =>
  (value: number, of: readonly BestCut[]): string => {
    const off = Math.max(...of.map((b) => b.within));
    return figureText(
      { kind: 'area', value },
      accuracyOfCut({ exact: of.every((b) => b.exact) }, off, 0),
      unit,
    );
  };

/** How good the figures are. */
function Quality({ figures, unit }: { figures: BestCut[]; unit: LengthUnit }) {
  const mesh = figures.filter((f) => !f.exact);
  const notes = [...new Set(mesh.flatMap((f) => f.note ?? []))];
  const drawn = Math.max(0, ...figures.filter((f) => f.exact).map((f) => f.within));
  if (!mesh.length)
    return (
      <p className="text-[12.5px] text-soft">
        {drawn > 0 ? (
          <>
            <span className="rounded-full bg-amber-wash px-2 text-[12px] text-amber">within</span>{' '}
            {boundText(drawn, unit)}: free curves are followed in short pieces
          </>
        ) : (
          <span className="rounded-full bg-green-wash px-2 text-[12px] text-green">exact</span>
        )}
      </p>
    );
  const within = Math.max(...mesh.map((f) => f.within));
  // An outline off by the chord tolerance everywhere changes the area by at most that times its length.
  const areas = mesh.reduce((sum, f) => sum + f.within * (f.properties?.perimeter ?? 0), 0);
  return (
    <p className="text-[12.5px] text-soft">
      {mesh.length < figures.length && `${mesh.length} of ${figures.length} `}
      <span className="rounded-full bg-amber-wash px-2 text-[12px] text-amber">from mesh</span> outlines
      within {formatQuantity(within, 'length', unit).text} {unit}, areas within{' '}
      {figureText({ kind: 'area', value: areas }, null, unit)}.
      {notes.length > 0 && ` ${notes.map(capital).join('; ')}.`}
    </p>
  );
}

type About = 'centroid' | 'origin' | 'picked';

function Details({
  plane,
  properties: p,
  of,
}: {
  plane: PlaneCut;
  properties: SectionProperties;
  of: string;
}) {
  const ws = useWorkspace();
  const [about, setAbout] = useState<About>('centroid');
  const picked = useStore(ws.selection, (s) => s.picked.find((i) => i.point)?.point);
  const point: Vec3 | null = about === 'origin' ? [0, 0, 0] : about === 'picked' ? (picked ?? null) : null;
  const other = point && aboutPoint(p, toPlane(plane.frame, point));
  const style = useUnits();
  // Its area stands above, with how good it is.
  const rows = sectionFacts(p, plane.frame, other ?? p).filter(({ label }) => label !== 'Area');
  const direction = (v: Vec3) => {
    const k = v.findIndex((x) => Math.abs(Math.abs(x) - 1) < ALONG_AXIS);
    return k >= 0 ? `${v[k] < 0 ? '−' : '+'}${'XYZ'[k]}` : `(${v.map((x) => x.toFixed(2)).join(' ')})`;
  };
  return (
    <details className="mt-1" open>
      <summary className="cursor-pointer text-[13px]">Second moments of {of}</summary>
      <div className="mt-1">
        <Choice
          label="About which point"
          value={about}
          options={[
            ['centroid', 'Centroid'],
            ['origin', 'Origin'],
            ['picked', 'Picked point'],
          ]}
          onChange={setAbout}
        />
      </div>
      {about === 'picked' && !picked && (
        <p className="mt-1 text-[12.5px] text-amber">
          Pick a point in the scene; its place in the plane is taken.
        </p>
      )}
      <dl>
        {rows.map(({ label, value, note }) => (
          <div
            key={label}
            title={note}
            className="flex items-baseline justify-between gap-2 border-b border-line py-0.5 last:border-0"
          >
            <dt className="text-[13px] whitespace-nowrap text-soft">{label}</dt>
            <dd className="figures text-right text-[12.5px] whitespace-nowrap">
              {figureText(value, null, style)}
            </dd>
          </div>
        ))}
      </dl>
      <p className="text-[12.5px] text-soft">
        x along {direction(plane.frame.u)}, y along {direction(plane.frame.v)}, through{' '}
        {about === 'centroid'
          ? 'the centroid'
          : about === 'origin'
            ? 'the origin’s place in the plane'
            : 'the picked point’s place in the plane'}
        .
      </p>
    </details>
  );
}

import {
  afloat,
  densityText,
  massText,
  NoBallast,
  neutralBallast,
  type Hollow,
  type Immersed,
} from '@bathyscope/core/mass';
import { significant } from '@bathyscope/core/units';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import { pickedPoints, upOf } from '../../workspace/mass/balance.ts';
import {
  floatsNow,
  immersedNow,
  isSealed,
  markSealed,
  sharedAndClosed,
} from '../../workspace/mass/immersed.ts';
import { findMaterial } from '../../workspace/keeping/library.ts';
import { displayedPoint } from '../../workspace/mass/mass-in-system.ts';
import type { MassState } from '../../state/mass-store.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useDerived, useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { Head, LINK, Row, SELECT } from './Head.tsx';
import { MaterialOptions } from './MaterialOptions.tsx';
import { degrees, useMassFormat } from './use-mass-format.ts';

interface Props {
  /** Of the set. */
  setKey: string;
  /** What stands beneath, of what it is under water, and its righting arms where it floats. */
  children: (body: Immersed, afloat: readonly [number[], number[]] | undefined) => ReactNode;
}

type FloatsKnown = ReturnType<typeof floatsNow.known.from>;

/** N with the digits of a spring scale. */
const newton = (n: number, digits = 4): string => `${significant(n, digits)} N`;

/**
 * What the set does in a fluid: how much it displaces, whether it rises or sinks, how it lies, and what would
 * make it neutral.
 */
export function Buoyancy({ setKey, children }: Props) {
  const ws = useWorkspace();
  const fluid = useStore(ws.mass, (s) => s.fluid);
  const body = useDerived(immersedNow);
  const density = useSeen((now) => findMaterial(now, fluid)?.density);
  const up = useSeen(upOf);
  const looked = useDerived(sharedAndClosed.known);
  const floats = useDerived(floatsNow.known);
  return (
    <Head
      title="Buoyancy"
      aside={
        <select
          aria-label="Fluid"
          className={`${SELECT} max-w-40`}
          value={fluid}
          onChange={(e) => ws.mass.setState({ fluid: e.target.value })}
        >
          <MaterialOptions only="Fluid" />
        </select>
      }
    >
      {!body || density === undefined ? (
        <p className="text-[13px] text-soft">Nothing here has a volume, so nothing is displaced.</p>
      ) : (
        <>
          <Found body={body} density={density} />
          {looked.state === 'ready' ? (
            <Hollows hollows={looked.value.hollows} cell={looked.value.cell} />
          ) : (
            <p className="mt-1 text-[12.5px] text-amber">
              Overlaps count twice, and no hollow is sealed.{' '}
              <button
                type="button"
                className="text-blue hover:underline"
                disabled={looked.state === 'pending'}
                onClick={() => ask(ws, sharedAndClosed, { lookedInto: setKey })}
              >
                {looked.state === 'pending' ? 'Looking …' : 'Look for overlaps and hollows'}
              </button>
            </p>
          )}
          {afloat(body, density, up).net > 0 && (
            <Floats floats={floats} ask={() => ask(ws, floatsNow, { floats: setKey })} />
          )}
          <BallastFor body={body} density={density} />
          {children(body, floats.state === 'ready' ? floats.value.floats?.arms : undefined)}
        </>
      )}
    </Head>
  );
}

/** Asks for what takes its time, also for once more where it failed. */
function ask(ws: Workspace, value: typeof sharedAndClosed | typeof floatsNow, of: Partial<MassState>): void {
  ws.mass.setState(of);
  ws.derived.work.again(value);
}

function Found({ body, density }: { body: Immersed; density: number }) {
  const { length, volumeWithin, plain, unit } = useMassFormat();
  const up = useSeen(upOf);
  const centre = useSeen((ws) => displayedPoint(ws, body.centreOfBuoyancy));
  const [displaced, within] = volumeWithin(body.displaced, body.within ?? 0);
  const { lift, within: liftWithin, net, lever, above, trim } = afloat(body, density, up);
  return (
    <dl className="mt-1">
      <Row label="Displaced" value={displaced} />
      {within && <Row label="known to within" value={within} unit={`or ${newton(liftWithin, 2)}`} />}
      <Row label="Lift" value={newton(lift)} unit={`at ${densityText(density)}`} />
      <Row label={net < 0 ? 'Net, sinks' : 'Net, rises'} value={newton(net)} />
      <Row label="Centre of buoyancy" value={centre.map(plain).join('  ')} unit={unit} />
      <Row
        label={above < 0 ? 'Below the centre of gravity' : 'Above the centre of gravity'}
        value={length(Math.abs(above))}
      />
      <Row label="Lever as it lies" value={length(lever)} />
      <Row label="Turns until it is trimmed" value={degrees(trim)} />
    </dl>
  );
}

/** Where it lies in the water that it rises to. */
function Floats({ floats, ask }: { floats: FloatsKnown; ask: () => void }) {
  const { lengthWithin, plain, unit, area } = useMassFormat();
  const found = floats.state === 'ready' ? floats.value.floats : null;
  const centre = useSeen((ws) => (found ? displayedPoint(ws, found.centreOfBuoyancy) : null));
  if (floats.state === 'ready' && !found)
    return (
      <p className="mt-1 text-[12.5px] text-amber">
        It has not enough volume to float. Look for overlaps and hollows first.
      </p>
    );
  if (!found || !centre)
    return (
      <button type="button" className={LINK} disabled={floats.state === 'pending'} onClick={ask}>
        {floats.state === 'pending' ? 'Letting it float …' : 'Let it float'}
      </button>
    );
  const { draught, freeboard, within, waterplane, metacentric } = found;
  const least = metacentric.reduce((low, m) => (m.height < low.height ? m : low));
  const upright =
    Math.abs(least.height) <= least.within
      ? 'too near to tell'
      : least.height > 0
        ? 'floats upright'
        : 'capsizes';
  return (
    <dl className="mt-1" aria-label="Afloat">
      <Row label="Draught" value={lengthWithin(draught, within)} />
      <Row label="Freeboard" value={lengthWithin(freeboard, within)} />
      <Row label="Area in the water line" value={area(waterplane)} />
      <Row label="Centre of buoyancy afloat" value={centre.map(plain).join('  ')} unit={unit} />
      <Row
        label="Metacentric height"
        value={metacentric.map((m) => lengthWithin(m.height, m.within)).join('  ')}
        title="About the two level axes of the righting arms"
      />
      <Row label="As it lies" value={upright} />
    </dl>
  );
}

function Hollows({ hollows, cell }: { hollows: readonly Hollow[]; cell: number }) {
  const ws = useWorkspace();
  const { length, volumeWithin } = useMassFormat();
  const sealed = useSeen((now) => hollows.map((hollow) => isSealed(now, hollow)));
  const said = hollows.map((hollow) => volumeWithin(hollow.volume, hollow.within));
  return (
    <div className="mt-1 text-[12.5px]">
      <p className="text-soft">
        {hollows.length ? 'Closed hollows; mark those that stay dry.' : 'No closed hollow was found.'} Gaps
        narrower than {length(cell)} count as closed.
      </p>
      <ul aria-label="Hollows">
        {hollows.map((hollow, i) => (
          <li key={i}>
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                className="accent-(--blue)"
                checked={sealed[i]}
                onChange={(e) => markSealed(ws, hollow, e.target.checked)}
              />
              <span className="figures flex-1">{said[i][0]}</span>
              {said[i][1] && <span className="figures text-soft">± {said[i][1]}</span>}
            </label>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What is proposed as ballast and as buoyancy. */
const LEAD = 'lead';
const FOAM = 'syntactic-deep';

/** What would make it neutral, put at the picked point, else below or above its centre. */
function BallastFor({ body, density }: { body: Immersed; density: number }) {
  const ws = useWorkspace();
  const ballast = useStore(ws.mass, (s) => s.ballast);
  const up = useSeen(upOf);
  const sinks = afloat(body, density, up).net < 0;
  const chosen = ballast || (sinks ? FOAM : LEAD);
  const material = useSeen((now) => findMaterial(now, chosen));
  const [picked] = useSeen(pickedPoints);
  const at = picked ?? body.centreOfGravity;
  return (
    <div className="mt-1">
      <label className="flex items-center gap-1.5 text-[12.5px] text-soft">
        Made neutral with
        <select
          aria-label="Ballast"
          className={`${SELECT} flex-1 text-ink`}
          value={chosen}
          onChange={(e) => ws.mass.setState({ ballast: e.target.value })}
        >
          <MaterialOptions />
        </select>
      </label>
      {material && (
        <BallastFound
          body={body}
          density={density}
          of={material.density}
          at={at}
          isPicked={picked !== undefined}
        />
      )}
    </div>
  );
}

function BallastFound({
  body,
  density,
  of,
  at,
  isPicked,
}: {
  body: Immersed;
  density: number;
  of: number;
  at: Immersed['centreOfGravity'];
  isPicked: boolean;
}) {
  const { length, volumeWithin } = useMassFormat();
  const up = useSeen(upOf);
  try {
    const found = neutralBallast(body, density, of, at);
    const [volume] = volumeWithin(found.volume, found.within.volume);
    const { above, trim } = afloat(found.with, density, up);
    return (
      <>
        <dl>
          <Row
            label={isPicked ? 'At the picked point' : 'At the centre of gravity'}
            value={massText(found.kg)}
            unit={volume}
          />
          {found.within.kg > 0 && (
            <Row label="known to within" value={massText(Number(found.within.kg.toPrecision(2)))} />
          )}
          <Row
            label={above < 0 ? 'Then below the centre of gravity' : 'Then above the centre of gravity'}
            value={length(Math.abs(above))}
          />
          <Row label="Then turns by" value={degrees(trim)} />
        </dl>
        {!isPicked && <p className="text-[12.5px] text-soft">Pick a point (R) to put it there.</p>}
      </>
    );
  } catch (error) {
    if (error instanceof NoBallast) return <p className="text-[12.5px] text-amber">{error.message}</p>;
    throw error;
  }
}

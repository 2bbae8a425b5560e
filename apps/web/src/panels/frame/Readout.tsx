import type { Questions } from '@bathyscope/contracts';
import { useQuery } from '@tanstack/react-query';
import {
  combineMass,
  describeCut,
  describePick,
  patchDistance,
  piecesIn,
  formatQuantity,
  fixed,
  placeMass,
  type Fact,
  type FactValue,
  type LengthUnit,
  type MassFigures,
  type PickFacts,
  type Vec3,
} from '@bathyscope/core';
import { Check, Copy, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { measuredThing } from '../../workspace/cut-distance.ts';
import { cutOfPick } from '../../workspace/cut-picks.ts';
import { isOfCut, KIND_NAMES, type Picked } from '../../state/selection-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import type { Workspace } from '../../workspace/workspace.ts';
import { useWorkspace } from '../use-workspace.ts';
import { componentsBelow } from '../../workspace/components.ts';
import { bestCut, chordOf, curvesOf } from '../../workspace/cuts.ts';

/** The card that always says what is picked, and its figures. */
export function Readout() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const ready = useStore(ws.model, (s) => s.status === 'ready');
  const flat = useStore(ws.flat, (s) => s.open);
  if (!ready || !picked.length) return null;
  return (
    <section
      aria-label="Readout"
      className={`absolute ${flat ? 'top-12' : 'top-3'} right-3 z-20 flex max-h-[calc(100%-3.5rem)] w-[252px] flex-col overflow-y-auto rounded-md border border-line bg-panel shadow-card`}
    >
      {picked.length === 1 && <OneThing item={picked[0]} />}
      {picked.length === 2 && <TwoThings items={picked} />}
      {picked.length > 2 && <Many items={picked} />}
    </section>
  );
}

const clear = (ws: Workspace): void => ws.selection.getState().pick([]);

function OneThing({ item }: { item: Picked }) {
  const ws = useWorkspace();
  const unit = useStore(ws.profile, (s) => s.unit);
  useStore(ws.cut);
  const facts = factsOf(ws, item);
  if (!facts) return null;
  return (
    <>
      <Heading title={facts.title} where={whereOf(ws, item)} copy={copyText(facts, whereOf(ws, item), unit)} />
      {facts.main && <MainFigure fact={facts.main} unit={unit} facts={facts} />}
      <dl className="px-3 pb-1.5">
        {facts.rows.map((row, i) => (
          <Row key={i} fact={row} unit={unit} />
        ))}
      </dl>
      {!facts.main && facts.accuracy && (
        <p className="px-3 pb-2">
          <AccuracyMark facts={facts} unit={unit} />
        </p>
      )}
    </>
  );
}

function Heading({ title, where, copy }: { title: string; where: string; copy: string }) {
  const ws = useWorkspace();
  const [copied, setCopied] = useState(false);
  const onCopy = () =>
    void navigator.clipboard.writeText(copy).then(() => {
      setCopied(true);
      setTimeout(() => setCopied(false), 1500);
    });
  return (
    <header className="flex items-start gap-1 px-3 pt-2">
      <div className="min-w-0 flex-1">
        <h2 className="font-semibold text-magenta">{title}</h2>
        <p className="truncate text-[12.5px] text-soft" title={where}>
          {where}
        </p>
      </div>
      <IconButton icon={copied ? Check : Copy} label={copied ? 'Copied' : 'Copy the figures'} className="text-soft" onClick={onCopy} />
      <IconButton icon={X} label="Clear the pick" shortcut="Esc" className="-mr-1.5 text-soft" onClick={() => clear(ws)} />
    </header>
  );
}

function MainFigure({ fact, unit, facts }: { fact: Fact; unit: LengthUnit; facts: PickFacts }) {
  const { text, unit: shown } = valueText(fact.value, unit);
  return (
    <p className="flex flex-wrap items-baseline gap-x-2 px-3 py-1" title={fact.label}>
      <span className="figures text-[20px] font-medium" data-testid="main-figure">
        {text}
      </span>
      <span className="figures text-soft">{shown}</span>
      <AccuracyMark facts={facts} unit={unit} />
    </p>
  );
}

function AccuracyMark({ facts, unit }: { facts: PickFacts; unit: LengthUnit }) {
  const { accuracy } = facts;
  if (!accuracy) return null;
  if (accuracy.kind === 'exact')
    return (
      <span className="rounded-full bg-green-wash px-2 text-[12px] text-green" title="From the boundary representation">
        exact
      </span>
    );
  const [text, title] =
    accuracy.kind === 'mesh'
      ? [`from mesh, within ${(accuracy.within * 100).toPrecision(1)} %`, 'Summed over the triangles that stand for the exact shape']
      : accuracy.kind === 'chords'
        ? [
            `within ${roughly(accuracy.within, unit)}`,
            'Round edges and faces are followed in short straight pieces; the true figure differs by this at most',
          ]
        : [
            `recognised, deviation ${deviationText(accuracy.deviation, unit)}`,
            'An analytic shape found in a free-form one; the deviation is the largest distance of a sample from it',
          ];
  return (
    <span className="rounded-full bg-amber-wash px-2 text-[12px] text-amber" title={title}>
      {text}
    </span>
  );
}

const PER_MM: Record<LengthUnit, number> = { mm: 1, cm: 0.1, m: 0.001, in: 1 / 25.4 };

/** A bound, to one figure upwards. */
function roughly(mm: number, unit: LengthUnit): string {
  const value = mm * PER_MM[unit];
  const power = 10 ** Math.floor(Math.log10(Math.max(value, 1e-9)));
  const up = Math.ceil(value / power) * power;
  return `${up < 1e-4 ? up.toExponential(0) : Number(up.toPrecision(1))} ${unit}`;
}

/** Deviations are far below a micrometre as a rule: shown by their power of ten. */
function deviationText(mm: number, unit: LengthUnit): string {
  return `${mm < 1e-9 ? '< 1e-9' : (mm * PER_MM[unit]).toExponential(1)} ${unit}`;
}

function Row({ fact, unit }: { fact: Fact; unit: LengthUnit }) {
  const { text, unit: shown } = valueText(fact.value, unit);
  const figures = fact.value.kind !== 'text';
  const stacked = fact.value.kind === 'point' || fact.value.kind === 'size';
  return (
    <div className={`border-b border-line py-1 last:border-0 ${stacked ? '' : 'flex items-baseline justify-between gap-3'}`}>
      <dt className="shrink-0 text-[13px] text-soft">
        {fact.label}
        {stacked && <span className="float-right text-[12px]">{shown}</span>}
      </dt>
      <dd className={`text-right ${figures ? 'figures text-[12.5px] whitespace-nowrap' : 'text-[13px]'}`}>
        {text}
        {!stacked && shown && ` ${shown}`}
        {fact.note && <span className="font-sans text-soft">, {fact.note}</span>}
      </dd>
    </div>
  );
}

const AXES = ['X', 'Y', 'Z'];

function directionText(v: Vec3): string {
  const along = v.findIndex((x) => Math.abs(Math.abs(x) - 1) < 1e-9);
  if (along >= 0) return `${v[along] < 0 ? '\u2212' : '+'}${AXES[along]}`;
  return v.map((x) => fixed(x, 4)).join('  ');
}

function valueText(value: FactValue, unit: LengthUnit): { text: string; unit: string } {
  switch (value.kind) {
    case 'text':
      return { text: value.value, unit: '' };
    case 'direction':
      return { text: directionText(value.value), unit: '' };
    case 'point':
      return { text: value.value.map((x) => formatQuantity(x, 'length', unit).text).join('  '), unit };
    case 'size':
      return { text: value.value.map((x) => formatQuantity(x, 'length', unit).text).join(' × '), unit };
    default: {
      const shown = formatQuantity(value.value, value.kind, unit);
      return { text: `${value.prefix ? `${value.prefix} ` : ''}${shown.text}`, unit: shown.unit };
    }
  }
}

function copyText(facts: PickFacts, where: string, unit: LengthUnit): string {
  const line = (f: Fact) => {
    const { text, unit: shown } = valueText(f.value, unit);
    return `${f.label}\t${text}${shown ? ` ${shown}` : ''}${f.note ? `, ${f.note}` : ''}`;
  };
  return [`${facts.title}\t${where}`, ...(facts.main ? [line(facts.main)] : []), ...facts.rows.map(line)].join('\n');
}

function whereOf(ws: Workspace, item: Picked): string {
  const { byPath, detail } = ws.model.getState();
  const occurrence = byPath.get(item.component);
  if (!occurrence) return '';
  const part = occurrence.part === undefined ? undefined : detail?.structure.parts[occurrence.part].name;
  const parent = occurrence.parent ? byPath.get(occurrence.parent) : undefined;
  return [
    occurrence.instanceName ?? occurrence.name,
    part && part !== (occurrence.instanceName ?? occurrence.name) ? part : undefined,
    parent && (parent.instanceName ?? parent.name),
  ]
    .filter(Boolean)
    .join(' · ');
}

function factsOf(ws: Workspace, item: Picked): PickFacts | null {
  const { byPath, parts, detail } = ws.model.getState();
  const occurrence = byPath.get(item.component);
  if (!occurrence) return null;
  if (occurrence.part === undefined) return assemblyFacts(ws, item.component);
  if (isOfCut(item.kind)) return cutFacts(ws, item);
  const loaded = parts.get(occurrence.part);
  return loaded
    ? describePick(item.kind, item.index, {
        geometry: loaded.geometry,
        placement: occurrence.placement,
        material: detail?.structure.parts[occurrence.part].material,
      })
    : null;
}

function cutFacts(ws: Workspace, item: Picked): PickFacts | null {
  const found = cutOfPick(ws, item);
  if (!found) return null;
  const {
    plane: { plane, frame },
    cut,
  } = found;
  const best = bestCut(ws, plane.id, cut);
  return describeCut(item.kind as 'cap', item.index, {
    frame,
    curves: curvesOf(ws, plane.id, cut),
    properties: best.properties,
    exact: best.exact,
    chord: best.exact ? best.within : chordOf(ws, cut.component),
  });
}

function assemblyFacts(ws: Workspace, path: string): PickFacts {
  const { byPath, parts } = ws.model.getState();
  const placed = componentsBelow(ws, path)
    .map((p) => byPath.get(p)!)
    .map((o) => ({ o, geometry: parts.get(o.part!)!.geometry }));
  const masses: MassFigures[] = placed.flatMap(({ o, geometry }) => (geometry.mass ? [placeMass(geometry.mass, o.placement)] : []));
  const mass = combineMass(masses);
  const open = placed.length - masses.length;
  return {
    title: 'Assembly',
    main: null,
    accuracy: mass?.accuracy ?? null,
    rows: [
      { label: 'Components', value: { kind: 'count', value: placed.length } },
      { label: 'Parts', value: { kind: 'count', value: new Set(placed.map(({ o }) => o.part)).size } },
      ...(mass
        ? [
            { label: 'Volume', value: { kind: 'volume' as const, value: mass.volume }, ...(open && { note: `without ${open} open` }) },
            { label: 'Centre of gravity', value: { kind: 'point' as const, value: mass.centreOfGravity }, note: undefined },
          ]
        : []),
      { label: 'Area', value: { kind: 'area', value: placed.reduce((sum, { geometry }) => sum + geometry.area, 0) } },
    ],
  };
}

const thingOf = (p: Picked): Questions['distance']['asked']['a'] => ({
  component: p.component,
  kind: p.kind === 'face' || p.kind === 'edge' || p.kind === 'vertex' ? p.kind : 'part',
  index: p.index,
});

/** Two picked things: their least distance. */
function TwoThings({ items }: { items: Picked[] }) {
  return items.some((i) => isOfCut(i.kind)) ? <DistanceToCut items={items} /> : <ExactDistance items={items} />;
}

const namesOf = (ws: Workspace, items: readonly Picked[]): string =>
  items.map((p) => `${KIND_NAMES[p.kind]} of ${ws.model.getState().byPath.get(p.component)?.name ?? ''}`).join(' to ');

function distanceRows({ from, to }: { from: Vec3; to: Vec3 }): Fact[] {
  return [
    ...['dX', 'dY', 'dZ'].map((label, k): Fact => ({ label, value: { kind: 'length', value: to[k] - from[k] } })),
    { label: 'From', value: { kind: 'point', value: from } },
    { label: 'To', value: { kind: 'point', value: to } },
  ];
}

/** Facets and pieces of line of both things that are compared while one waits. */
const MOST_PIECES = 3000;

/** Where a cut is concerned the distance is computed here, to what the section leaves: exact between points, straight edges and flat faces with straight edges. */
function DistanceToCut({ items }: { items: Picked[] }) {
  const ws = useWorkspace();
  const unit = useStore(ws.profile, (s) => s.unit);
  const cuts = useStore(ws.cut);
  const { a, b, found, many } = useMemo(() => {
    const [first, second] = items.map((i) => measuredThing(ws, i, cuts));
    const tooMany = Boolean(first && second && piecesIn(first.patch) + piecesIn(second.patch) > MOST_PIECES);
    return { a: first, b: second, many: tooMany, found: first && second && !tooMany ? patchDistance(first.patch, second.patch) : null };
  }, [items, cuts, ws]);
  const facts: PickFacts = {
    title: 'Least distance',
    main: found ? { label: 'Least distance', value: { kind: 'length', value: found.distance } } : null,
    rows: found ? distanceRows(found) : [],
    accuracy: !found ? null : a!.exact && b!.exact ? { kind: 'exact' } : { kind: 'chords', within: a!.chord + b!.chord },
  };
  return (
    <>
      <Heading title={facts.title} where={namesOf(ws, items)} copy={copyText(facts, '', unit)} />
      {facts.main && <MainFigure fact={facts.main} unit={unit} facts={facts} />}
      {!found && (
        <p className="px-3 py-2 text-soft">
          {many
            ? 'These two are too finely meshed to be compared here. Pick an edge of one of them.'
            : 'A distance to a cut goes between faces, edges and points. Of a component pick the face or edge that is meant.'}
        </p>
      )}
      <dl className="px-3 pb-1.5">
        {facts.rows.map((row, i) => (
          <Row key={i} fact={row} unit={unit} />
        ))}
      </dl>
    </>
  );
}

/** Asked of the kernel. */
function ExactDistance({ items }: { items: Picked[] }) {
  const ws = useWorkspace();
  const unit = useStore(ws.profile, (s) => s.unit);
  const id = useStore(ws.model, (s) => s.detail?.id ?? '');
  const revision = useStore(ws.model, (s) => s.detail?.revision ?? 1);
  const single = items.every((p) => ws.model.getState().byPath.get(p.component)?.part !== undefined);
  const key = items.map((p) => `${p.kind}/${p.index}/${p.component}`);
  const { data, error } = useQuery({
    queryKey: ['distance', id, revision, ...key],
    queryFn: () => ws.source.ask('distance', { a: thingOf(items[0]), b: thingOf(items[1]) }),
    enabled: single,
    staleTime: Infinity,
    retry: false,
  });
  const facts: PickFacts = {
    title: 'Least distance',
    main: data ? { label: 'Least distance', value: { kind: 'length', value: data.distance } } : null,
    rows: data ? distanceRows(data) : [],
    accuracy: { kind: 'exact' },
  };
  return (
    <>
      <Heading title={facts.title} where={namesOf(ws, items)} copy={copyText(facts, '', unit)} />
      {facts.main && <MainFigure fact={facts.main} unit={unit} facts={facts} />}
      {!single && <p className="px-3 py-2 text-soft">Pick single components, faces, edges or vertices for a distance.</p>}
      {single && !data && !error && <p className="px-3 py-2 text-soft">Computing …</p>}
      {error && (
        <p role="alert" className="px-3 py-2 text-red">
          {error.message}
        </p>
      )}
      <dl className="px-3 pb-1.5">
        {facts.rows.map((row, i) => (
          <Row key={i} fact={row} unit={unit} />
        ))}
      </dl>
    </>
  );
}

function Many({ items }: { items: Picked[] }) {
  const kinds = [...new Set(items.map((p) => p.kind))].map(
    (kind) => `${items.filter((p) => p.kind === kind).length} × ${KIND_NAMES[kind]}`,
  );
  return (
    <>
      <Heading title={`${items.length} things picked`} where={kinds.join(', ')} copy={kinds.join('\n')} />
      <p className="px-3 pt-1 pb-3 text-soft">Pick one for its figures, or two for their least distance.</p>
    </>
  );
}

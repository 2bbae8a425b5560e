import { accuracyText, factsAsText, valueText, type Fact, type LengthUnit, type PickFacts } from '@bathyscope/core';
import { useQuery } from '@tanstack/react-query';
import { Check, Copy, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { KIND_NAMES, type Picked } from '../../state/selection-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { distanceFacts, distanceOf, figuresOfOne, namesOf, whereOf } from '../../workspace/figures.ts';
import { useWorkspace } from '../use-workspace.ts';

/** The card that always says what is picked, and its figures. */
export function Readout() {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  const ready = useStore(ws.model, (s) => s.status === 'ready');
  const { open: flat, wide } = useStore(ws.flat);
  // Beside the flat view, not over what is measured on it.
  const place = !flat ? 'top-3 right-3' : wide ? 'top-12 right-3' : 'top-3 right-[calc(50%+0.75rem)]';
  if (!ready || !picked.length) return null;
  return (
    <section
      aria-label="Readout"
      className={`absolute ${place} z-20 flex max-h-[calc(100%-3.5rem)] w-[252px] flex-col overflow-y-auto rounded-md border border-line bg-panel shadow-card`}
    >
      {picked.length === 1 && <OneThing item={picked[0]} />}
      {picked.length === 2 && <TwoThings items={picked} />}
      {picked.length > 2 && <Many items={picked} />}
    </section>
  );
}

function OneThing({ item }: { item: Picked }) {
  const ws = useWorkspace();
  useStore(ws.cut);
  const facts = figuresOfOne(ws, item);
  return facts && <Figures facts={facts} where={whereOf(ws, item)} />;
}

/** Title, leading figure and rows. */
function Figures({ facts, where, children }: { facts: PickFacts; where: string; children?: React.ReactNode }) {
  const ws = useWorkspace();
  const unit = useStore(ws.profile, (s) => s.unit);
  return (
    <>
      <Heading title={facts.title} where={where} copy={factsAsText(facts, where, unit)} />
      {facts.main && <MainFigure fact={facts.main} unit={unit} facts={facts} />}
      {children}
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
      <IconButton
        icon={X}
        label="Clear the pick"
        shortcut="Esc"
        className="-mr-1.5 text-soft"
        onClick={() => ws.selection.getState().pick([])}
      />
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
  if (!facts.accuracy) return null;
  const { exact, text, sentence } = accuracyText(facts.accuracy, unit);
  return (
    <span className={`rounded-full px-2 text-[12px] ${exact ? 'bg-green-wash text-green' : 'bg-amber-wash text-amber'}`} title={sentence}>
      {text}
    </span>
  );
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

const NO_FIGURES: PickFacts = { title: 'Least distance', main: null, rows: [], accuracy: null };

/** Two picked things: their least distance. */
function TwoThings({ items }: { items: Picked[] }) {
  const ws = useWorkspace();
  const cuts = useStore(ws.cut);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- distanceOf reads the cuts
  const found = useMemo(() => distanceOf(ws, items), [ws, items, cuts]);
  const ask = 'ask' in found ? found.ask : null;
  const { data, error } = useQuery({
    queryKey: ['distance', ws.model.getState().detail?.id, ws.model.getState().detail?.revision, ask],
    queryFn: () => ws.source.ask('distance', ask!),
    enabled: ask !== null,
    staleTime: Infinity,
    retry: false,
  });
  const facts = 'facts' in found ? found.facts : data ? distanceFacts(data, { kind: 'exact' }) : NO_FIGURES;
  return (
    <Figures facts={facts} where={namesOf(ws, items)}>
      {'refusal' in found && <p className="px-3 py-2 text-soft">{found.refusal}</p>}
      {ask && !data && !error && <p className="px-3 py-2 text-soft">Computing …</p>}
      {error && (
        <p role="alert" className="px-3 py-2 text-red">
          {error.message}
        </p>
      )}
    </Figures>
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

import {
  accuracyText,
  factsAsText,
  markOf,
  secondText,
  valueText,
  type Fact,
  type PickFacts,
} from '@bathyscope/core/facts';
import type { UnitStyle } from '@bathyscope/core/units';
import { Check, Copy, X } from 'lucide-react';
import { useCallback, useState, type ReactNode } from 'react';
import { copyText } from '../../commands/keep/copy-text.ts';
import { KIND_NAMES, type Picked } from '../../state/selection-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { figuresOfOne, namesOf, whereOf } from '../../workspace/measuring/figures.ts';
import { figuresOfMany, isChained, pairFacts } from '../../workspace/measuring/measured.ts';
import { displayedFacts } from '../../workspace/measuring/systems.ts';
import { useUnits } from '../use-units.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { useMeasuredPair } from './use-measured-pair.ts';

/** What is said of what is picked: of one thing, between two, along more. */
export function FiguresOfPicked({ items }: { items: readonly Picked[] }) {
  if (items.length === 1) return <OneThing item={items[0]} />;
  return items.length === 2 ? <TwoThings items={items} /> : <Many items={items} />;
}

function OneThing({ item }: { item: Picked }) {
  const { facts, where } = useSeen(
    useCallback((ws) => ({ facts: figuresOfOne(ws, item), where: whereOf(ws, item) }), [item]),
  );
  return facts && <Figures facts={facts} where={where} />;
}

/** Facts in the axes that the user chose; those of the view turn with it. */
const useDisplayed = (facts: PickFacts): PickFacts =>
  useSeen(useCallback((ws) => displayedFacts(ws, facts), [facts]));

/** Title, leading figure and rows. */
export function Figures({
  facts: told,
  where,
  children,
}: {
  facts: PickFacts;
  where: string;
  children?: ReactNode;
}) {
  const unit = useUnits();
  const facts = useDisplayed(told);
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
    void copyText(copy).then((done) => {
      setCopied(done);
      setTimeout(() => setCopied(false), 1500);
    });
  return (
    <header className="flex items-start gap-1 px-3 pt-2">
      <div className="min-w-0 flex-1">
        <h2 className="font-semibold text-magenta">{title}</h2>
        <p className="text-[12.5px] break-words text-soft">{where}</p>
      </div>
      <IconButton
        icon={copied ? Check : Copy}
        label={copied ? 'Copied' : 'Copy the figures'}
        className="text-soft"
        onClick={onCopy}
      />
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

function MainFigure({ fact, unit, facts }: { fact: Fact; unit: UnitStyle; facts: PickFacts }) {
  const { text, unit: shown } = valueText(fact.value, unit);
  const second = secondText(fact.value, unit);
  return (
    <p className="flex flex-wrap items-baseline gap-x-2 px-3 py-1" title={fact.label}>
      <span className="figures text-[20px] font-medium" data-testid="main-figure">
        {markOf(fact.value, facts.accuracy)}
        {text}
      </span>
      <span className="figures text-soft">{shown}</span>
      {second && <span className="figures text-[13px] text-soft">[{second}]</span>}
      <AccuracyMark facts={facts} unit={unit} />
    </p>
  );
}

function AccuracyMark({ facts, unit }: { facts: PickFacts; unit: UnitStyle }) {
  if (!facts.accuracy) return null;
  const { exact, text, sentence } = accuracyText(facts.accuracy, unit.unit);
  return (
    <span
      className={`rounded-full px-2 text-[12px] ${exact ? 'bg-green-wash text-green' : 'bg-amber-wash text-amber'}`}
      title={sentence}
    >
      {text}
    </span>
  );
}

function Row({ fact, unit }: { fact: Fact; unit: UnitStyle }) {
  const { text, unit: shown } = valueText(fact.value, unit);
  const figures = fact.value.kind !== 'text';
  const stacked = fact.value.kind === 'point' || fact.value.kind === 'size';
  return (
    <div
      className={`border-b border-line py-1 last:border-0 ${stacked ? '' : 'flex items-baseline justify-between gap-3'}`}
    >
      <dt className="shrink-0 text-[13px] text-soft">
        {fact.label}
        {stacked && <span className="float-right text-[12px]">{shown}</span>}
      </dt>
      <dd className={`text-right ${figures ? 'figures text-[12.5px]' : 'text-[13px]'}`}>
        <span className={figures ? 'whitespace-nowrap' : ''}>
          {text}
          {!stacked && shown && ` ${shown}`}
        </span>
        {fact.note && <span className="font-sans text-soft">, {fact.note}</span>}
      </dd>
    </div>
  );
}

/** Two picked things: what leads between them, then their least distance. */
function TwoThings({ items }: { items: readonly Picked[] }) {
  const { pair, least, waiting, refusal, error } = useMeasuredPair(items);
  const { facts, where } = useSeen(
    useCallback(
      (ws) => ({ facts: pairFacts(ws, items, pair, least), where: namesOf(ws, items) }),
      [items, pair, least],
    ),
  );
  return (
    <Figures facts={facts} where={where}>
      {refusal && !pair?.lead && <p className="px-3 py-2 text-soft">{refusal}</p>}
      {waiting && (
        <p role="status" className="px-3 py-1 text-[12.5px] text-soft">
          The least distance is being computed …
        </p>
      )}
      {error && (
        <p role="alert" className="px-3 py-1 text-red">
          {error}
        </p>
      )}
    </Figures>
  );
}

/** More than two: from each to the next, and in all. */
function Many({ items }: { items: readonly Picked[] }) {
  const facts = useSeen(useCallback((ws) => figuresOfMany(ws, items), [items]));
  const kinds = [...new Set(items.map((p) => p.kind))].map(
    (kind) => `${items.filter((p) => p.kind === kind).length} × ${KIND_NAMES[kind]}`,
  );
  return (
    <Figures facts={facts} where={kinds.join(', ')}>
      {!isChained(items) && (
        <p className="px-3 pt-1 pb-3 text-soft">
          Pick one for its figures, or two for what lies between them.
        </p>
      )}
    </Figures>
  );
}

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
import { keptKind } from '@bathyscope/core/ledger';
import { BookmarkPlus, Check, Copy, X } from 'lucide-react';
import { useCallback, useEffect, useState, type ReactNode } from 'react';
import { keepAndTell } from '../../commands/measure/ledger-commands.ts';
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
  return facts && <Figures facts={facts} where={where} items={[item]} />;
}

/** Facts in the axes that the user chose; those of the view turn with it. */
const useDisplayed = (facts: PickFacts): PickFacts =>
  useSeen(useCallback((ws) => displayedFacts(ws, facts), [facts]));

/** Title, leading figure and rows. */
export function Figures({
  facts: told,
  where,
  items,
  children,
}: {
  facts: PickFacts;
  where: string;
  /** What they are of, where they can be kept. */
  items?: readonly Picked[];
  children?: ReactNode;
}) {
  const unit = useUnits();
  const facts = useDisplayed(told);
  return (
    <>
      <Heading title={facts.title} where={where} copy={factsAsText(facts, where, unit)} />
      {facts.main && <MainFigure fact={facts.main} unit={unit} facts={facts} items={items} />}
      {children}
      <dl className="px-3 pb-1.5">
        {facts.rows.map((row, i) => (
          <Row
            key={i}
            fact={row}
            told={told.rows.find((r) => r.label === row.label) ?? row}
            unit={unit}
            items={items}
          />
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

interface FigureProps {
  fact: Fact;
  unit: UnitStyle;
  /** What it is of, where it can be kept. */
  items?: readonly Picked[];
}

function MainFigure({ fact, unit, facts, items }: FigureProps & { facts: PickFacts }) {
  const { text, unit: shown } = valueText(fact.value, unit);
  const second = secondText(fact.value, unit);
  return (
    <p className="group relative flex flex-wrap items-baseline gap-x-2 px-3 py-1" title={fact.label}>
      <span className="figures text-[20px] font-medium" data-testid="main-figure">
        {markOf(fact.value, facts.accuracy)}
        {text}
      </span>
      <span className="figures text-soft">{shown}</span>
      {second && <span className="figures text-[13px] text-soft">[{second}]</span>}
      <AccuracyMark facts={facts} unit={unit} />
      <span className="absolute right-2 bottom-1">
        <RowDeeds fact={fact} unit={unit} items={items} />
      </span>
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

/** What can be done with a figure: they show under the cursor and where they have the keyboard. */
function RowDeeds({ fact, unit, items }: FigureProps) {
  const ws = useWorkspace();
  const { text, unit: shown } = valueText(fact.value, unit);
  return (
    <span className="flex rounded bg-panel opacity-0 shadow-card group-focus-within:opacity-100 group-hover:opacity-100 [@media(hover:none)]:opacity-100">
      {items && keptKind(fact.value) && (
        <IconButton
          icon={BookmarkPlus}
          label={`Keep ${fact.label.toLowerCase()}`}
          className="size-6 text-soft"
          onClick={() => keepAndTell(ws, items, fact.label)}
        />
      )}
      <IconButton
        icon={Copy}
        label={`Copy ${fact.label.toLowerCase()}`}
        className="size-6 text-soft"
        onClick={() =>
          void copyText(`${text} ${shown}`.trim()).then((done) =>
            done
              ? ws.notify(`${fact.label}: ${text} ${shown} is on the clipboard.`, { id: 'figure' })
              : ws.notify.error('The browser did not allow the clipboard.', { id: 'figure' }),
          )
        }
      />
    </span>
  );
}

/** @param told the same in the model's own axes */
function Row({ fact, told, unit, items }: FigureProps & { told: Fact }) {
  const ws = useWorkspace();
  const [pointed, setPointed] = useState(false);
  // A place is where it is, whatever axes it is told in. As a text: facts are made anew when they are read.
  const shown = JSON.stringify(told.value.kind === 'point' ? told : { ...fact, ends: told.ends });
  useEffect(() => {
    if (!pointed) return undefined;
    ws.measure.setState({ pointed: JSON.parse(shown) as Fact });
    return () => ws.measure.setState({ pointed: null });
  }, [ws, pointed, shown]);
  // What is kept is told in the model's own axes.
  const kept = fact.value.value === told.value.value ? items : undefined;
  const { text, unit: inUnit } = valueText(fact.value, unit);
  const figures = fact.value.kind !== 'text';
  const stacked = fact.value.kind === 'point' || fact.value.kind === 'size';
  return (
    <div
      className={`group border-b border-line py-1 last:border-0 ${stacked ? 'relative' : 'flex items-baseline justify-between gap-3'}`}
      onPointerEnter={() => setPointed(true)}
      onPointerLeave={() => setPointed(false)}
      onFocus={() => setPointed(true)}
      onBlur={() => setPointed(false)}
    >
      <dt className="shrink-0 text-[13px] text-soft">
        {fact.label}
        {stacked && <span className="float-right text-[12px]">{inUnit}</span>}
      </dt>
      <dd className={`relative text-right ${figures ? 'figures text-[12.5px]' : 'text-[13px]'}`}>
        <span
          className={`absolute ${stacked ? 'right-8 bottom-full' : 'top-1/2 right-full mr-1 -translate-y-1/2'}`}
        >
          <RowDeeds fact={fact} unit={unit} items={kept} />
        </span>
        <span className={figures ? 'whitespace-nowrap' : ''}>
          {text}
          {!stacked && inUnit && ` ${inUnit}`}
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
    <Figures facts={facts} where={where} items={items}>
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
    <Figures facts={facts} where={kinds.join(', ')} items={items}>
      {!isChained(items) && (
        <p className="px-3 pt-1 pb-3 text-soft">
          Pick one for its figures, or two for what lies between them.
        </p>
      )}
    </Figures>
  );
}

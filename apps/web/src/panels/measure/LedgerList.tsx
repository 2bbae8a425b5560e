import { ledgerEntry } from '@bathyscope/contracts/records';
import { valueText, type Fact } from '@bathyscope/core/facts';
import {
  fieldOfKind,
  keptKind,
  limitsOf,
  oneOfKind,
  readTolerance,
  verdictOf,
  type KeptFigure,
  type KeptKind,
} from '@bathyscope/core/ledger';
import { readQuantity } from '@bathyscope/core/units';
import { ArrowDown, ArrowUp, Check, Copy, Crosshair, Eye, EyeOff, Trash2, X } from 'lucide-react';
import { memo, useId, useState } from 'react';
import { useStore } from 'zustand';
import { copyText } from '../../commands/keep/copy-text.ts';
import { commandById } from '../../commands/registry.ts';
import { neededSection, showNeeded, type NeededSection } from '../../commands/cut/needed-section.ts';
import { runCommand } from '../../commands/run-command.ts';
import { EditableName } from '../../ui/EditableName.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import {
  changeKept,
  drawKept,
  figureOf,
  isKeptDrawn,
  isLost,
  itemsOf,
  numberOf,
  wantedText,
} from '../../workspace/keeping/ledger.ts';
import { changeRecords, moved, removed } from '../../workspace/keeping/records.ts';
import { referenceTo } from '../../workspace/measuring/references.ts';
import { MadeBy } from '../frame/MadeBy.tsx';
import { Status } from '../frame/Status.tsx';
import { useUnits } from '../use-units.ts';
import { useRecords } from '../use-records.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { useKeptFigure } from './use-kept.ts';

const USUAL_COLOUR = '#a3195b';

/** The kept measurements, two lines each: name and figure, what it should be and whether it is. */
export function LedgerList() {
  const ws = useWorkspace();
  const figures = useRecords(ledgerEntry);
  const [open, setOpen] = useState<string | null>(null);
  return (
    <section aria-label="Ledger" className="mt-3 border-t border-line px-3 pt-2">
      <h3 className="flex text-[12px] font-semibold tracking-wider text-soft uppercase">
        <span className="flex-1">Ledger</span>
        {figures.length > 0 && (
          <button
            type="button"
            className="font-normal tracking-normal normal-case text-blue hover:underline"
            onClick={() => runCommand(ws, commandById('ledger-csv'))}
          >
            Save as CSV
          </button>
        )}
      </h3>
      {!figures.length && (
        <p className="mt-1 text-[13px] text-soft">
          Pick something and press J: its figure is kept here, with what it should be.
        </p>
      )}
      <ol>
        {figures.map((kept, i) => (
          <LedgerRow
            key={kept.id}
            kept={kept}
            at={i}
            open={open === kept.id}
            onOpen={() => setOpen(open === kept.id ? null : kept.id)}
          />
        ))}
      </ol>
    </section>
  );
}

interface RowProps {
  kept: KeptFigure;
  at: number;
  open: boolean;
  onOpen: () => void;
}

const LedgerRow = memo(function LedgerRow({ kept, at, open, onOpen }: RowProps) {
  const ws = useWorkspace();
  const unit = useUnits();
  const hidden = useSeen((now) => !isKeptDrawn(now, kept.id));
  const { data, error } = useKeptFigure(kept);
  const lost = useSeen((now) => isLost(now, kept));
  const needed = useSeen((now) => neededSection(now, kept));
  const fact = data && !needed ? figureOf(data.facts, kept.figure) : null;
  const shown = fact && valueText(fact.value, unit);
  const kind = fact ? keptKind(fact.value)! : 'length';
  const verdict = fact ? verdictOf(kept, numberOf(fact)) : null;
  return (
    <li className="border-b border-line py-1 last:border-0">
      <div className="flex items-start gap-1.5">
        <span
          className="mt-1.5 size-2.5 shrink-0 rounded-full border border-magenta"
          style={{ background: hidden ? 'transparent' : (kept.colour ?? 'var(--magenta)') }}
        />
        <EditableName
          name={kept.name}
          label="Name of the figure"
          wraps
          className="min-w-0 flex-1 text-[13px]"
          onRename={(name) => changeKept(ws, kept, 'name', { name })}
        />
        <button
          type="button"
          className="figures min-h-6 shrink-0 rounded px-1 text-[12.5px] hover:bg-hover"
          title="Pick what it is of"
          onClick={() => ws.selection.getState().pick(itemsOf(ws, kept) ?? [])}
        >
          {shown
            ? `${shown.text} ${shown.unit}`
            : lost
              ? 'lost'
              : needed
                ? 'not cut'
                : error
                  ? 'no figure'
                  : '…'}
        </button>
        {verdict && <VerdictMark verdict={verdict} />}
      </div>
      <div className="flex items-center gap-1 pl-4 text-[12.5px] text-soft">
        <button
          type="button"
          className="figures min-w-0 flex-1 truncate rounded px-1 text-left hover:bg-hover"
          aria-expanded={open}
          onClick={onOpen}
        >
          {wantedText(kept, kind, unit.unit) || 'no nominal'}
        </button>
        {fact && <Said kept={kept} fact={fact} />}
        <Status of={kept.of} />
        <MadeBy kind={ledgerEntry} id={kept.id} />
        <IconButton
          icon={hidden ? EyeOff : Eye}
          label={hidden ? `Draw ${kept.name}` : `Do not draw ${kept.name}`}
          className="size-6 text-soft"
          onClick={() => drawKept(ws, kept, hidden)}
        />
        <IconButton
          icon={Trash2}
          label={`Forget ${kept.name}`}
          className="size-6 text-soft"
          onClick={() => changeRecords(ws, `forget “${kept.name}”`, [removed(ws, ledgerEntry, kept)])}
        />
      </div>
      {needed && <NeedsSection needed={needed} />}
      {error && !needed && <p className="pl-4 text-[12.5px] text-red">{error.message}</p>}
      {fact && <Was kept={kept} fact={fact} />}
      {lost && <PointAgain kept={kept} />}
      {open && (
        <Wanted kept={kept} kind={kind} at={at} value={shown ? `${shown.text} ${shown.unit}`.trim() : ''} />
      )}
    </li>
  );
});

/** A figure in a cut is there while its section is. */
function NeedsSection({ needed }: { needed: NeededSection }) {
  const ws = useWorkspace();
  return (
    <p className="pl-4 text-[12.5px] text-amber">
      {needed.name === null ? (
        'The section that it was measured in is not kept any more.'
      ) : (
        <>
          Needs the section {needed.name}:{' '}
          <button
            type="button"
            className="rounded text-blue hover:underline"
            onClick={() => showNeeded(ws, needed)}
          >
            show it
          </button>
        </>
      )}
    </p>
  );
}

const VerdictMark = ({ verdict }: { verdict: 'within' | 'out' }) =>
  verdict === 'within' ? (
    <Check
      size={15}
      strokeWidth={2}
      className="shrink-0 text-green"
      role="img"
      aria-label="within its tolerance"
    />
  ) : (
    <X size={15} strokeWidth={2} className="shrink-0 text-red" role="img" aria-label="out of tolerance" />
  );

/** A value in the unit and style of a figure. */
const sayLike = (fact: Fact, unit: ReturnType<typeof useUnits>, x: number): string => {
  const { text, unit: shown } = valueText(
    { ...fact.value, prefix: undefined, value: x } as Fact['value'],
    unit,
  );
  return `${text} ${shown}`;
};

/** Whether it keeps within its limits, or by how much it does not. */
function Said({ kept, fact }: { kept: KeptFigure; fact: Fact }) {
  const unit = useUnits();
  const value = numberOf(fact);
  const bounds = limitsOf(kept);
  if (!bounds) return null;
  const over = value > bounds.greatest ? value - bounds.greatest : bounds.least - value;
  return verdictOf(kept, value) === 'within' ? (
    <span className="shrink-0 text-green">within</span>
  ) : (
    <span className="figures shrink-0 text-red">
      {sayLike(fact, unit, over)} {value > bounds.greatest ? 'over' : 'under'}
    </span>
  );
}

/** What it was on the revision it was kept on, where that was something else. */
function Was({ kept, fact }: { kept: KeptFigure; fact: Fact }) {
  const ws = useWorkspace();
  const unit = useUnits();
  const { revision } = ws.model.getState().detail!;
  return kept.revision !== revision && Math.abs(kept.was - numberOf(fact)) > CHANGED ? (
    <p className="figures pl-5 text-[12.5px] text-amber">
      was {sayLike(fact, unit, kept.was)} on rev {kept.revision}
    </p>
  ) : null;
}
/** mm or rad: less is what computing it anew may change. */
const CHANGED = 1 / 1e6;

/** What a lost figure was of is picked again: what is picked now takes its place. */
function PointAgain({ kept }: { kept: KeptFigure }) {
  const ws = useWorkspace();
  const picked = useStore(ws.selection, (s) => s.picked);
  return (
    <p className="pl-4 text-[12.5px] text-amber">
      What it was of is not in this revision any more.{' '}
      <button
        type="button"
        disabled={picked.length !== kept.of.length}
        className="inline-flex items-center gap-1 rounded text-blue hover:underline disabled:text-soft disabled:no-underline"
        onClick={() =>
          changeKept(ws, kept, 'what is measured', { of: picked.map((p) => referenceTo(ws, p)) })
        }
      >
        <Crosshair size={13} aria-hidden />
        {picked.length === kept.of.length
          ? 'Take what is picked'
          : `Pick ${kept.of.length === 1 ? 'it' : `all ${kept.of.length}`} to point to it again`}
      </button>
    </p>
  );
}

/** Nominal value, tolerance, colour and place in the list. */
function Wanted({ kept, kind, at, value }: { kept: KeptFigure; kind: KeptKind; at: number; value: string }) {
  const ws = useWorkspace();
  const unit = useUnits();
  const number = (text: string) => readQuantity(text, fieldOfKind(kind), oneOfKind(kind, unit.unit));
  const { length: count } = useRecords(ledgerEntry);
  const move = (by: number) =>
    changeRecords(ws, `order of “${kept.name}”`, [moved(ws, ledgerEntry, kept, at + by)]);
  const written = (part: Partial<KeptFigure>) => wantedText(part, kind, unit.unit);
  return (
    <div className="flex flex-wrap items-end gap-2 py-1 pl-4 text-[12.5px] text-soft">
      <Taken<Partial<KeptFigure>>
        label="Nominal"
        value={written({ nominal: kept.nominal })}
        read={(text) => {
          const read = number(text);
          return 'wrong' in read ? read.wrong : { nominal: read.value };
        }}
        onTake={(change) => changeKept(ws, kept, 'nominal value', change)}
        none={{ nominal: undefined }}
      />
      <Taken<Partial<KeptFigure>>
        label="Tolerance"
        value={written({ tolerance: kept.tolerance })}
        read={(text) => {
          const read = readTolerance(text, kind, unit.unit, kept.nominal ?? null);
          return 'fault' in read ? read.fault : read;
        }}
        onTake={(change) => changeKept(ws, kept, 'tolerance', change)}
        none={{ tolerance: undefined }}
      />
      <label className="flex items-center gap-1">
        <span className="sr-only">Colour</span>
        <input
          type="color"
          className="size-6 rounded border border-border"
          value={kept.colour ?? USUAL_COLOUR}
          onChange={(e) => changeKept(ws, kept, 'colour', { colour: e.target.value })}
        />
      </label>
      {value && (
        <IconButton
          icon={Copy}
          label={`Copy the value of ${kept.name}`}
          className="size-6"
          onClick={() => void copyText(value)}
        />
      )}
      <IconButton
        icon={ArrowUp}
        label={`Move ${kept.name} up`}
        className="size-6"
        disabled={at === 0}
        onClick={() => move(-1)}
      />
      <IconButton
        icon={ArrowDown}
        label={`Move ${kept.name} down`}
        className="size-6"
        disabled={at === count - 1}
        onClick={() => move(1)}
      />
    </div>
  );
}

interface TakenProps<T> {
  label: string;
  value: string;
  /** What the text means, or what is wrong with it. */
  read: (text: string) => T | string;
  onTake: (change: T) => void;
  /** Of an empty field. */
  none: T;
}

/**
 * A text that is taken on Enter or when the field is left; what is wrong stays, with what is wrong about it.
 */
function Taken<T>({ label, value, read, onTake, none }: TakenProps<T>) {
  const [typed, setTyped] = useState<string | null>(null);
  const id = useId();
  const read_ = typed === null ? null : typed.trim() === '' ? none : read(typed);
  const wrong = typeof read_ === 'string' ? read_ : null;
  const take = () => {
    if (typed === null || wrong || typed === value) return typed === value ? setTyped(null) : undefined;
    onTake(read_ as T);
    setTyped(null);
  };
  return (
    <label className="flex flex-col">
      {label}
      <input
        value={typed ?? value}
        aria-invalid={wrong !== null}
        aria-describedby={wrong ? id : undefined}
        autoComplete="off"
        spellCheck={false}
        className={`figures h-7 w-20 rounded border bg-well px-1.5 text-ink ${wrong ? 'border-red' : 'border-border'}`}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take();
          if (e.key === 'Escape' && typed !== null) {
            e.stopPropagation();
            setTyped(null);
          }
        }}
      />
      {wrong && (
        <span id={id} role="alert" className="max-w-40 text-red">
          {wrong}
        </span>
      )}
    </label>
  );
}

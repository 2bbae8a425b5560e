import { DialogTitle } from '@headlessui/react';
import { CHART_PALETTE, fromHex } from '@bathyscope/core/colours';
import type { Vec3 } from '@bathyscope/core/math';
import { bareUnit } from '@bathyscope/core/units';
import { changeStates, stateOf } from '@bathyscope/core/visibility';
import { useState } from 'react';
import { useStore } from 'zustand';
import { changeTable } from '../../commands/show/visibility-commands.ts';
import { type NumberQuestion } from '../../state/ask-store.ts';
import { useTypedNumber } from '../../ui/use-typed-number.ts';
import { Window } from '../../ui/Window.tsx';
import { useProfile } from '../use-profile.ts';
import { useWorkspace } from '../use-workspace.ts';

/** What a command asks before it runs. */
export function AskDialog() {
  const ws = useWorkspace();
  const { number, colour, close } = useStore(ws.ask);
  return (
    <Window open={number !== null || colour !== null} close={close} className="w-80">
      {number && <AskNumber key={number.title} question={number} close={close} />}
      {colour && <AskColour paths={colour} close={close} />}
    </Window>
  );
}

function Buttons({ close, name }: { close: () => void; name: string }) {
  return (
    <div className="mt-4 flex justify-end gap-2">
      <button type="button" className="rounded border border-border px-3 py-1 hover:bg-hover" onClick={close}>
        Cancel
      </button>
      <button type="submit" className="rounded bg-blue px-3 py-1 font-medium text-on-blue">
        {name}
      </button>
    </div>
  );
}

/** As many decimals as a proposed value has, up to micrometres and thousandths of a degree. */
const decimalsOf = (value: number): number => [0, 1, 2].find((n) => Number(value.toFixed(n)) === value) ?? 3;

function AskNumber({ question, close }: { question: NumberQuestion; close: () => void }) {
  const shown = useStore(useProfile(), (s) => s.unit);
  const { kind } = question;
  const one = bareUnit(kind, shown);
  const unit = kind === 'length' ? shown : '°';
  const { text, value, note, type } = useTypedNumber({
    kind,
    value: question.value,
    one,
    unit,
    decimals: decimalsOf(question.value / one),
    check: (value) => (!question.signed && value < 0 ? 'Type a number of 0 or more.' : null),
  });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (value === null) return;
        close();
        question.run(value);
      }}
    >
      <DialogTitle className="mb-2 font-semibold">{question.title}</DialogTitle>
      <label className="flex items-center gap-2">
        {question.label}
        <input
          autoFocus
          value={text}
          onChange={(e) => type(e.target.value)}
          onFocus={(e) => e.target.select()}
          aria-invalid={note?.wrong ?? false}
          autoComplete="off"
          className="figures h-8 w-28 rounded border border-border bg-well px-2 text-right"
        />{' '}
        {unit}
      </label>
      {note && (
        <p
          role={note.wrong ? 'alert' : 'status'}
          className={`mt-1 text-right text-[13px] ${note.wrong ? 'text-red' : 'figures'}`}
        >
          {note.text}
        </p>
      )}
      <Buttons close={close} name="OK" />
    </form>
  );
}

const hexOf = (c: Vec3): string =>
  `#${c
    .map((x) =>
      Math.round(x * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

function AskColour({ paths, close }: { paths: string[]; close: () => void }) {
  const ws = useWorkspace();
  const state = stateOf(ws.visibility.getState().states, paths[0]);
  const [colour, setColour] = useState<Vec3 | undefined>(state.colour);
  const [transparency, setTransparency] = useState(state.transparency ?? 0);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        const inverse = changeTable(
          ws,
          `colour ${paths.length} component${paths.length === 1 ? '' : 's'}`,
          changeStates(ws.visibility.getState().states, paths, {
            colour,
            transparency: transparency || undefined,
          }),
        );
        if (inverse) ws.history.getState().record(inverse);
        close();
      }}
    >
      <DialogTitle className="mb-2 font-semibold">Colour and transparency</DialogTitle>
      <div role="group" aria-label="Colour" className="flex flex-wrap items-center gap-1.5">
        <button
          type="button"
          aria-pressed={!colour}
          className={`h-7 rounded border px-2 text-[13px] ${!colour ? 'border-magenta text-magenta' : 'border-line'}`}
          onClick={() => setColour(undefined)}
        >
          As in the file
        </button>
        {CHART_PALETTE.map((c) => (
          <button
            key={hexOf(c)}
            type="button"
            aria-label={`Colour ${hexOf(c)}`}
            aria-pressed={String(c) === String(colour)}
            style={{ background: hexOf(c) }}
            className="size-7 rounded border border-black/30 aria-pressed:outline-2 aria-pressed:outline-(--magenta)"
            onClick={() => setColour(c)}
          />
        ))}
        <input
          type="color"
          aria-label="Any colour"
          value={colour ? hexOf(colour) : '#888888'}
          onChange={(e) => setColour(fromHex(e.target.value))}
          className="h-7 w-9"
        />
      </div>
      <label className="mt-3 flex items-center gap-2">
        Transparency
        <input
          type="range"
          min={0}
          max={0.95}
          step={0.05}
          value={transparency}
          onChange={(e) => setTransparency(Number(e.target.value))}
          className="min-w-0 flex-1 accent-(--blue)"
        />
        <span className="figures w-12 text-right">{Math.round(transparency * 100)} %</span>
      </label>
      <Buttons close={close} name="Apply" />
    </form>
  );
}

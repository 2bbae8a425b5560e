import type { MassFigure } from '@bathyscope/core/mass';
import type { ReactNode } from 'react';
import { useMassFormat } from './use-mass-format.ts';

/** A section of the panel: its heading, what stands beside it, and its content. */
export function Head({ title, aside, children }: { title: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <section aria-label={title} className="mt-3 border-t border-line px-3 pt-2">
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="text-[12.5px] font-semibold tracking-wide text-soft uppercase">{title}</h3>
        {aside}
      </div>
      {children}
    </section>
  );
}

/** A figure with its name; long ones go on in a second line. */
export function Row({
  label,
  value,
  unit,
  title,
}: {
  label: string;
  value: string;
  unit?: string;
  title?: string;
}) {
  return (
    <div
      className="flex flex-wrap items-baseline justify-between gap-x-2 border-b border-line py-1 last:border-0"
      title={title}
    >
      <dt className="text-[13px] text-soft">{label}</dt>
      <dd className="figures ml-auto text-right text-[12.5px] break-words">
        {value} {unit && <span className="text-[12px] text-soft">{unit}</span>}
      </dd>
    </div>
  );
}

/** Figures of what was weighed that stand together. */
export function FigureRows({
  figures,
  group,
}: {
  figures: readonly MassFigure[];
  group: MassFigure['group'];
}) {
  const { figure: say } = useMassFormat();
  return figures
    .filter((figure) => figure.group === group)
    .map((figure) => <Row key={figure.label} label={figure.label} title={figure.note} {...say(figure)} />);
}

export const LINK =
  'shrink-0 whitespace-nowrap text-[13px] text-blue hover:underline disabled:text-soft disabled:no-underline';
export const BUTTON =
  'shrink-0 whitespace-nowrap rounded border border-border px-2 py-0.5 text-[13px] hover:bg-hover disabled:text-soft';
export const FIELD = 'figures h-7 min-w-0 rounded border border-border bg-well px-2 text-[12.5px]';
export const SELECT = 'min-w-0 rounded border border-line bg-paper px-1 py-0.5 text-[12.5px]';

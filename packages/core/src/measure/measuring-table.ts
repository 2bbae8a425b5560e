import { MEASURED_NAMES } from './measured-shape.ts';
import { PAIR_RULES } from './measure-pair.ts';

/** The table of pairs as Markdown, from the rules that decide. */
export function measuringTable(): string {
  const rows = PAIR_RULES.flatMap(({ of: [a, b], cases }) =>
    Object.values(cases).map(
      ({ when, leads, beneath }, i) =>
        `| ${i ? '' : `${MEASURED_NAMES[a]} – ${MEASURED_NAMES[b]}`} | ${when} | ${leads} | ${[...beneath, ...(leads === 'Gap' || leads === 'Least distance' ? [] : ['Least distance'])].join(', ')} |`,
    ),
  );
  return ['| pair | condition | leads | beneath |', '| --- | --- | --- | --- |', ...rows].join('\n');
}

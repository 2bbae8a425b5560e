import { figureText } from '@bathyscope/core/facts';
import { unitStyleOf } from '../../state/settings-store.ts';
import { samePick } from '../../state/selection-store.ts';
import { derived } from '../derived/derived.ts';
import { figuresOfOne } from '../measuring/figures.ts';
import { pairOf } from '../measuring/measured.ts';

/**
 * The leading figure of what is under the cursor, before any click: of it alone, or to what is picked. Null
 * where there is none.
 */
export const probe = derived('the figure under the cursor', (ws): string | null => {
  const { hover, picked } = ws.selection.getState();
  const unit = unitStyleOf(ws.profile.getState());
  // What is whole takes longer to sum up than a cursor stays.
  if (!hover || hover.kind === 'component' || hover.kind === 'body') return null;
  const [first] = picked;
  if (picked.length === 1 && !samePick(first, hover)) {
    const pair = pairOf(ws, [first, hover]);
    return pair?.lead
      ? `To what is picked: ${pair.lead.label.toLowerCase()} ${figureText(pair.lead.value, pair.accuracy, unit)}`
      : null;
  }
  const facts = figuresOfOne(ws, hover);
  const lead = facts?.main ?? facts?.rows[0];
  if (!facts || !lead) return null;
  return `Here: ${facts.title}, ${facts.main ? '' : `${lead.label.toLowerCase()} `}${figureText(lead.value, facts.accuracy, unit)}`;
});

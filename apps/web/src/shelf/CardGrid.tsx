import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode, type RefObject } from 'react';
import { useWidth } from '../ui/use-width.ts';

interface Props {
  label: string;
  cards: readonly { key: string; card: ReactNode }[];
  /** What scrolls. */
  scroller: RefObject<HTMLElement | null>;
  /** The last of the cards is about to be seen. */
  onNearEnd: () => void;
}

/** px */
const NARROWEST = 250;
const GAP = 16;
/** px under a picture of 16 to 10: name, counts, size, file, age and tags. */
const TEXT = 146;
/** Rows beyond the window that are there already. */
const OVERSCAN = 2;
const NEAR_END = 4;

/** Cards in as many columns as fit. Only those that are seen exist, however many there are. */
export function CardGrid({ label, cards, scroller, onNearEnd }: Props) {
  const list = useRef<HTMLUListElement>(null);
  const width = useWidth(list);
  const columns = Math.max(1, Math.floor((width + GAP) / (NARROWEST + GAP)));
  const wide = (width - (columns - 1) * GAP) / columns;
  const high = Math.round((wide * 10) / 16) + TEXT;
  const count = Math.ceil(cards.length / columns);
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => high + GAP,
    overscan: OVERSCAN,
    scrollMargin: list.current?.offsetTop ?? 0,
  });
  useEffect(() => rows.measure(), [rows, high]);
  const shown = rows.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    if (count && last >= count - NEAR_END) onNearEnd();
  });
  return (
    <ul
      ref={list}
      aria-label={label}
      className="relative"
      style={{ height: Math.max(0, rows.getTotalSize() - GAP) }}
    >
      {width > 0 &&
        shown.flatMap((row) =>
          cards.slice(row.index * columns, (row.index + 1) * columns).map(({ key, card }, column) => (
            <li
              key={key}
              aria-setsize={cards.length}
              aria-posinset={row.index * columns + column + 1}
              className="absolute"
              style={{
                top: row.start - rows.options.scrollMargin,
                left: column * (wide + GAP),
                width: wide,
                height: high,
              }}
            >
              {card}
            </li>
          )),
        )}
    </ul>
  );
}

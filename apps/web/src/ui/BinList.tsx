import { useState } from 'react';

interface Binned {
  id: string;
  name: string;
  /** When it was deleted, and until when it lies there. */
  said: string;
  putBack: () => void;
  deleteForGood: () => void;
}

interface Props {
  /** Undefined while they are asked for. */
  items: readonly Binned[] | undefined;
  error: string | undefined;
  none: string;
}

const BUTTON = 'shrink-0 rounded border border-border bg-paper px-2 py-0.5 text-[13px] hover:bg-hover';

/** What lies in a bin. Deleting for good asks once more. */
export function BinList({ items, error, none }: Props) {
  const [asked, setAsked] = useState<string | null>(null);
  if (error)
    return (
      <p role="alert" className="text-red">
        {error}
      </p>
    );
  if (!items) return <p className="text-soft">…</p>;
  if (!items.length) return <p className="text-soft">{none}</p>;
  return (
    <ul aria-label="Bin" className="min-h-0 overflow-y-auto">
      {items.map((item) => (
        <li key={item.id} className="flex items-center gap-2 border-b border-line py-1.5 last:border-0">
          <span className="min-w-0 flex-1">
            <span className="block truncate" title={item.name}>
              {item.name}
            </span>
            <span className="text-[12.5px] text-soft">{item.said}</span>
          </span>
          {asked === item.id ? (
            <>
              <button
                type="button"
                className={`${BUTTON} border-red text-red`}
                onClick={() => {
                  setAsked(null);
                  item.deleteForGood();
                }}
              >
                Delete: nothing brings it back
              </button>
              <button type="button" className={BUTTON} onClick={() => setAsked(null)}>
                Keep it
              </button>
            </>
          ) : (
            <>
              <button type="button" className={BUTTON} onClick={item.putBack}>
                Put back
              </button>
              <button type="button" className={BUTTON} onClick={() => setAsked(item.id)}>
                Delete for good
              </button>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

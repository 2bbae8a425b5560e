import { componentName } from '@bathyscope/contracts/records';
import { changeRecords, givenTo } from '../../workspace/keeping/records.ts';
import { massText } from '@bathyscope/core/mass';
import { formatQuantity } from '@bathyscope/core/units';
import { stateOf, visibilityOf } from '@bathyscope/core/visibility';
import { Bolt, ChevronDown, ChevronRight, Eye, EyeOff, Ghost } from 'lucide-react';
import { useCallback, useMemo, useState, type MouseEvent } from 'react';
import { useStore } from 'zustand';
import { partColourOf } from './part-colour.ts';
import { allBelow, rowId, toggleVisible } from './parts-table.ts';
import type { PartColumn } from '../../state/settings-store.ts';
import type { PartRow } from './part-rows.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';

interface RowProps {
  row: PartRow;
  index: number;
  top: number;
  height: number;
  chosen: boolean;
  focusable: boolean;
  /** Widths of the columns, and which there are. */
  layout: { gridTemplateColumns: string; minWidth: number };
  columns: readonly PartColumn[];
  /** What was searched for, marked in the names. */
  search: string;
  onChoose: (e: MouseEvent) => void;
  onFold: () => void;
}

export function PartTableRow({
  row,
  index,
  top,
  height,
  chosen,
  focusable,
  layout,
  columns,
  search,
  onChoose,
  onFold,
}: RowProps) {
  const ws = useWorkspace();
  const states = useStore(ws.visibility, (s) => s.states);
  const below = useSeen(useCallback((now) => allBelow(now, row), [row]));
  const shown = useMemo(() => visibilityOf(states, below), [states, below]);
  const ghosted = below.length > 0 && below.every((p) => stateOf(states, p).ghosted);
  const whole = below.length > 0 && below.every((p) => stateOf(states, p).keptWhole);
  const cells = useSeen((now) => columns.map((c) => cellText(now, c, row)));
  const [renaming, setRenaming] = useState(false);
  return (
    <div
      id={rowId(row.key)}
      role="row"
      aria-level={row.depth + 1}
      aria-posinset={row.position}
      aria-setsize={row.siblings}
      aria-rowindex={index + 2}
      aria-expanded={row.expanded ?? undefined}
      aria-selected={chosen}
      tabIndex={focusable ? 0 : -1}
      style={{ transform: `translateY(${top}px)`, height, ...layout }}
      className={`absolute inset-x-0 grid items-center gap-1 pr-1.5 outline-offset-[-2px] ${chosen ? 'bg-magenta-wash' : 'hover:bg-hover'} ${shown === 'none' ? 'text-soft' : ''}`}
      onClick={onChoose}
      onContextMenu={(e) => {
        e.preventDefault();
        if (!chosen) onChoose(e);
        ws.menu.setState({ open: { x: e.clientX, y: e.clientY, on: 'thing' } });
      }}
      onDoubleClick={() => row.paths.length === 1 && setRenaming(true)}
      onMouseEnter={() =>
        ws.selection.getState().setHover({ kind: 'component', component: row.paths[0], index: 0 })
      }
    >
      <NameCell
        row={row}
        ghosted={ghosted}
        whole={whole}
        search={search}
        onFold={onFold}
        renaming={renaming}
        endRenaming={() => setRenaming(false)}
      />
      {columns.map((c, i) => (
        <span
          key={c}
          role="gridcell"
          className={`truncate text-right text-[12px] text-soft ${c === 'material' ? '' : 'figures'}`}
          title={c === 'material' ? row.material : undefined}
        >
          {cells[i]}
        </span>
      ))}
      <Eyes name={row.name} shown={shown} ghosted={ghosted} onToggle={() => toggleVisible(ws, row)} />
    </div>
  );
}

interface NameProps extends Pick<RowProps, 'row' | 'search' | 'onFold'> {
  ghosted: boolean;
  whole: boolean;
  renaming: boolean;
  endRenaming: () => void;
}

/** The name of a row, with its colour and what unfolds it. */
function NameCell({ row, ghosted, whole, search, onFold, renaming, endRenaming }: NameProps) {
  const ws = useWorkspace();
  const { expanded, name } = row;
  const state = useStore(ws.visibility, ({ states }) =>
    row.paths.length === 1 ? stateOf(states, row.paths[0]) : undefined,
  );
  const colour = partColourOf(row.occurrence, state);
  return (
    <span
      role="gridcell"
      className="flex min-w-0 items-center gap-1"
      style={{ paddingLeft: 8 + Math.min(row.depth, 10) * 14 }}
      title={[row.also ? `${name} (${row.also})` : name, row.within && `in ${row.within}`]
        .filter(Boolean)
        .join(' ')}
    >
      {expanded === null ? (
        <span className="w-5 shrink-0" />
      ) : (
        <button
          type="button"
          tabIndex={-1}
          aria-label={expanded ? `Fold ${name}` : `Unfold ${name}`}
          className="grid size-5 shrink-0 place-items-center rounded text-soft hover:bg-line"
          onClick={(e) => {
            e.stopPropagation();
            onFold();
          }}
        >
          {expanded ? <ChevronDown size={15} aria-hidden /> : <ChevronRight size={15} aria-hidden />}
        </button>
      )}
      {colour && (
        <span
          className="size-2.5 shrink-0 rounded-[2px] border border-black/25"
          style={{ background: colour }}
        />
      )}
      {renaming ? (
        <Rename row={row} close={endRenaming} />
      ) : (
        <span className="min-w-0 truncate">
          <span className={`${expanded === null ? '' : 'font-medium'} ${ghosted ? 'italic opacity-80' : ''}`}>
            <Marked text={name} search={search} />
          </span>
          {row.also && (
            <span className="text-[12.5px] text-soft">
              {' '}
              <Marked text={row.also} search={search} />
            </span>
          )}
          {row.within && <span className="text-[12.5px] text-soft"> in {row.within}</span>}
        </span>
      )}
      {whole && (
        <Bolt
          size={13}
          strokeWidth={1.6}
          className="shrink-0 text-soft"
          role="img"
          aria-label="Kept whole by sections"
        />
      )}
    </span>
  );
}

interface EyesProps {
  name: string;
  shown: ReturnType<typeof visibilityOf>;
  ghosted: boolean;
  onToggle: () => void;
}

/** Whether a row is shown, and what changes it. */
function Eyes({ name, shown, ghosted, onToggle }: EyesProps) {
  const Mark = shown === 'none' ? EyeOff : ghosted ? Ghost : Eye;
  return (
    <span role="gridcell">
      <button
        type="button"
        tabIndex={-1}
        aria-label={`${shown === 'none' ? 'Show' : 'Hide'} ${name}`}
        aria-pressed={shown === 'none' ? false : shown === 'all' ? true : 'mixed'}
        title={
          shown === 'some' ? 'Partly hidden' : ghosted ? 'Ghosted' : shown === 'none' ? 'Hidden' : 'Visible'
        }
        className={`grid size-6 place-items-center rounded hover:bg-line ${shown === 'all' && !ghosted ? 'text-soft' : 'text-magenta'}`}
        onClick={(e) => {
          e.stopPropagation();
          onToggle();
        }}
      >
        <Mark size={15} className={shown === 'some' ? 'opacity-60' : ''} aria-hidden />
      </button>
    </span>
  );
}

/** A name with what was searched for in it marked. */
function Marked({ text, search }: { text: string; search: string }) {
  const wanted = search.trim().toLowerCase();
  const at = wanted ? text.toLowerCase().indexOf(wanted) : -1;
  if (at < 0) return text;
  return (
    <>
      {text.slice(0, at)}
      <mark className="rounded-[2px] bg-magenta-wash text-inherit underline decoration-magenta">
        {text.slice(at, at + wanted.length)}
      </mark>
      {text.slice(at + wanted.length)}
    </>
  );
}

function cellText(ws: Workspace, column: PartColumn, row: PartRow): string {
  if (column === 'material') return row.material || '–';
  if (column === 'mass') return row.mass === null ? '–' : massText(row.mass);
  if (column === 'size') return formatQuantity(row.size, 'length', ws.profile.getState().unit).text;
  return String(row.quantity);
}

/**
 * Gives an occurrence another name on the screen; the file stays as it is. An empty
 * name brings the file's back.
 */
function Rename({ row, close }: { row: PartRow; close: () => void }) {
  const ws = useWorkspace();
  const [text, setText] = useState(row.name);
  const keep = () => {
    const own = row.occurrence.instanceName ?? row.occurrence.name;
    const name = text.trim() || own;
    if (name !== row.name)
      changeRecords(
        ws,
        `name of “${row.name}”`,
        givenTo(ws, componentName, [row.paths[0]], (component) => name !== own && { component, name }),
      );
    close();
  };
  return (
    <input
      autoFocus
      value={text}
      aria-label={`Name of ${row.name} on the screen`}
      maxLength={200}
      className="h-6 min-w-0 flex-1 rounded border border-border bg-well px-1"
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') keep();
        if (e.key === 'Escape') close();
      }}
    />
  );
}

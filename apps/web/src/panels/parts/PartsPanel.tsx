import { keptAt } from '../../workspace/keeping/records.ts';
import { componentName } from '@bathyscope/contracts/records';
import { ListTree, Search, Table2, TriangleAlert, X } from 'lucide-react';
import { useCallback, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { type PickFilter } from '../../state/filter-store.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { PartsTable } from './PartsTable.tsx';
import { PickSets } from './PickSets.tsx';
import { NOWHERE, partRows, type PartRow, type PartsInput, type RowOptions } from './part-rows.ts';
import { ReferenceBranch } from './ReferenceBranch.tsx';
import { materialOf, typedMassOf } from '../../workspace/mass/given-materials.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { setPickFilter } from '../../workspace/picking/pick-filter.ts';
import { changeSettings } from '../../workspace/keeping/change-settings.ts';

const FILTERS: [PickFilter, string][] = [
  ['all', 'Pick all'],
  ['component', 'Components'],
  ['body', 'Bodies'],
  ['face', 'Faces'],
  ['edge', 'Edges'],
  ['vertex', 'Vertices'],
  ['point', 'Points'],
];

/** The rows of the parts as they are named, made of and weighed now. */
function rowsNow(ws: Workspace, options: RowOptions): PartRow[] {
  const { occurrences, byPath, detail, parts } = ws.model.getState();
  if (!detail) return [];
  const input: PartsInput = {
    detail,
    occurrences,
    byPath,
    parts,
    nameOf: (path) => keptAt(ws, componentName, path)?.name,
    materialOf: (part, path) => materialOf(ws, part, path),
    typedMassOf: (part) => typedMassOf(ws, part)?.kg ?? null,
  };
  return partRows(input, options);
}

/** The structure of the model as a tree or as a flat list with quantities; kept picks; reference geometry. */
export function PartsPanel() {
  const ws = useWorkspace();
  const detail = useStore(ws.model, (s) => s.detail);
  const flat = useStore(ws.profile, (s) => s.flatParts);
  const filter = useStore(ws.filter, (s) => s.filter);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<RowOptions['sort']>(null);
  const rows = useSeen(
    useCallback((now) => rowsNow(now, { flat, folded, search, sort }), [flat, folded, search, sort]),
  );
  // In the tree the assemblies above what was found are rows as well.
  const found = useMemo(() => rows.filter((r) => r.match < NOWHERE).length, [rows]);
  const counts = detail?.summary?.counts;
  return (
    <>
      <header className="px-3 pt-2.5">
        <div className="flex items-center">
          <h2 className="flex-1 font-semibold">Parts</h2>
          <IconButton
            icon={ListTree}
            label="Structure as a tree"
            aria-pressed={!flat}
            className={`size-6 ${flat ? 'text-soft' : 'text-blue'}`}
            onClick={() => changeSettings(ws, { flatParts: false })}
          />
          <IconButton
            icon={Table2}
            label="Flat parts list"
            aria-pressed={flat}
            className={`size-6 ${flat ? 'text-blue' : 'text-soft'}`}
            onClick={() => changeSettings(ws, { flatParts: true })}
          />
        </div>
        <div className="flex items-center gap-2 text-[12.5px] text-soft">
          {counts && (
            <span className="flex-1 whitespace-nowrap">
              {counts.components} component{counts.components === 1 ? '' : 's'} of {counts.parts} part
              {counts.parts === 1 ? '' : 's'}
            </span>
          )}
          <select
            aria-label="Pick filter"
            title="What a click in the scene picks"
            value={filter}
            onChange={(e) => setPickFilter(ws, e.target.value as PickFilter)}
            className={`h-6 rounded bg-transparent text-[12.5px] hover:bg-hover ${filter === 'all' ? 'text-soft' : 'font-medium text-magenta'}`}
          >
            {FILTERS.map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </div>
        <PartSearch search={search} setSearch={setSearch} />
        {search.trim() && rows.length > 0 && (
          <p role="status" className="mb-1 text-[12.5px] text-soft">
            {found} found
          </p>
        )}
        <PeekNote />
      </header>
      {search && !rows.length ? (
        <p className="flex-1 px-3 py-4 text-soft">No component is called that.</p>
      ) : (
        <PartsTable
          rows={rows}
          flat={flat}
          search={search}
          sort={sort}
          onSort={setSort}
          changeFolded={setFolded}
        />
      )}
      <PickSets />
      <ReferenceBranch />
      <Warnings warnings={detail?.warnings ?? []} />
    </>
  );
}

function PartSearch({ search, setSearch }: { search: string; setSearch: (text: string) => void }) {
  return (
    <div className="relative mt-1.5 mb-1">
      <Search size={14} className="absolute top-[7px] left-2 text-soft" aria-hidden />
      <input
        type="search"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        placeholder="Search the parts"
        aria-label="Search the parts"
        onKeyDown={(e) => e.key === 'Escape' && (search ? setSearch('') : e.currentTarget.blur())}
        className="h-7 w-full rounded border border-border bg-well pr-7 pl-7 placeholder:text-soft [&::-webkit-search-cancel-button]:hidden"
      />
      {search && (
        <button
          type="button"
          aria-label="Clear the search"
          className="absolute top-1.5 right-1.5 text-soft"
          onClick={() => setSearch('')}
        >
          <X size={15} aria-hidden />
        </button>
      )}
    </div>
  );
}

function PeekNote() {
  const ws = useWorkspace();
  const peeking = useStore(ws.visibility, (s) => s.peeking);
  if (!peeking) return null;
  return (
    <p className="mb-1 flex items-center gap-2 rounded bg-magenta-wash px-2 py-1 text-[13px] text-magenta">
      <span className="flex-1">Peeking: the hidden set is shown. A click brings a component back.</span>
      <button type="button" className="underline" onClick={() => ws.visibility.setState({ peeking: false })}>
        End
      </button>
    </p>
  );
}

function Warnings({ warnings }: { warnings: string[] }) {
  if (!warnings.length) return null;
  return (
    <ul
      aria-label="About the file"
      className="max-h-28 shrink-0 overflow-y-auto border-t border-line px-3 py-2 text-[12.5px] text-amber"
    >
      {warnings.map((w) => (
        <li key={w} className="flex gap-1.5 py-0.5">
          <TriangleAlert size={14} className="mt-0.5 shrink-0" aria-hidden />
          {w}
        </li>
      ))}
    </ul>
  );
}

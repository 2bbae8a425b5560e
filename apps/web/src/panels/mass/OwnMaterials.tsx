import { DialogTitle } from '@headlessui/react';
import type { OwnMaterial } from '@bathyscope/contracts';
import {
  densityText,
  MATERIAL_FAMILIES,
  readDensity,
  type MaterialFamily,
  type ReadDensity,
} from '@bathyscope/core/mass';
import { Pencil, Trash2 } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { toast } from '../../ui/notices.ts';
import { useStore } from 'zustand';
import { v4 as uuid } from 'uuid';
import { IconButton } from '../../ui/IconButton.tsx';
import { Window } from '../../ui/Window.tsx';
import { removeMaterial, saveMaterial } from '../../workspace/keeping/library.ts';
import { useWorkspace } from '../use-workspace.ts';
import { BUTTON, FIELD, SELECT } from './Head.tsx';
import { WhichDensity } from './WhichDensity.tsx';

interface Draft {
  id: string;
  name: string;
  family: MaterialFamily;
  density: string;
  spread: string;
  source: string;
}

const newDraft = (): Draft => ({
  id: uuid(),
  name: '',
  family: 'Polymer',
  density: '',
  spread: '',
  source: '',
});

/** The materials that were added here: for everybody who works with this installation. */
export function OwnMaterials({ close }: { close: () => void }) {
  const ws = useWorkspace();
  const own = useStore(ws.library, (s) => s.own);
  const [draft, setDraft] = useState(newDraft);
  return (
    <Window open close={close} className="w-[30rem]">
      <DialogTitle className="font-semibold">Own materials</DialogTitle>
      <p className="mt-1 text-[13px] text-soft">Everybody who works with this installation has them.</p>
      {own.length > 0 && (
        <ul aria-label="Own materials" className="mt-2 max-h-48 overflow-y-auto border-y border-line">
          {own.map((m) => (
            <li
              key={m.id}
              className="flex items-center gap-2 border-b border-line py-0.5 text-[13px] last:border-0"
            >
              <span className="min-w-0 flex-1 break-words" title={m.source}>
                {m.name}
              </span>
              <span className="figures text-[12.5px] text-soft">
                {densityText(m.density)} ± {m.spread}
              </span>
              <IconButton
                icon={Pencil}
                label={`Change ${m.name}`}
                onClick={() => setDraft({ ...m, density: String(m.density), spread: String(m.spread) })}
              />
              <IconButton
                icon={Trash2}
                label={`Delete ${m.name}`}
                onClick={() => void removeMaterial(ws, m).catch(say)}
              />
            </li>
          ))}
        </ul>
      )}
      <MaterialForm
        key={draft.id}
        draft={draft}
        change={setDraft}
        done={() => setDraft(newDraft())}
        isNew={!own.some((m) => m.id === draft.id)}
      />
      <div className="mt-3 flex justify-end">
        <button type="button" className={BUTTON} onClick={close}>
          Close
        </button>
      </div>
    </Window>
  );
}

const say = (error: Error): void => void toast.error(error.message, { id: 'library' });

function MaterialForm({
  draft,
  change,
  done,
  isNew,
}: {
  draft: Draft;
  change: (draft: Draft) => void;
  done: () => void;
  isNew: boolean;
}) {
  const ws = useWorkspace();
  const [problem, setProblem] = useState<string | null>(null);
  const [either, setEither] = useState<Extract<ReadDensity, { either: unknown }> | null>(null);
  const set = (key: keyof Draft) => (e: { target: { value: string } }) =>
    change({ ...draft, [key]: e.target.value });
  const save = (density: number) => {
    setEither(null);
    const spread = draft.spread.trim() ? readDensity(draft.spread) : { density: 0 };
    // A spread is small, so a bare number is as written.
    const off = 'density' in spread ? spread.density : 'either' in spread ? spread.either[0] : null;
    if (!draft.name.trim()) return setProblem('Give the material a name.');
    if (off === null || off > density)
      return setProblem('The spread is a density, and less than the density itself.');
    const material: OwnMaterial = {
      id: draft.id,
      name: draft.name.trim(),
      family: draft.family,
      density,
      spread: off,
      source: draft.source.trim(),
    };
    saveMaterial(ws, material).then(
      () => (setProblem(null), done()),
      (error: Error) => setProblem(error.message),
    );
  };
  const submit = () => {
    const read = readDensity(draft.density);
    setProblem('wrong' in read ? read.wrong : null);
    if ('density' in read) save(read.density);
    else setEither('either' in read ? read : null);
  };
  const text = (key: 'name' | 'density' | 'spread' | 'source', label: string, placeholder?: string) => (
    <FormRow label={label}>
      <input
        className={`${FIELD} flex-1`}
        value={draft[key]}
        maxLength={200}
        placeholder={placeholder}
        onChange={set(key)}
      />
    </FormRow>
  );
  return (
    <form
      className="mt-3 flex flex-col gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      {text('name', 'Name')}
      <FormRow label="Family">
        <select className={`${SELECT} flex-1`} value={draft.family} onChange={set('family')}>
          {MATERIAL_FAMILIES.map((f) => (
            <option key={f}>{f}</option>
          ))}
        </select>
      </FormRow>
      {text('density', 'Density', '7850 or 7.85 g/cm³')}
      {text('spread', 'Spread ±', 'kg/m³')}
      {text('source', 'Source', 'maker’s sheet, weighed …')}
      {problem && (
        <p role="alert" className="text-[12.5px] text-red">
          {problem}
        </p>
      )}
      {either && <WhichDensity written={draft.density} either={either.either} onTake={save} />}
      <button
        type="submit"
        className="self-end rounded bg-blue px-3 py-1 text-[13px] font-medium text-on-blue"
      >
        {isNew ? 'Add' : 'Save'}
      </button>
    </form>
  );
}

function FormRow({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="flex items-center gap-2 text-[13px]">
      <span className="w-20 text-soft">{label}</span>
      {children}
    </label>
  );
}

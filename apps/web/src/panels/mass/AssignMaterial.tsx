import { Hand } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { pathsOf } from '../../workspace/mass/chosen-mass.ts';
import { giveMaterial, giveToComponents } from '../../workspace/mass/given-materials.ts';
import type { PartMass } from '../../workspace/mass/chosen-mass.ts';
import { partsLikePicked, partsNamed } from '../../workspace/shown/parts-like.ts';
import { MATERIAL_DRAG } from './material-drag.ts';
import { useSeen } from '../use-derived.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { useWorkspace } from '../use-workspace.ts';
import { BUTTON, FIELD, Head, LINK, SELECT } from './Head.tsx';
import { MaterialOptions } from './MaterialOptions.tsx';
import { OwnMaterials } from './OwnMaterials.tsx';

const TARGETS = [
  ['picked', 'the parts picked, wherever they are'],
  ['components', 'the components picked alone'],
  ['missing', 'all without a material'],
  ['colour', 'parts of the colour picked'],
  ['name', 'parts whose name holds …'],
] as const;
type Target = (typeof TARGETS)[number][0];

/**
 * Gives a material to many at once: what is picked, what has none, what has one colour or a word in its name.
 */
export function AssignMaterial({ parts }: { parts: readonly PartMass[] }) {
  const ws = useWorkspace();
  const [material, setMaterial] = useState('');
  const [target, setTarget] = useState<Target>('picked');
  const [word, setWord] = useState('');
  const [own, setOwn] = useState(false);
  const picked = useStore(ws.selection, (s) => s.picked);
  const { byPath } = useStore(ws.model);
  const paths = useSeen((now) => (picked.length ? pathsOf(now, 'picked') : []));
  const partsOf = (now: Workspace): readonly number[] => {
    if (target === 'missing')
      return parts.filter((p) => !p.material?.density && !p.typed && !p.open).map((p) => p.part);
    if (target === 'name') return partsNamed(now, word);
    if (target === 'colour') return partsLikePicked(now, paths);
    return [...new Set(paths.flatMap((p) => byPath.get(p)?.part ?? []))];
  };
  const found = useSeen(partsOf);
  const count = target === 'components' ? paths.length : found.length;
  const what = target === 'components' ? 'component' : 'part';
  const give = (id: string | null) =>
    target === 'components' ? giveToComponents(ws, paths, id) : giveMaterial(ws, found, id);
  return (
    <Head
      title="Materials"
      aside={
        <button type="button" className={LINK} onClick={() => setOwn(true)}>
          Own materials …
        </button>
      }
    >
      <div className="mt-1 flex flex-col gap-1">
        <div className="flex items-center gap-1">
          <select
            aria-label="Material to give"
            className={`${SELECT} flex-1`}
            value={material}
            onChange={(e) => setMaterial(e.target.value)}
          >
            <option value="">Choose a material …</option>
            <MaterialOptions />
          </select>
          <span
            draggable={material !== ''}
            title="Drag it onto a part, in the scene or in the list"
            aria-hidden
            onDragStart={(e) => e.dataTransfer.setData(MATERIAL_DRAG, material)}
            className={`rounded border border-border p-1 ${material ? 'cursor-grab text-ink' : 'text-soft opacity-50'}`}
          >
            <Hand size={14} />
          </span>
        </div>
        <div className="flex items-center gap-1.5 text-[12.5px]">
          <span className="shrink-0 text-soft">for</span>
          <select
            aria-label="Whom to give it"
            className={`${SELECT} flex-1`}
            value={target}
            onChange={(e) => setTarget(e.target.value as Target)}
          >
            {TARGETS.map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </div>
        {target === 'name' && (
          <input
            aria-label="Word in the name"
            className={FIELD}
            value={word}
            placeholder="bolt"
            onChange={(e) => setWord(e.target.value)}
          />
        )}
        <div className="flex items-center justify-between gap-2">
          <span className="text-[12.5px] text-soft" role="status">
            {count === 0 ? emptyText(target) : `${count} ${what}${count === 1 ? '' : 's'}`}
          </span>
          <span className="flex gap-1">
            <button type="button" className={BUTTON} disabled={!count} onClick={() => give(null)}>
              Take away
            </button>
            <button
              type="button"
              className={BUTTON}
              disabled={!count || !material}
              onClick={() => give(material)}
            >
              Give
            </button>
          </span>
        </div>
      </div>
      {own && <OwnMaterials close={() => setOwn(false)} />}
    </Head>
  );
}

function emptyText(target: Target): string {
  if (target === 'missing') return 'All have one.';
  if (target === 'name') return 'No part has that in its name.';
  return 'Pick parts in the scene or in Parts.';
}

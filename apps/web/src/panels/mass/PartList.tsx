import { densityText, massText } from '@bathyscope/core/mass';
import { map3, type Vec3 } from '@bathyscope/core/math';
import { readQuantity } from '@bathyscope/core/units';
import { memo, useState } from 'react';
import { useStore } from 'zustand';
import { giveMaterial, giveToComponents, typeMass } from '../../workspace/mass/given-materials.ts';
import { openEdges } from '../../workspace/mass/open-edges.ts';
import type { PartMass } from '../../workspace/mass/chosen-mass.ts';
import { findMaterial } from '../../workspace/keeping/library.ts';
import { showPlace } from '../../workspace/view/show-place.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { BUTTON, FIELD, Head, LINK, SELECT } from './Head.tsx';
import { takesMaterial } from './material-drag.ts';
import { MaterialOptions } from './MaterialOptions.tsx';

/** Parts beyond this are counted. */
const LISTED = 100;

/** The parts of the set, what is not known first: what each is made of and weighs. */
export function PartList({ parts }: { parts: readonly PartMass[] }) {
  const more = parts.length - LISTED;
  return (
    <Head title="By part">
      <ul aria-label="Parts by mass">
        {parts.slice(0, LISTED).map((part) => (
          <PartRow key={`${part.part} ${part.paths[0]}`} part={part} />
        ))}
      </ul>
      {more > 0 && <p className="text-[13px] text-soft">and {more} more, lighter ones</p>}
      <p className="mt-2 text-[12.5px] text-soft">
        Densities of the library are from memory of standards and handbooks; each says how far a delivered
        piece may be off.
      </p>
    </Head>
  );
}

const PartRow = memo(function PartRow({ part }: { part: PartMass }) {
  const ws = useWorkspace();
  const { name, count, open, each, total, paths, typed, scaled, assumed } = part;
  const [typing, setTyping] = useState(false);
  return (
    <li
      className="border-b border-line py-1 last:border-0"
      {...takesMaterial((id) => giveMaterial(ws, [part.part], id))}
    >
      <div className="flex items-baseline justify-between gap-2">
        <button
          type="button"
          title="Pick its components"
          className="min-h-6 min-w-0 flex-1 text-left text-[13px] break-words hover:text-magenta"
          onClick={() =>
            ws.selection
              .getState()
              .pick(paths.map((component) => ({ kind: 'component', component, index: 0 })))
          }
        >
          {count > 1 && <span className="figures text-soft">{count} × </span>}
          {name}
        </button>
        <span
          className={`figures shrink-0 text-[12.5px] ${total === null || assumed ? 'text-amber' : ''}`}
          title={each !== null && count > 1 ? `${massText(each)} each` : undefined}
        >
          {total === null ? '–' : massText(total)}
        </span>
      </div>
      {open && !typed && <OpenReason part={part} />}
      {scaled && <p className="text-[12.5px] text-soft">{scaled}</p>}
      {typed ? (
        <p className="flex items-baseline justify-between gap-2 text-[12.5px] text-soft">
          <span>
            typed in: {massText(typed.kg)}
            {count > 1 ? ' each' : ''}
            {typed.at ? ', with its centre' : ''}
          </span>
          <button type="button" className={LINK} onClick={() => typeMass(ws, part.part, null)}>
            Weigh it again
          </button>
        </p>
      ) : (
        <div className="flex items-center gap-1">
          {!open && <MaterialChoice part={part} />}
          <button
            type="button"
            className={`${LINK} ml-auto shrink-0`}
            aria-expanded={typing}
            onClick={() => setTyping((t) => !t)}
          >
            Type mass
          </button>
        </div>
      )}
      {typing && !typed && <TypeMass part={part} done={() => setTyping(false)} />}
    </li>
  );
});

/** Why it has no volume, with the way to the place. */
function OpenReason({ part: { part, open, paths } }: { part: PartMass }) {
  const ws = useWorkspace();
  const free = useSeen((now) => openEdges(now, part));
  return (
    <p className="flex items-baseline justify-between gap-2 text-[12.5px] text-amber">
      <span>{open}</span>
      {free.length > 0 && (
        <button type="button" className={LINK} onClick={() => showPlace(ws, paths[0], free)}>
          Show {free.length === 1 ? 'it' : 'them'}
        </button>
      )}
    </p>
  );
}

const kilograms = (text: string) => readQuantity(text, 'mass', 1);
const millimetres = (text: string) => readQuantity(text, 'length', 1);

/** A mass, and where its centre lies in the part's own axes if that is known. */
function TypeMass({ part: { part, name }, done }: { part: PartMass; done: () => void }) {
  const ws = useWorkspace();
  const [mass, setMass] = useState('');
  const [at, setAt] = useState(['', '', '']);
  const [said, setSaid] = useState<string | null>(null);
  const [outside, setOutside] = useState<Vec3 | null>(null);
  const box = useStore(ws.model, (s) => s.parts.get(part)?.geometry.box);
  const take = (anyway: boolean) => {
    const kg = kilograms(mass);
    if ('wrong' in kg) return setSaid(kg.wrong);
    if (!(kg.value > 0)) return setSaid('A mass is above 0, for example 0.35 or 350 g.');
    const given = at.some((x) => x.trim() !== '');
    if (given && at.some((x) => x.trim() === ''))
      return setSaid('Type all three coordinates of the centre, or none.');
    const read = given ? at.map(millimetres) : [];
    const wrong = read.find((r) => 'wrong' in r);
    if (wrong && 'wrong' in wrong) return setSaid(wrong.wrong);
    const point = given ? map3(read, (r) => ('value' in r ? r.value : 0)) : null;
    const isOutside = point && box && point.some((x, k) => x < box.min[k] || x > box.max[k]);
    if (isOutside && !anyway) {
      setSaid(null);
      return setOutside(point);
    }
    typeMass(ws, part, { kg: kg.value, at: point });
    done();
  };
  return (
    <form
      className="mt-1 flex flex-col gap-1 rounded border border-line p-1.5"
      aria-label={`Mass of ${name}`}
      onSubmit={(e) => {
        e.preventDefault();
        take(false);
      }}
    >
      <label className="flex items-center gap-1.5 text-[12.5px] text-soft">
        <span className="w-14">Mass</span>
        <input
          autoFocus
          className={`${FIELD} flex-1 text-right text-ink`}
          value={mass}
          placeholder="0.35 kg or 350 g"
          onChange={(e) => setMass(e.target.value)}
        />
      </label>
      <div className="flex items-center gap-1 text-[12.5px] text-soft">
        <span className="w-14 shrink-0">Centre</span>
        {['X', 'Y', 'Z'].map((axis, k) => (
          <input
            key={axis}
            aria-label={`Centre ${axis}, mm in the part’s axes`}
            className={`${FIELD} w-0 flex-1 text-right text-ink`}
            value={at[k]}
            placeholder={axis}
            onChange={(e) => setAt(at.map((x, i) => (i === k ? e.target.value : x)))}
          />
        ))}
      </div>
      {said && (
        <p role="alert" className="text-[12.5px] text-red">
          {said}
        </p>
      )}
      {outside && (
        <p role="alert" className="text-[12.5px] text-amber">
          That centre lies outside the part’s box.{' '}
          <button type="button" className={LINK} onClick={() => take(true)}>
            Take it all the same
          </button>
        </p>
      )}
      <div className="flex justify-end gap-1">
        <button type="button" className={BUTTON} onClick={done}>
          Cancel
        </button>
        <button type="submit" className={BUTTON}>
          Take
        </button>
      </div>
    </form>
  );
}

function MaterialChoice({ part: { part, name, material, paths } }: { part: PartMass }) {
  const ws = useWorkspace();
  const single = material?.of === 'component';
  const known = useSeen((now) => (material?.id ? findMaterial(now, material.id) : undefined));
  const without =
    material?.of === 'file' ? `${material.name} (file)` : known ? 'as in the file' : 'no material';
  return (
    <label className="flex min-w-0 flex-1 items-center gap-1 text-[12.5px]">
      <select
        aria-label={`Material of ${name}`}
        title={material?.name}
        value={material?.id ?? ''}
        className={`${SELECT} flex-1 ${material ? '' : 'text-amber'}`}
        onChange={(e) =>
          single
            ? giveToComponents(ws, paths, e.target.value || null)
            : giveMaterial(ws, [part], e.target.value || null)
        }
      >
        <option value="">{single ? 'as its part' : without}</option>
        <MaterialOptions />
      </select>
      <span
        className="figures shrink-0 text-soft"
        title={known ? `± ${known.spread} kg/m³; ${known.source}` : undefined}
      >
        {material?.density ? densityText(material.density) : ''}
      </span>
    </label>
  );
}

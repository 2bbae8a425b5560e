import { MATERIAL_FAMILIES, MATERIALS, formatQuantity, massText, type UnitStyle, type Weight } from '@bathyscope/core';
import { memo, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { saveCsv } from '../../pictures/save-csv.ts';
import { Choice } from '../../ui/Choice.tsx';
import { giveMaterial, partWeights, pathsOf, weightOf, type PartWeight, type WeighedSet } from '../../workspace/weights.ts';
import { useUnits } from '../use-units.ts';
import { useWorkspace } from '../use-workspace.ts';

const SETS = [
  ['all', 'All'],
  ['shown', 'Shown'],
  ['picked', 'Picked'],
] as const;

/** Parts beyond this are counted. */
const LISTED = 100;

/** What a set weighs, what of it is not known, and what each part of it is made of. */
export function MassPanel() {
  const ws = useWorkspace();
  const [set, setSet] = useState<WeighedSet>('all');
  const model = useStore(ws.model);
  const materials = useStore(ws.preference, (s) => s.materials);
  // What a set does not ask about does not weigh it anew.
  const states = useStore(ws.visibility, (s) => (set === 'shown' ? s : null));
  const picked = useStore(ws.selection, (s) => (set === 'picked' ? s.picked : null));
  const ready = model.status === 'ready';
  const { weighed, parts } = useMemo(() => {
    const paths = ready ? pathsOf(ws, set) : [];
    return { weighed: weightOf(ws, paths), parts: partWeights(ws, paths) };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- read by those functions
  }, [ws, ready, set, model, materials, states, picked]);
  const { known, noDensity, noVolume } = weighed;
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-y-auto pt-2.5 pb-4">
      <h2 className="px-3 font-semibold">Mass</h2>
      <div className="mt-1.5 px-3">
        <Choice label="Mass of" value={set} options={SETS} onChange={setSet} />
      </div>
      <section aria-label="Total" className="px-3 pt-2">
        <p className="flex items-baseline gap-2">
          <span className="figures text-[20px] font-medium" data-testid="total-mass">
            {known ? massText(known.mass) : '–'}
          </span>
          <span className="text-[13px] text-soft">{noDensity || noVolume ? 'known mass' : 'in all'}</span>
        </p>
        {noDensity > 0 && (
          <p className="text-[13px] text-amber" role="status">
            {noDensity === 1 ? 'One component has no material.' : `${noDensity} components have no material.`}
          </p>
        )}
        {noVolume > 0 && (
          <p className="text-[13px] text-amber">
            {noVolume === 1
              ? 'One component is no closed solid and has no volume.'
              : `${noVolume} components are no closed solids and have no volume.`}
          </p>
        )}
        {!parts.length && (
          <p className="text-[13px] text-soft">{set === 'picked' ? 'Pick components to weigh them.' : 'Nothing is shown.'}</p>
        )}
        {known && <Properties known={known} partly={noDensity + noVolume > 0} />}
      </section>
      {parts.length > 0 && (
        <section aria-label="Materials" className="mt-3 border-t border-line px-3 pt-2">
          <div className="flex items-baseline justify-between gap-2">
            <h3 className="text-[12.5px] font-semibold tracking-wide text-soft uppercase">By part</h3>
            <button type="button" className="text-[13px] text-blue hover:underline" onClick={() => saveCsv(ws, 'mass', csvOf(parts))}>
              Save as CSV
            </button>
          </div>
          <ul aria-label="Parts by mass">
            {parts.slice(0, LISTED).map((part) => (
              <PartRow key={part.part} part={part} />
            ))}
          </ul>
          {parts.length > LISTED && <p className="text-[13px] text-soft">and {parts.length - LISTED} more, lighter ones</p>}
          <p className="mt-2 text-[12.5px] text-soft">
            Densities of the library are from memory of standards and handbooks; each says how far a delivered piece may be off.
          </p>
        </section>
      )}
    </div>
  );
}

/** Plain numbers, to six digits; empty where nothing is known. */
function csvOf(parts: readonly PartWeight[]): string[][] {
  const plain = (kg: number | null) => (kg === null ? '' : String(Number(kg.toPrecision(6))));
  return [
    ['Part', 'Quantity', 'Material', 'Density, kg/m³', 'Each, kg', 'Total, kg', 'Note'],
    ...parts.map(({ name, count, material, each, total, open }) => [
      name,
      String(count),
      material?.name ?? '',
      String(material?.density ?? ''),
      plain(each),
      plain(total),
      open ?? (material ? '' : 'no material'),
    ]),
  ];
}

function Properties({ known, partly }: { known: Weight; partly: boolean }) {
  const unit = useUnits();
  const say = (mm: number) => formatQuantity(mm, 'length', unit).text;
  const { text, unit: cubic } = formatQuantity(known.volume, 'volume', unit);
  const rows: [string, string, string][] = [
    [partly ? 'Volume of what is known' : 'Volume', text, cubic],
    ['Centre of gravity', known.centreOfGravity.map(say).join('  '), shownUnit(unit)],
    ['Principal moments', known.principal.moments.map((m) => m.toPrecision(6)).join('  '), 'kg·mm²'],
    ['Radii of gyration', known.radiiOfGyration.map(say).join('  '), shownUnit(unit)],
  ];
  return (
    <dl className="mt-1">
      {rows.map(([label, value, shown]) => (
        <div key={label} className="border-b border-line py-1 last:border-0">
          <dt className="text-[13px] text-soft">
            {label} <span className="float-right text-[12px]">{shown}</span>
          </dt>
          <dd className="figures text-right text-[12.5px] break-words">{value}</dd>
        </div>
      ))}
      {known.accuracy.kind === 'mesh' && <p className="text-[12.5px] text-amber">Some volumes come from the mesh.</p>}
    </dl>
  );
}

const shownUnit = ({ unit }: UnitStyle): string => unit;

const PartRow = memo(function PartRow({ part }: { part: PartWeight }) {
  const ws = useWorkspace();
  const { name, count, material, open, each, total, paths } = part;
  return (
    <li className="border-b border-line py-1 last:border-0">
      <div className="flex items-baseline justify-between gap-2">
        <button
          type="button"
          title="Pick its components"
          className="min-h-6 min-w-0 flex-1 text-left text-[13px] break-words hover:text-magenta"
          onClick={() => ws.selection.getState().pick(paths.map((component) => ({ kind: 'component', component, index: 0 })))}
        >
          {count > 1 && <span className="figures text-soft">{count} × </span>}
          {name}
        </button>
        <span
          className={`figures shrink-0 text-[12.5px] ${total === null ? 'text-amber' : ''}`}
          title={each !== null && count > 1 ? `${massText(each)} each` : undefined}
        >
          {total === null ? '–' : massText(total)}
        </span>
      </div>
      {open ? <p className="text-[12.5px] text-amber">{open}</p> : <MaterialChoice part={part.part} name={name} material={material} />}
    </li>
  );
});

function MaterialChoice({ part, name, material }: { part: number; name: string; material: PartWeight['material'] }) {
  const ws = useWorkspace();
  const given = MATERIALS.find((m) => material?.of === 'library' && m.name === material.name);
  return (
    <label className="flex items-center gap-1 text-[12.5px]">
      <select
        aria-label={`Material of ${name}`}
        value={given?.id ?? ''}
        className={`min-w-0 flex-1 rounded border border-line bg-paper px-1 py-0.5 ${material ? '' : 'text-amber'}`}
        onChange={(e) => giveMaterial(ws, [part], e.target.value || null)}
      >
        <option value="">{material?.of === 'file' ? `${material.name} (file)` : given ? 'as in the file' : 'no material'}</option>
        {MATERIAL_FAMILIES.map((family) => (
          <optgroup key={family} label={family}>
            {MATERIALS.filter((m) => m.family === family).map((m) => (
              <option key={m.id} value={m.id}>
                {m.name}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
      <span className="figures shrink-0 text-soft" title={given ? `± ${given.spread} kg/m³; ${given.source}` : undefined}>
        {material?.density ? `${material.density} kg/m³` : ''}
      </span>
    </label>
  );
}

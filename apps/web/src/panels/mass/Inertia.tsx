import { referenceSystem } from '@bathyscope/contracts/records';
import { inertiaIn, massFigures, type SetMass, type MassProperties } from '@bathyscope/core/mass';
import { useStore } from 'zustand';
import { inertiaSystem } from '../../workspace/mass/mass-in-system.ts';
import { useRecords } from '../use-records.ts';
import { useSeen } from '../use-derived.ts';
import { useWorkspace } from '../use-workspace.ts';
import { FigureRows, Head, SELECT } from './Head.tsx';
import { alignPoints, tableText } from './table-text.ts';

const NAMES = ['x', 'y', 'z'];
const MARKS = [
  ['axes', 'axes'],
  ['ellipsoid', 'ellipsoid'],
] as const;

/** The inertia about a chosen place, its principal moments and radii of gyration. */
export function Inertia({ known, weighed }: { known: MassProperties; weighed: SetMass }) {
  const ws = useWorkspace();
  const { about, products, marks } = useStore(ws.mass);
  const systems = useRecords(referenceSystem);
  const system = useSeen((now) => inertiaSystem(now, about, known.centreOfGravity));
  const tensor = system && inertiaIn(known, system);
  const sign = products === 'tensor' ? 1 : -1;
  const cells = tensor
    ? tableText(tensor.flatMap((row, i) => row.map((x, j) => (i === j ? x : sign * x))))
    : null;
  const columns = cells && NAMES.map((_, j) => alignPoints(NAMES.map((__, i) => cells[3 * i + j])));
  return (
    <Head
      title="Inertia about"
      aside={
        <select
          aria-label="Inertia about"
          className={`${SELECT} max-w-40`}
          value={about}
          onChange={(e) => ws.mass.setState({ about: e.target.value })}
        >
          <option value="centre">the centre of gravity</option>
          <option value="origin">the model’s origin</option>
          {systems.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
      }
    >
      {columns ? (
        <table className="figures mt-1 w-full text-right text-[12.5px]" aria-label="Tensor of inertia">
          <tbody>
            {NAMES.map((name, i) => (
              <tr key={name}>
                <th scope="row" className="pr-1 text-left font-normal text-soft">
                  {name}
                </th>
                {NAMES.map((other, j) => (
                  <td key={other}>{columns[j][i]}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <p className="text-[13px] text-amber">What that system was made of is not in the model any more.</p>
      )}
      <div className="flex items-baseline justify-between gap-2 text-[12.5px] text-soft">
        <select
          aria-label="Sign of the products of inertia"
          className={SELECT}
          value={products}
          onChange={(e) => ws.mass.setState({ products: e.target.value as typeof products })}
        >
          <option value="tensor">products as −∫xy dm</option>
          <option value="plain">products as +∫xy dm</option>
        </select>
        <span>kg·mm²</span>
      </div>
      <p className="mt-1 flex gap-3 text-[12.5px]">
        <span className="text-soft">Drawn:</span>
        {MARKS.map(([key, name]) => (
          <label key={key} className="flex items-center gap-1">
            <input
              type="checkbox"
              className="accent-(--blue)"
              checked={marks[key]}
              onChange={(e) => ws.mass.setState({ marks: { ...marks, [key]: e.target.checked } })}
            />
            {name}
          </label>
        ))}
      </p>
      <dl className="mt-1">
        <FigureRows figures={massFigures(weighed)} group="inertia" />
      </dl>
    </Head>
  );
}

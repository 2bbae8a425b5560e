import type { Combination } from '@bathyscope/core/math';
import {
  type ComponentCut,
  type CutPlane,
  type HalfPlane,
  halfPlaneOf,
  type JudgedCut,
  judgeCut,
  seenBelow,
} from '@bathyscope/core/section';
import { messageOf } from '@bathyscope/core/tables';
import type { PlaneCut } from '../../state/cut-store.ts';
import type { Workspace } from '../workspace.ts';
import { chordOf } from './cuts.ts';

/** ms that a cut must have stood still before the kernel is asked. */
const SETTLED = 350;
/** Components of one question: the answer to one is shown while the next is computed. */
const BATCH = 12;
/** Components that are asked for by themselves; more only on request. */
export const ASKED_ALONE = 60;

/**
 * Asks the kernel for the exact cut once the section stands still, and checks each answer against the mesh.
 */
export class ExactCuts {
  private readonly ws: Workspace;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private asked = 0;

  constructor(ws: Workspace) {
    this.ws = ws;
  }

  /**
   * @param limit how many components may be asked for
   * @returns whether answers will come
   */
  ask(planes: readonly PlaneCut[], combine: Combination, limit = ASKED_ALONE): boolean {
    this.dispose();
    const count = planes.reduce((n, p) => n + p.cuts.length, 0);
    if (!count || count > limit) return false;
    const turn = this.asked;
    this.timer = setTimeout(() => void this.run(planes, combine, turn), SETTLED);
    return true;
  }

  dispose(): void {
    clearTimeout(this.timer);
    this.asked++;
  }

  private async run(planes: readonly PlaneCut[], combine: Combination, turn: number): Promise<void> {
    for (const plane of planes) {
      const beside = planes.filter((p) => p !== plane).map((p) => p.cut);
      const others = seenBelow(beside, combine).map((other) => halfPlaneOf(plane.cut, other));
      for (let i = 0; i < plane.cuts.length; i += BATCH) {
        const answers = await askFor(this.ws, plane.cut, plane.cuts.slice(i, i + BATCH), others);
        if (turn !== this.asked) return;
        this.ws.cut.setState(({ exact }) => ({
          exact: new Map(exact).set(
            plane.plane.id,
            new Map([...(exact.get(plane.plane.id) ?? []), ...answers]),
          ),
        }));
      }
    }
    this.ws.cut.setState({ asking: false });
  }
}

async function askFor(
  ws: Workspace,
  plane: CutPlane,
  cuts: readonly ComponentCut[],
  others: readonly (HalfPlane | null | 'nothing')[],
): Promise<[number, JudgedCut][]> {
  const { components, parts } = ws.model.getState();
  const all = (of: readonly ComponentCut[], failed: string) =>
    of.map((c): [number, JudgedCut] => [c.component, { failed }]);
  if (!ws.source.can.ask) return all(cuts, 'there is no kernel to ask here');
  const isExact = (c: ComponentCut) => parts.get(components[c.component].part)?.geometry.exact !== false;
  // A mesh has no exact cut; it does not take the others with it.
  const [exact, meshes] = [
    cuts.filter(isExact),
    all(
      cuts.filter((c) => !isExact(c)),
      'it is a mesh',
    ),
  ];
  if (!exact.length) return meshes;
  try {
    const { normal, constant, up } = plane;
    const found = await ws.source.ask('section', {
      normal,
      constant,
      up,
      components: exact.map((c) => components[c.component].path),
    });
    const answers = found.map((answer, i): [number, JudgedCut] => [
      exact[i].component,
      'failed' in answer
        ? { failed: answer.failed }
        : judgeCut(answer, exact[i], chordOf(ws, exact[i].component), others),
    ]);
    return [...answers, ...meshes];
  } catch (error) {
    return [...all(exact, messageOf(error)), ...meshes];
  }
}

import { componentColour } from '@bathyscope/core/colours';
import type { CutLayer } from '@bathyscope/core/drawing';
import { stateOf } from '@bathyscope/core/visibility';
import { derivedBy } from '../workspace/derived/derived.ts';
import { hatchOf } from '../workspace/cutting/hatches.ts';
import { type PlaneCut } from '../state/cut-store.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { bestCut, loopsOf, openOf } from '../workspace/cutting/cuts.ts';

export const cutLayers = derivedBy(
  'the layers of a cut',
  (ws, { plane, cuts }: PlaneCut): (CutLayer & { path: string })[] => {
    const { components } = ws.model.getState();
    return cuts.map((cut) => {
      const component = components[cut.component];
      const { properties } = bestCut(ws, plane.id, cut);
      return {
        thickness: properties ? (2 * properties.area) / properties.perimeter : Infinity,
        path: component.path,
        name: component.instanceName ?? component.name,
        colour: componentColour(component, stateOf(ws.visibility.getState().states, component.path)),
        hatch: hatchOf(ws, component.part),
        loops: loopsOf(ws, plane.id, cut),
        open: openOf(ws, cut),
      };
    });
  },
);

/** A plane's cut as a drawing, a layer for each component. */
export const layersOf = (ws: Workspace, cut: PlaneCut): (CutLayer & { path: string })[] =>
  ws.derived.of(cutLayers, cut);

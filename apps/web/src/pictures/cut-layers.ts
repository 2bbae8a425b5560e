import { componentColour, stateOf, type CutLayer } from '@bathyscope/core';
import { hatchOf } from '../scene/section-caps.ts';
import { bestCut, loopsOf, openOf, type PlaneCut } from '../stores/cut-store.ts';
import { modelStore } from '../stores/model-store.ts';
import { visibilityStore } from '../stores/visibility-store.ts';

/** A plane's cut as a drawing, a layer for each component. */
export function layersOf({ plane, cuts }: PlaneCut): (CutLayer & { path: string })[] {
  const { components } = modelStore.getState();
  return cuts.map((cut) => {
    const component = components[cut.component];
    const { properties } = bestCut(plane.id, cut);
    return {
      thickness: properties ? (2 * properties.area) / properties.perimeter : Infinity,
      path: component.path,
      name: component.instanceName ?? component.name,
      colour: componentColour(component, stateOf(visibilityStore.getState().states, component.path)),
      hatch: hatchOf(component.part),
      loops: loopsOf(plane.id, cut),
      open: openOf(cut),
    };
  });
}

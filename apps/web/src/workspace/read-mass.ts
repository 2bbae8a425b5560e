import { isValues, type TypedMass, type Vec3 } from '@bathyscope/core';
import type { KeptWeight, ModelPreference } from '../state/preference-store.ts';

/* What was kept about weighing, read from what may be anything; what is no such thing is left out. */

type Values = Record<string, unknown>;

const isNumber = (x: unknown): x is number => typeof x === 'number' && Number.isFinite(x);
const point = (value: unknown): Vec3 | null =>
  Array.isArray(value) && value.length === 3 && value.every(isNumber) ? (value as unknown as Vec3) : null;
/** The objects of a list; nothing of what is none. */
export const list = (value: unknown): Values[] => (Array.isArray(value) ? (value as unknown[]).filter(isValues) : []);

const texts = (values: unknown): Record<string, string> =>
  Object.fromEntries(Object.entries(values ?? {}).filter((entry): entry is [string, string] => typeof entry[1] === 'string'));

/** @param values what is kept of a model */
export function readMass(
  values: Values | null,
): Pick<ModelPreference, 'materials' | 'componentMaterials' | 'typedMasses' | 'sealed' | 'weights'> {
  return {
    materials: texts(values?.['materials']),
    componentMaterials: texts(values?.['componentMaterials']),
    typedMasses: Object.fromEntries(
      Object.entries((values?.['typedMasses'] ?? {}) as Values).flatMap(([key, value]): [string, TypedMass][] => {
        const { kg, at } = (value ?? {}) as Values;
        return isNumber(kg) && kg > 0 ? [[key, { kg, at: point(at) }]] : [];
      }),
    ),
    sealed: list(values?.['sealed']).flatMap(({ id, at }) => {
      const place = point(at);
      return typeof id === 'string' && place ? [{ id, at: place }] : [];
    }),
    weights: list(values?.['weights']).flatMap(({ id, name, mass, centreOfGravity, revision }): KeptWeight[] => {
      const centre = point(centreOfGravity);
      if (typeof id !== 'string' || typeof name !== 'string' || !isNumber(mass) || !centre) return [];
      return [{ id, name, mass, centreOfGravity: centre, revision: isNumber(revision) ? revision : 1 }];
    }),
  };
}

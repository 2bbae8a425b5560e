import { MATERIAL_FAMILIES } from '@bathyscope/core/mass';
import { libraryOf } from '../../workspace/keeping/library.ts';
import { useSeen } from '../use-derived.ts';

/** The library as options of a choice, one's own first in their family. @param only one family */
export function MaterialOptions({ only }: { only?: string }) {
  const all = useSeen(libraryOf);
  return MATERIAL_FAMILIES.filter((f) => !only || f === only).map((family) => (
    <optgroup key={family} label={family}>
      {all
        .filter((m) => m.family === family)
        .map((m) => (
          <option key={m.id} value={m.id}>
            {m.name}
          </option>
        ))}
    </optgroup>
  ));
}

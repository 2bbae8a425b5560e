import { MATERIAL_FAMILIES } from '@bathyscope/core';
import { useStore } from 'zustand';
import { libraryOf } from '../../workspace/library.ts';
import { useWorkspace } from '../use-workspace.ts';

/** The library as options of a choice, one's own first in their family. @param only one family */
export function MaterialOptions({ only }: { only?: string }) {
  const ws = useWorkspace();
  useStore(ws.library);
  const all = libraryOf(ws);
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

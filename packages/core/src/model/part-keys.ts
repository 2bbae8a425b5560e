import type { ModelStructure } from './structure.ts';

/**
 * A key for each part, by which what is kept of a part (a material, a reference) finds it in a later
 * revision: its name, with an ordinal where names repeat. Names outlive revisions; positions in the list and
 * geometry do not.
 */
export function partKeys({ parts }: Pick<ModelStructure, 'parts'>): string[] {
  const seen = new Map<string, number>();
  return parts.map(({ name }) => {
    const ordinal = (seen.get(name) ?? 0) + 1;
    seen.set(name, ordinal);
    return ordinal === 1 ? name : `${name}~${ordinal}`;
  });
}

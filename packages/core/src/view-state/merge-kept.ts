import same from 'fast-deep-equal';
import { isValues, ownOf, withOwn } from '../tables/own.ts';

type Values = Record<string, unknown>;

const isList = (v: unknown): v is (Values & { id: string })[] =>
  Array.isArray(v) && v.every((item) => isValues(item) && typeof item['id'] === 'string');

/**
 * What two people made of one thing, put together: of lists with ids each entry, of objects each field, else
 * the whole value, is taken from whoever changed it; from the first where both did. @param
 * base what both began with
 */
export function mergeKept(base: unknown, mine: unknown, theirs: unknown): unknown {
  if (same(mine, base)) return theirs;
  if (same(theirs, base) || same(mine, theirs)) return mine;
  if (isList(mine) && isList(theirs)) return mergeLists(isList(base) ? base : [], mine, theirs);
  if (!isValues(mine) || !isValues(theirs)) return mine;
  const begun = isValues(base) ? base : {};
  const keys = new Set([...Object.keys(theirs), ...Object.keys(mine)]);
  return withOwn<unknown>(
    {},
    Array.from(
      keys,
      (key) => [key, mergeKept(ownOf(begun, key), ownOf(mine, key), ownOf(theirs, key))] as const,
    ),
  );
}

/** Their order, then what is mine alone. What one took away and the other left alone is gone. */
function mergeLists(
  base: (Values & { id: string })[],
  mine: (Values & { id: string })[],
  theirs: (Values & { id: string })[],
): Values[] {
  const byId = (list: (Values & { id: string })[]) => new Map(list.map((item) => [item.id, item]));
  const [b, m, t] = [byId(base), byId(mine), byId(theirs)];
  return [...new Set([...t.keys(), ...m.keys()])].flatMap((id) => {
    const value = mergeKept(b.get(id), m.get(id), t.get(id));
    return value === undefined ? [] : [value as Values];
  });
}

/* Maps of lists. */

export function addTo<K, T>(groups: Map<K, T[]>, key: K, item: T): void {
  const there = groups.get(key);
  if (there) there.push(item);
  else groups.set(key, [item]);
}

/** Things by a key, in their order. */
export function grouped<K, T>(list: Iterable<T>, keyOf: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of list) addTo(groups, keyOf(item), item);
  return groups;
}

/** A map, or one that forgets its keys. */
interface Keyed<K, V> {
  get(key: K): V | undefined;
  set(key: K, value: V): unknown;
}

/** The value of a key; made and kept when there is none yet. */
export function getOrCreate<K, V>(map: Keyed<K, V>, key: K, create: () => V): V {
  let value = map.get(key);
  if (value === undefined) map.set(key, (value = create()));
  return value;
}

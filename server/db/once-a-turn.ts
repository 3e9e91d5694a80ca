/**
 * Shares what is asked for the same key within one turn of the event loop: requests that arrive together read a thing
 * once. Nothing is kept beyond the turn, so nobody is answered with what was read before they asked.
 */
export function onceATurn<K, T>(read: (key: K) => Promise<T>): (key: K) => Promise<T> {
  const asked = new Map<K, Promise<T>>();
  return (key) => {
    const known = asked.get(key);
    if (known) return known;
    if (asked.size === 0) setImmediate(() => asked.clear());
    const answer = read(key);
    asked.set(key, answer);
    return answer;
  };
}

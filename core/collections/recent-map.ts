/**
 * A map that keeps what was used lately: at least the last `enough` entries that were set or found, and never more than
 * twice as many. It ages in two generations, so that finding costs little more than in a plain map.
 */
export class RecentMap<K, V> {
  private young = new Map<K, V>();
  private old = new Map<K, V>();

  constructor(private readonly enough: number) {}

  get(key: K): V | undefined {
    const found = this.young.get(key);
    if (found !== undefined) return found;
    const aged = this.old.get(key);
    if (aged !== undefined) this.set(key, aged);
    return aged;
  }

  set(key: K, value: V): void {
    this.young.set(key, value);
    if (this.young.size < this.enough) return;
    this.old = this.young;
    this.young = new Map();
  }

  get size(): number {
    return this.young.size + this.old.size;
  }
}

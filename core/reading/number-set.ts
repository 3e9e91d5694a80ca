/**
 * A set of numbers other than 0 and NaN, in a typed array with open addressing: millions of
 * hashes of 53 bits take 16 to 32 bytes each, where a `Set` boxes every one of them.
 */
export class NumberSet {
  private slots = new Float64Array(1024);
  private count = 0;

  get size(): number {
    return this.count;
  }

  /** Adds a number; returns whether it was new. */
  add(value: number): boolean {
    const at = this.find(value);
    if (this.slots[at] === value) return false;
    this.slots[at] = value;
    this.count += 1;
    if (this.count * 2 > this.slots.length) this.grow();
    return true;
  }

  has(value: number): boolean {
    return this.slots[this.find(value)] === value;
  }

  private find(value: number): number {
    const mask = this.slots.length - 1;
    let at = (value ^ (value / 0x100000000)) & mask;
    while (this.slots[at] !== 0 && this.slots[at] !== value) at = (at + 1) & mask;
    return at;
  }

  private grow(): void {
    const old = this.slots;
    this.slots = new Float64Array(old.length * 2);
    for (const value of old) if (value !== 0) this.slots[this.find(value)] = value;
  }
}

import { getOrCreate } from "./keyed.ts";
import { RecentMap } from "./recent-map.ts";

/** Numbers texts as they come. A text that was not asked for lately gets another number: a number never stands for two. */
export class Numbers {
  private readonly known: RecentMap<string, number>;
  private last = 0;

  /** So many texts keep their number at least. */
  constructor(enough: number) {
    this.known = new RecentMap(enough);
  }

  of(text: string): number {
    return getOrCreate(this.known, text, () => this.next());
  }

  /** A number of its own. */
  next(): number {
    return (this.last += 1);
  }
}

/** The numbers of objects that never change, alike where what they say is alike; an object is read once. */
export class ObjectNumbers<T extends object> {
  private readonly known = new WeakMap<T, number>();

  constructor(
    private readonly numbers: Numbers,
    private readonly say: (object: T) => string,
  ) {}

  of(object: T): number {
    return getOrCreate(this.known, object, () => this.numbers.of(this.say(object)));
  }
}

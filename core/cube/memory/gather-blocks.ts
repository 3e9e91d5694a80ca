import type { Month } from "../../calendar/month.ts";
import { getOrCreate } from "../../collections/keyed.ts";
import { buildBlock, type CellBlock } from "./cell-block.ts";
import { blockKey } from "./memory-cells.ts";

const FIRST_ROOM = 256;

/** Members' numbers below this are found in a table, which is several times as fast as a map; few lie beyond. */
const TABLE_ENDS = 2 ** 22;

/** Codes for the numbers of a slot's members, in the order in which they are met; known codes stay as they are. */
export class SlotCodes {
  private readonly codes: Map<number, number>;
  /** The same, by number; 0 where there is none yet. */
  private table = new Uint32Array(FIRST_ROOM);

  constructor(known: ReadonlyMap<number, number> = new Map()) {
    this.codes = new Map(known);
    for (const [member, code] of known) this.note(member, code);
  }

  /** 0 where there is no member, which its number 0 says. */
  codeOf(member: number): number {
    if (member === 0) return 0;
    const known = member < this.table.length ? this.table[member]! : (this.codes.get(member) ?? 0);
    if (known !== 0) return known;
    const code = this.codes.size + 1;
    this.codes.set(member, code);
    this.note(member, code);
    return code;
  }

  toMap(): ReadonlyMap<number, number> {
    return this.codes;
  }

  private note(member: number, code: number): void {
    if (member >= TABLE_ENDS) return;
    if (member >= this.table.length)
      this.table = copyInto(new Uint32Array(2 ** Math.ceil(Math.log2(member + 1))), this.table);
    this.table[member] = code;
  }
}

/** Gathers a dataset's facts as they come, in any order, into blocks by scenario and month. */
export class BlockGatherer {
  private readonly growing = new Map<number, GrowingRows>();

  constructor(
    private readonly slots: readonly SlotCodes[],
    private readonly isDaily: boolean,
  ) {}

  /** A fact by numbers; day and members are 0 where it has none. The members are read at once and not kept. */
  add(scenario: number, month: Month, account: number, day: number, members: ArrayLike<number>, amount: number): void {
    getOrCreate(
      this.growing,
      blockKey(scenario, month),
      () => new GrowingRows(scenario, month, this.slots.length, this.isDaily),
    ).add(account, day, members, amount, this.slots);
  }

  /** The blocks, by their key. What was gathered is let go block by block. */
  finish(): Map<number, CellBlock> {
    const blocks = new Map<number, CellBlock>();
    for (const [key, rows] of this.growing) {
      blocks.set(key, rows.build());
      this.growing.delete(key);
    }
    return blocks;
  }
}

/** Columns that double when they are full. */
class GrowingRows {
  private length = 0;
  private accounts = new Uint32Array(FIRST_ROOM);
  private amounts = new Float64Array(FIRST_ROOM);
  private days: Uint8Array | null;
  private members: Uint32Array[];

  constructor(
    private readonly scenario: number,
    private readonly month: Month,
    slots: number,
    isDaily: boolean,
  ) {
    this.days = isDaily ? new Uint8Array(FIRST_ROOM) : null;
    this.members = Array.from({ length: slots }, () => new Uint32Array(FIRST_ROOM));
  }

  add(account: number, day: number, members: ArrayLike<number>, amount: number, slots: readonly SlotCodes[]): void {
    if (this.length === this.amounts.length) this.grow();
    const place = this.length;
    this.accounts[place] = account;
    this.amounts[place] = amount;
    if (this.days) this.days[place] = day;
    for (let s = 0; s < slots.length; s += 1) this.members[s]![place] = slots[s]!.codeOf(members[s]!);
    this.length += 1;
  }

  build(): CellBlock {
    const { length } = this;
    return buildBlock(
      { scenario: this.scenario, month: this.month },
      {
        length,
        accounts: this.accounts.subarray(0, length),
        days: this.days && this.days.subarray(0, length),
        members: this.members.map((column) => column.subarray(0, length)),
        amounts: this.amounts.subarray(0, length),
      },
    );
  }

  private grow(): void {
    const room = this.amounts.length * 2;
    this.accounts = copyInto(new Uint32Array(room), this.accounts);
    this.amounts = copyInto(new Float64Array(room), this.amounts);
    this.days = this.days && copyInto(new Uint8Array(room), this.days);
    this.members = this.members.map((column) => copyInto(new Uint32Array(room), column));
  }
}

function copyInto<T extends Uint32Array | Float64Array | Uint8Array>(wider: T, column: T): T {
  wider.set(column);
  return wider;
}

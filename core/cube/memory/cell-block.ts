import type { Month } from "../../calendar/month.ts";

/** Codes of one dimension's members, as narrow as they can be kept; 0 where a fact has no member of it. */
export type Codes = Uint8Array | Uint16Array | Uint32Array;

/** Facts of one scenario and month as they come, column by column, in any order. */
export interface BlockRows {
  readonly length: number;
  readonly accounts: Uint32Array;
  /** `null` where facts are not daily. */
  readonly days: Uint8Array | null;
  /** Slot by slot. */
  readonly members: readonly Uint32Array[];
  /** Whole minor units. */
  readonly amounts: Float64Array;
}

/** Sums by account and member of one dimension. */
export interface RollUp {
  /** Where each account's sums begin, and after the last where they end. */
  readonly starts: Uint32Array;
  /** Ascending within an account. */
  readonly codes: Codes;
  readonly sums: Float64Array;
}

/**
 * A dataset's facts of one scenario and month: columns sorted by account. It is never changed; what a load
 * moves is built anew. All columns lie in one buffer, which threads share.
 */
export interface CellBlock {
  readonly scenario: number;
  readonly month: Month;
  readonly rows: number;
  /** Distinct accounts, ascending. */
  readonly accounts: Uint32Array;
  /** Where each account's rows begin, and after the last where they end. */
  readonly starts: Uint32Array;
  /** The sum of each account. */
  readonly totals: Float64Array;
  readonly amounts: Float64Array;
  readonly days: Uint8Array | null;
  readonly members: readonly Codes[];
  /** Slot by slot; `null` where it would be hardly smaller than the rows. */
  readonly rollUps: readonly (RollUp | null)[];
  readonly bytes: number;
}

/** A roll-up earns its memory where it has at most one sum for so many rows. */
const ROWS_A_SUM = 3;

/** Sorts rows by account and lays them out, with the sums that are asked for most. */
export function buildBlock(place: { scenario: number; month: Month }, rows: BlockRows): CellBlock {
  const order = orderByAccount(rows);
  const { accounts, starts } = findAccounts(rows, order);
  const rollUps = rows.members.map((codes) => rollUp(rows, order, starts, codes));
  const room = new Room(sizeOf(rows, accounts.length, rollUps));
  const amounts = room.floats(rows.length);
  const totals = room.floats(accounts.length);
  for (let a = 0; a < accounts.length; a += 1) {
    let total = 0;
    for (let i = starts[a]!; i < starts[a + 1]!; i += 1) total += amounts[i] = rows.amounts[order[i]!]!;
    totals[a] = total;
  }
  const keptRollUps = rollUps.map((found) => found && { ...found, sums: room.copyFloats(found.sums) });
  const members = rows.members.map((codes) => room.codes(rows.length, widthOf(codes), (i) => codes[order[i]!]!));
  const days = rows.days && room.bytesOf(rows.length, (i) => rows.days![order[i]!]!);
  return {
    ...place,
    rows: rows.length,
    accounts: room.copyWords(accounts),
    starts: room.copyWords(starts),
    totals,
    amounts,
    days,
    members,
    rollUps: keptRollUps.map(
      (found) =>
        found && {
          starts: room.copyWords(found.starts),
          codes: room.codes(found.codes.length, widthOf(found.codes), (i) => found.codes[i]!),
          sums: found.sums,
        },
    ),
    bytes: room.size,
  };
}

/** The rows' places, accounts ascending; rows of one account keep their order. */
function orderByAccount({ accounts, length }: BlockRows): Uint32Array {
  // Accounts are few and rows are many: a table by number is many times as fast as a map, while numbers are small.
  const next = new Uint32Array(highest(accounts) + 2);
  for (let i = 0; i < length; i += 1) next[accounts[i]! + 1]! += 1;
  for (let account = 1; account < next.length; account += 1) next[account]! += next[account - 1]!;
  const order = new Uint32Array(length);
  for (let i = 0; i < length; i += 1) {
    const account = accounts[i]!;
    order[next[account]!] = i;
    next[account]! += 1;
  }
  return order;
}

function highest(numbers: Uint32Array): number {
  let found = 0;
  for (let i = 0; i < numbers.length; i += 1) if (numbers[i]! > found) found = numbers[i]!;
  return found;
}

function findAccounts(rows: BlockRows, order: Uint32Array): { accounts: Uint32Array; starts: Uint32Array } {
  const accounts: number[] = [];
  const starts: number[] = [];
  for (let i = 0; i < rows.length; i += 1) {
    const account = rows.accounts[order[i]!]!;
    if (account === accounts[accounts.length - 1]) continue;
    accounts.push(account);
    starts.push(i);
  }
  return { accounts: Uint32Array.from(accounts), starts: Uint32Array.from([...starts, rows.length]) };
}

interface WideRollUp extends RollUp {
  readonly codes: Uint32Array;
}

function rollUp(rows: BlockRows, order: Uint32Array, starts: Uint32Array, codes: Uint32Array): WideRollUp | null {
  const most = Math.floor(rows.length / ROWS_A_SUM);
  const ends: number[] = [0];
  const members: number[] = [];
  const sums: number[] = [];
  // By code, the account at which it was met last (and one), and where its sum stands.
  const metAt = new Uint32Array(highest(codes) + 1);
  const place = new Uint32Array(metAt.length);
  // A dimension that no fact of the block has is asked for in vain: nothing stands in its roll-up.
  for (let a = 0; a + 1 < starts.length; a += 1) {
    for (let i = starts[a]!; i < starts[a + 1]!; i += 1) {
      const row = order[i]!;
      const code = codes[row]!;
      if (code === 0) continue;
      if (metAt[code] === a + 1) sums[place[code]!]! += rows.amounts[row]!;
      else {
        metAt[code] = a + 1;
        place[code] = members.length;
        members.push(code);
        sums.push(rows.amounts[row]!);
      }
    }
    if (members.length > most) return null;
    ends.push(members.length);
  }
  const found = { codes: Uint32Array.from(members), sums: Float64Array.from(sums) };
  for (let a = 0; a + 1 < ends.length; a += 1) sortByCode(found, ends[a]!, ends[a + 1]!);
  return { starts: Uint32Array.from(ends), ...found };
}

/** Sorts a stretch of sums by their codes. */
function sortByCode({ codes, sums }: { codes: Uint32Array; sums: Float64Array }, from: number, to: number): void {
  // The place beside the code in one number: both are below 2^26, so that the number is exact.
  const keys = new Float64Array(to - from);
  for (let i = from; i < to; i += 1) keys[i - from] = codes[i]! * 2 ** 26 + (i - from);
  keys.sort();
  const unsorted = sums.slice(from, to);
  for (let i = 0; i < keys.length; i += 1) {
    const place = keys[i]! % 2 ** 26;
    codes[from + i] = (keys[i]! - place) / 2 ** 26;
    sums[from + i] = unsorted[place]!;
  }
}

function widthOf(codes: Uint32Array): 1 | 2 | 4 {
  const found = highest(codes);
  return found < 2 ** 8 ? 1 : found < 2 ** 16 ? 2 : 4;
}

/** Bytes of all columns; wide columns first, so that each stands where its width asks. */
function sizeOf(rows: BlockRows, accounts: number, rollUps: readonly (WideRollUp | null)[]): number {
  const floats = rows.length + accounts + rollUps.reduce((sum, found) => sum + (found?.sums.length ?? 0), 0);
  const words = accounts + (accounts + 1) + rollUps.reduce((sum, found) => sum + (found?.starts.length ?? 0), 0);
  const codes =
    rows.members.reduce((sum, column) => sum + rows.length * widthOf(column), 0) +
    rollUps.reduce((sum, found) => sum + (found ? found.codes.length * widthOf(found.codes) : 0), 0);
  const columns = rows.members.length + 2 * rollUps.length + 3;
  return 8 * floats + 4 * words + codes + (rows.days ? rows.length : 0) + 8 * columns;
}

/** Hands out columns of one shared buffer, each at a multiple of its width. */
class Room {
  private readonly buffer: SharedArrayBuffer;
  private used = 0;

  constructor(readonly size: number) {
    this.buffer = new SharedArrayBuffer(size);
  }

  floats(length: number): Float64Array {
    return new Float64Array(this.buffer, this.take(length, 8), length);
  }

  copyFloats(values: Float64Array): Float64Array {
    const copy = this.floats(values.length);
    copy.set(values);
    return copy;
  }

  copyWords(values: Uint32Array): Uint32Array {
    const copy = new Uint32Array(this.buffer, this.take(values.length, 4), values.length);
    copy.set(values);
    return copy;
  }

  bytesOf(length: number, valueAt: (i: number) => number): Uint8Array {
    return fill(new Uint8Array(this.buffer, this.take(length, 1), length), valueAt);
  }

  codes(length: number, width: 1 | 2 | 4, valueAt: (i: number) => number): Codes {
    const start = this.take(length, width);
    if (width === 1) return fill(new Uint8Array(this.buffer, start, length), valueAt);
    if (width === 2) return fill(new Uint16Array(this.buffer, start, length), valueAt);
    return fill(new Uint32Array(this.buffer, start, length), valueAt);
  }

  private take(length: number, width: number): number {
    const start = Math.ceil(this.used / width) * width;
    this.used = start + length * width;
    return start;
  }
}

function fill<T extends Codes>(column: T, valueAt: (i: number) => number): T {
  for (let i = 0; i < column.length; i += 1) column[i] = valueAt(i);
  return column;
}

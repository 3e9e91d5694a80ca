/** What a file may be at most. All of it can be set by environment variables; docs/loading.md lists them. */
export interface Limits {
  /** Bytes of an uploaded file. */
  readonly fileBytes: number;
  /** Characters of one line of a text file, line breaks in quotes included. */
  readonly lineLength: number;
  readonly columns: number;
  /** Bytes of a workbook once unpacked. */
  readonly unpackedBytes: number;
  /** Megabytes of memory a reader may use before it is stopped. */
  readonly readerMegabytes: number;
}

const MEGABYTE = 1_048_576;

/** Reads the limits from the environment. Throws a `RangeError` naming the variable that is no whole number. */
export function readLimits(env: NodeJS.ProcessEnv = process.env): Limits {
  return {
    fileBytes: setting(env, "HACKLE_MAX_FILE_MB", 2048) * MEGABYTE,
    lineLength: setting(env, "HACKLE_MAX_LINE_CHARS", 1_000_000),
    columns: setting(env, "HACKLE_MAX_COLUMNS", 1000),
    unpackedBytes: setting(env, "HACKLE_MAX_UNPACKED_MB", 1024) * MEGABYTE,
    readerMegabytes: setting(env, "HACKLE_READER_MB", 512),
  };
}

function setting(env: NodeJS.ProcessEnv, name: string, fallback: number): number {
  const text = env[name];
  if (text === undefined || text === "") return fallback;
  const value = Number(text);
  if (!Number.isSafeInteger(value) || value < 1)
    throw new RangeError(`${name} is "${text}"; it must be a whole number above 0.`);
  return value;
}

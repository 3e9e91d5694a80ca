import pg from "pg";

const FIRST_PAUSE_MS = 250;
const LONGEST_PAUSE_MS = 10_000;

/** Who hears of what is told in a database when it is committed. */
export interface Listening {
  /** What it is told on each channel. */
  readonly channels: Readonly<Record<string, (payload: string) => void>>;
  /** The connection is there, or there again: what was told meanwhile was missed. */
  readonly onConnected: () => void;
}

/** Hears what PostgreSQL tells, over one connection for all of an installation, which is made again whenever it is lost. */
export function listen(databaseUrl: string, { channels, onConnected }: Listening): { stop(): Promise<void> } {
  let isStopped = false;
  let client: pg.Client | undefined;
  let timer: NodeJS.Timeout | undefined;
  let pause = FIRST_PAUSE_MS;
  const connect = async (): Promise<void> => {
    const own = new pg.Client({ connectionString: databaseUrl, application_name: "hackle", keepAlive: true });
    client = own;
    const lost = () => {
      if (isStopped || client !== own) return;
      client = undefined;
      void own.end().catch(() => {});
      timer = setTimeout(() => void connect(), pause);
      pause = Math.min(pause * 2, LONGEST_PAUSE_MS);
    };
    own.on("error", lost);
    own.on("end", lost);
    own.on("notification", ({ channel, payload }) => channels[channel]?.(payload ?? ""));
    try {
      await own.connect();
      for (const channel of Object.keys(channels)) await own.query(`listen ${channel}`);
    } catch {
      lost();
      return;
    }
    if (isStopped) {
      await own.end();
      return;
    }
    pause = FIRST_PAUSE_MS;
    onConnected();
  };
  const first = connect();
  return {
    stop: async () => {
      isStopped = true;
      clearTimeout(timer);
      await first;
      await client?.end().catch(() => {});
    },
  };
}

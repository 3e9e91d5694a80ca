import pg from "pg";
import { VERSION_CHANNEL } from "./data-version.ts";

const FIRST_PAUSE_MS = 250;
const LONGEST_PAUSE_MS = 10_000;

/**
 * Calls when a change of the data was committed, by whichever server, and once whenever the connection is there (again),
 * since changes may have passed while it was not.
 */
export function followVersion(databaseUrl: string, onChange: () => void): { stop(): Promise<void> } {
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
    own.on("notification", onChange);
    try {
      await own.connect();
      await own.query(`listen ${VERSION_CHANNEL}`);
    } catch {
      lost();
      return;
    }
    if (isStopped) {
      await own.end();
      return;
    }
    pause = FIRST_PAUSE_MS;
    onChange();
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

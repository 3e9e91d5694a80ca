import { EventEmitter } from "node:events";
import type { ChildProcess } from "node:child_process";
import { describe, expect, it, vi } from "vitest";
import type { ServerProcess } from "./server-process.ts";
import { superviseServer } from "./supervised-server.ts";

/** Servers that are no processes: they die when told to. */
function fakeServers() {
  const started: { die: (code: number | null, signal?: string) => void; stop: ReturnType<typeof vi.fn> }[] = [];
  const start = (): Promise<ServerProcess> => {
    const child = new EventEmitter();
    const stop = vi.fn(() => Promise.resolve());
    started.push({ die: (code, signal) => child.emit("exit", code, signal ?? null), stop });
    return Promise.resolve({ child: child as ChildProcess, stop });
  };
  return { started, start };
}
const observe = () => {
  const said: string[] = [];
  return { said, say: (sentence: string) => void said.push(sentence), onGivenUp: vi.fn() };
};

describe("a supervised server", () => {
  it("is started again when it dies, and both are said", async () => {
    const { started, start } = fakeServers();
    const { said, ...watching } = observe();
    const server = await superviseServer(start, watching);
    started[0]!.die(null, "SIGKILL");
    await vi.waitFor(() =>
      expect(said).toEqual(["The server died (SIGKILL); starting it again …", "The server is back."]),
    );
    expect(started).toHaveLength(2);
    await server.stop();
    expect(started[1]!.stop).toHaveBeenCalledOnce();
    expect(started[0]!.stop).not.toHaveBeenCalled();
  });
  it("that is stopped stays stopped", async () => {
    const { started, start } = fakeServers();
    const { said, ...watching } = observe();
    const server = await superviseServer(start, watching);
    await server.stop();
    started[0]!.die(0);
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect([started.length, said.length]).toEqual([1, 0]);
  });
  it("that dies again and again is left down, once", async () => {
    const { started, start } = fakeServers();
    const { said, ...watching } = observe();
    await superviseServer(start, watching);
    for (let death = 0; death < 6; death += 1) {
      await vi.waitFor(() => expect(started).toHaveLength(death + 1));
      // It is watched only once it is back.
      await vi.waitFor(() => expect(said.filter((s) => s.includes("is back"))).toHaveLength(death));
      started[death]!.die(1);
    }
    await vi.waitFor(() => expect(watching.onGivenUp).toHaveBeenCalledOnce());
    expect(said.at(-1)).toBe("The server died 6 times within a minute (code 1) and is left down. Its log is above.");
    expect(started).toHaveLength(6);
  });
  it("whose start fails counts as dead", async () => {
    const { start } = fakeServers();
    let attempts = 0;
    const failing = () => ((attempts += 1) === 1 ? start() : Promise.reject(new Error("port taken")));
    const { said, ...watching } = observe();
    const first = fakeServers();
    let isFirst = true;
    await superviseServer(() => {
      if (!isFirst) return failing();
      isFirst = false;
      attempts = 1;
      return first.start();
    }, watching);
    first.started[0]!.die(1);
    await vi.waitFor(() => expect(watching.onGivenUp).toHaveBeenCalledOnce(), { timeout: 5000 });
    expect(said.some((sentence) => sentence.includes("port taken"))).toBe(true);
  });
});

import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { superviseCluster } from "./supervised-cluster.ts";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A cluster that is no process: it dies when told to, and comes up after so many attempts. */
function fakeCluster(failures: number) {
  let isDown = false;
  let left = failures;
  const restart = vi.fn(() => {
    if (left-- > 0) {
      // A start that fails may have cleared away what told of the crash.
      isDown = false;
      throw new Error("pre-existing shared memory block (key 83886283, ID 0) is still in use");
    }
    isDown = false;
  });
  return { die: () => void (isDown = true), restart, hasCrashed: () => isDown };
}

describe("a supervised PostgreSQL", () => {
  it("is started again when it died, and left alone while it runs", () => {
    const cluster = fakeCluster(0);
    const said: string[] = [];
    const watch = superviseCluster(cluster, { say: (s) => void said.push(s), lookMs: 100 });
    vi.advanceTimersByTime(1000);
    expect(cluster.restart).not.toHaveBeenCalled();
    cluster.die();
    vi.advanceTimersByTime(1000);
    expect(cluster.restart).toHaveBeenCalledOnce();
    expect(said).toEqual(["PostgreSQL died; starting it again …", "PostgreSQL is back."]);
    watch.stop();
  });
  it("that cannot start yet is tried again with longer pauses until it can, and the launcher lives on", () => {
    const cluster = fakeCluster(5);
    const said: string[] = [];
    const watch = superviseCluster(cluster, { say: (s) => void said.push(s), lookMs: 100 });
    cluster.die();
    vi.advanceTimersByTime(100);
    expect(cluster.restart).toHaveBeenCalledTimes(1);
    vi.advanceTimersByTime(300);
    expect(cluster.restart).toHaveBeenCalledTimes(3);
    vi.advanceTimersByTime(5000);
    expect(cluster.restart).toHaveBeenCalledTimes(6);
    expect(said).toHaveLength(3);
    expect(said[1]).toContain("shared memory block");
    expect(said[2]).toBe("PostgreSQL is back.");
    watch.stop();
  });
});

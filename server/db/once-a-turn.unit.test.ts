import { describe, expect, it } from "vitest";
import { onceATurn } from "./once-a-turn.ts";

const turn = () => new Promise(setImmediate);

describe("what is read once a turn", () => {
  it("is shared by those who ask together, key by key, and read anew for whoever asks later", async () => {
    const read: string[] = [];
    const ask = onceATurn((key: string) => {
      read.push(key);
      return Promise.resolve(`${key}${read.length}`);
    });
    expect(await Promise.all([ask("a"), ask("b"), ask("a")])).toEqual(["a1", "b2", "a1"]);
    await turn();
    expect(await ask("a")).toBe("a3");
    expect(read).toEqual(["a", "b", "a"]);
  });
  it("fails for all who asked together, and for nobody after", async () => {
    let isDown = true;
    const ask = onceATurn(() => (isDown ? Promise.reject(new Error("down")) : Promise.resolve("up")));
    expect((await Promise.allSettled([ask(1), ask(1)])).map(({ status }) => status)).toEqual(["rejected", "rejected"]);
    isDown = false;
    await turn();
    expect(await ask(1)).toBe("up");
  });
});

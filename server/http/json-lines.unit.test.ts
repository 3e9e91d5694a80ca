import { EventEmitter } from "node:events";
import type { Response } from "express";
import { expect, test } from "vitest";
import { answerLines } from "./json-lines.ts";

/** A connection whose reader is slow: every line fills it, and each is taken a turn later. */
class SlowResponse extends EventEmitter {
  readonly written: string[] = [];
  readonly destroyed = false;
  isOver = false;
  status() {
    return this;
  }
  type() {
    return this;
  }
  write(line: string) {
    this.written.push(line);
    setImmediate(() => this.emit("drain"));
    return false;
  }
  end() {
    this.isOver = true;
  }
}

test("lines to a slow reader leave nothing behind that listens to its connection", async () => {
  const slow = new SlowResponse();
  let most = 0;
  async function* lines() {
    for (let i = 0; i < 40; i += 1) {
      most = Math.max(most, slow.listenerCount("close"), slow.listenerCount("drain"));
      await Promise.resolve();
      yield `${i}\n`;
    }
  }
  await answerLines(slow as unknown as Response, lines());
  expect([slow.written.length, slow.isOver, most, slow.listenerCount("close")]).toEqual([40, true, 1, 0]);
});

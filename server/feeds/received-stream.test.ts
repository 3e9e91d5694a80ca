import { ReadableStream } from "node:stream/web";
import { setTimeout } from "node:timers/promises";
import { expect, it } from "vitest";
import { receivedStream } from "./received-stream.ts";

const broken = () =>
  new ReadableStream({
    start: (controller) => {
      controller.enqueue(new TextEncoder().encode("Month,Amount\n"));
      queueMicrotask(() => controller.error(new Error("The other side is gone.")));
    },
  });

it("outlives a service that breaks off before its file is read, and is found broken then", async () => {
  const uncaught: unknown[] = [];
  const hear = (error: unknown) => uncaught.push(error);
  process.on("uncaughtException", hear);
  const stream = receivedStream(broken());
  stream.read(0);
  await setTimeout(50);
  process.off("uncaughtException", hear);
  expect(uncaught).toEqual([]);
  await expect(stream.toArray()).rejects.toThrow();
});

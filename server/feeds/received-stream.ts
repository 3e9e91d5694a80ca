import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";

/**
 * The body of an answer as a stream of Node's. A service that breaks off before anybody reads it ends nothing
 * but the reading: whoever reads it then finds it broken.
 */
export function receivedStream(body: ReadableStream): Readable {
  const stream = Readable.fromWeb(body);
  // Without a listener of its own, an error that comes before there is a reader would end the process.
  stream.on("error", () => undefined);
  return stream;
}

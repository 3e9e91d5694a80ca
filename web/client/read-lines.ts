import type { z } from "zod";

/** Reads an answer in lines of JSON, each as soon as it is there. */
export async function* readLines<T>(response: Response, schema: z.ZodType<T>): AsyncGenerator<T> {
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (text + value).split("\n");
    text = lines.pop()!;
    for (const line of lines) yield schema.parse(JSON.parse(line));
  }
}

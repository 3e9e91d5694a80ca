import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { versionLineSchema } from "#contract/versions.ts";
import { fetchAnswer } from "../client/api.ts";
import { readLines } from "../client/read-lines.ts";

/** How far the making of a version is. */
export type Posting =
  | { readonly is: "idle" }
  | { readonly is: "under way"; readonly done: number; readonly of: number }
  | { readonly is: "posted"; readonly name: string; readonly rows: number }
  | { readonly is: "refused"; readonly why: string };

/** Has a version forecast and kept, hearing how far it is; it can be cancelled, and nothing is kept then. */
export function useVersionLines(): {
  readonly posting: Posting;
  readonly run: (path: string, body: object) => Promise<boolean>;
  readonly cancel: () => void;
} {
  const client = useQueryClient();
  const [posting, setPosting] = useState<Posting>({ is: "idle" });
  const running = useRef<AbortController>(undefined);
  const run = async (path: string, body: object) => {
    const controller = new AbortController();
    running.current = controller;
    setPosting({ is: "under way", done: 0, of: 0 });
    try {
      const response = await fetchAnswer(path, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify(body),
        signal: controller.signal,
      });
      for await (const line of readLines(response, versionLineSchema)) {
        if ("done" in line) setPosting({ is: "under way", ...line });
        else if ("refused" in line) setPosting({ is: "refused", why: line.refused });
        else {
          setPosting({ is: "posted", name: line.name, rows: line.rows });
          void client.invalidateQueries();
          return true;
        }
      }
    } catch (error) {
      setPosting(controller.signal.aborted ? { is: "idle" } : { is: "refused", why: (error as Error).message });
    }
    return false;
  };
  return { posting, run, cancel: () => running.current?.abort() };
}

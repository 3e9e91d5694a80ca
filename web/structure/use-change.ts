import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { chartSchema } from "#contract/chart.ts";
import { callApi } from "../app/api.ts";

/** Sends changes of the structure; every figure is asked anew afterwards. */
export interface ChangeSender {
  /** Returns whether the change was made; if not, `problem` says why. */
  readonly send: (path: string, body: unknown, method?: "POST" | "PUT") => Promise<boolean>;
  readonly sendFile: (path: string, file: File) => Promise<boolean>;
  readonly problem: string | null;
  readonly isSending: boolean;
}

/** Changes of the structure from one page. */
export function useChange(): ChangeSender {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const [isSending, setSending] = useState(false);
  const attempt = async (options: Parameters<typeof callApi>[2], path: string): Promise<boolean> => {
    setProblem(null);
    setSending(true);
    try {
      const chart = await callApi(path, chartSchema, options);
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "chart" });
      client.setQueryData(["chart"], chart);
      return true;
    } catch (error) {
      setProblem((error as Error).message);
      await client.invalidateQueries({ queryKey: ["chart"] });
      return false;
    } finally {
      setSending(false);
    }
  };
  return {
    send: (path, body, method = "POST") => attempt({ method, body }, path),
    sendFile: async (path, file) => attempt({ method: "PUT", file: await file.text() }, path),
    problem,
    isSending,
  };
}

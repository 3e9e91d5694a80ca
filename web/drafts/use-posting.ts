import { DRAFTS } from "#contract/operations/drafts.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { hasEnded } from "#core/checks/job-state.ts";
import type { Draft } from "#contract/intake.ts";
import { call } from "../client/api.ts";
import { answerKey } from "../client/answer.ts";

/** Posting a draft: started, followed to its load, cancelled; or the draft thrown away. */
export interface Posting {
  readonly post: () => Promise<void>;
  readonly cancel: (job: number) => Promise<void>;
  readonly discard: () => Promise<void>;
  /** Why it could not be posted or discarded; `null` while nothing went wrong. */
  readonly problem: string | null;
}

const LOOK_EVERY_MS = 300;

/** The posting of one draft. The page leaves for the load once it is there. */
export function usePosting(draft: Draft): Posting {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const [jobId, setJobId] = useState<number | null>(null);
  const { id, version } = draft;
  const draftKey = useMemo(() => answerKey(DRAFTS.draft, { params: { draft: id } }), [id]);

  // The draft is gone once it is posted; its job tells where the load is.
  useEffect(() => {
    if (jobId === null) return;
    let isOver = false;
    const look = async () => {
      while (!isOver) {
        const job = await call(DRAFTS.job, { params: { job: jobId } }).catch(() => null);
        if (job?.state === "done" && job.loadId !== null) {
          isOver = true;
          await navigate(`/loads/${job.loadId}`);
          client.removeQueries({ queryKey: draftKey });
          await client.invalidateQueries();
          return;
        }
        if (job && hasEnded(job)) {
          setJobId(null);
          await client.invalidateQueries({ queryKey: draftKey });
          return;
        }
        if (job) client.setQueryData<Draft>(draftKey, (d) => (d ? { ...d, job } : d));
        await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
      }
    };
    void look();
    return () => {
      isOver = true;
    };
  }, [client, draftKey, jobId, navigate]);

  const attempt = async (act: () => Promise<void>) => {
    setProblem(null);
    try {
      await act();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return {
    post: () =>
      attempt(async () => {
        const job = await call(DRAFTS.postDraft, { params: { draft: id }, body: { version } });
        client.setQueryData<Draft>(draftKey, (d) => (d ? { ...d, job } : d));
        setJobId(job.id);
      }),
    cancel: async (job) => {
      // A job that has just ended cannot be cancelled any more; the draft says how it ended.
      await call(DRAFTS.cancelJob, { params: { job } }).catch(() => null);
      await client.invalidateQueries({ queryKey: draftKey });
    },
    discard: () =>
      attempt(async () => {
        await call(DRAFTS.discardDraft, { params: { draft: id } });
        await navigate("/loads");
        client.removeQueries({ queryKey: draftKey });
        await client.invalidateQueries({ queryKey: answerKey(DRAFTS.drafts) });
      }),
    problem,
  };
}

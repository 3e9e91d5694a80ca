import type { Definition, Draft, Job } from "#contract/intake.ts";
import { hasEnded } from "#core/checks/job-state.ts";
import type { ApiClient } from "./api.ts";

/** Brings files in through the API, as the pages do. */
export interface IntakeClient {
  get<T>(path: string): Promise<T>;
  /** Uploads a file and waits for its check. Throws with the problem when it is refused. */
  upload(name: string, content: string | Uint8Array<ArrayBuffer>): Promise<Draft>;
  /** The draft once no job goes on with it. */
  checked(id: number): Promise<Draft>;
  change(draft: Draft, to: Partial<Definition>): Promise<Draft>;
  post(draft: Draft): Promise<Job>;
}

const POLL_MS = 30;

/** A client over a signed-in API client. */
export function intakeClient(api: ApiClient): IntakeClient {
  const get = async <T>(path: string) => (await api.get(path)).body as T;
  const pause = () => new Promise((resolve) => setTimeout(resolve, POLL_MS));
  const checked = async (id: number): Promise<Draft> => {
    for (;;) {
      const draft = await get<Draft>(`/api/drafts/${id}`);
      if (draft.job === null || hasEnded(draft.job)) {
        if (!draft.isOutdated) return draft;
        await api.send("POST", `/api/drafts/${id}/check`);
      }
      await pause();
    }
  };
  /** Waits until what follows from a load was worked out. */
  const followedUp = async (load: number) => {
    for (let isDone = false; !isDone; await pause())
      ({ isFollowedUp: isDone } = await get<{ isFollowedUp: boolean }>(`/api/loads/${load}`));
  };
  return {
    get,
    checked,
    upload: async (name, content) => {
      const { status, body } = await api.upload(name, content);
      if (status !== 200) throw new Error((body as { detail: string }).detail);
      return checked((body as Draft).id);
    },
    change: async (draft, to) => {
      const { status, body } = await api.send("PUT", `/api/drafts/${draft.id}`, {
        version: draft.version,
        intakeName: draft.intakeName,
        definition: { ...draft.definition, ...to },
      });
      if (status !== 200) throw new Error((body as { detail: string }).detail);
      return checked(draft.id);
    },
    post: async (draft) => {
      const { status, body } = await api.send("POST", `/api/drafts/${draft.id}/post`, { version: draft.version });
      if (status !== 200) throw new Error((body as { detail: string }).detail);
      let job = body as Job;
      while (!hasEnded(job)) {
        await pause();
        job = await get<Job>(`/api/jobs/${job.id}`);
      }
      if (job.loadId !== null) await followedUp(job.loadId);
      return job;
    },
  };
}

import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { ApiProblem } from "../app/api.ts";
import { Notice } from "../ui/notice.tsx";

/** A panel's sheet, with its states: waiting, following a new frame, failed, failed but with the last figures. */
export function PanelSheet<T>({
  label,
  answer,
  skeleton,
  children,
  action,
}: {
  label: string;
  answer: UseQueryResult<T>;
  skeleton: ReactNode;
  children: (data: T) => ReactNode;
  action?: (problem: ApiProblem) => ReactNode;
}) {
  const { data, error } = answer;
  const isPassing = error instanceof ApiProblem && error.isPassing;
  return (
    <section
      aria-label={label}
      aria-busy={answer.isFetching}
      className="relative min-w-0 rounded-md border border-thread bg-panel"
    >
      {(answer.isPlaceholderData || (answer.isFetching && !data)) && (
        <div className="thread-progress" aria-hidden="true" />
      )}
      {error && data && (
        <p role="alert" className="border-b border-madder px-4 py-2 text-[13px] text-madder">
          {error.message} {isPassing && "The figures below are the last ones received."}
        </p>
      )}
      {error && !data ? (
        <div className="px-4 py-16">
          <Notice
            tone="bad"
            title={isPassing ? "No figures at the moment" : "These figures cannot be shown"}
            detail={error.message}
          >
            <button type="button" className="font-semibold text-indigo underline" onClick={() => void answer.refetch()}>
              Try again now
            </button>
            {error instanceof ApiProblem && action?.(error)}
          </Notice>
        </div>
      ) : data ? (
        <div style={{ opacity: answer.isPlaceholderData ? 0.55 : 1, transition: "opacity 150ms" }}>
          {children(data)}
        </div>
      ) : (
        skeleton
      )}
    </section>
  );
}

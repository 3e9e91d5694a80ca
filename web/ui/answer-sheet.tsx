import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode, RefObject } from "react";
import { ApiProblem } from "../client/api.ts";
import { Notice } from "./notice.tsx";

/** The sheet of an answer, with its states: waiting, following a new frame, failed, failed but with the last figures. */
export function AnswerSheet<T>({
  label,
  answer,
  skeleton,
  children,
  action,
  className = "rounded-md border border-thread bg-panel",
  holder,
  isBehind = false,
}: {
  label: string;
  answer: UseQueryResult<T>;
  skeleton: ReactNode;
  children: (data: T) => ReactNode;
  action?: (problem: ApiProblem) => ReactNode;
  className?: string;
  holder?: RefObject<HTMLElement | null>;
  /** Whether what is shown is still to follow the answer. */
  isBehind?: boolean;
}) {
  const { data, error } = answer;
  const isPassing = error instanceof ApiProblem && error.isPassing;
  return (
    <section
      ref={holder}
      aria-label={label}
      aria-busy={answer.isFetching || isBehind}
      className={`relative min-w-0 ${className}`}
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
        <div className="px-4 py-10">
          <Notice
            tone="bad"
            title={isPassing ? "No figures at the moment" : "These figures cannot be shown"}
            detail={error.message}
          >
            <button type="button" className="font-semibold text-accent underline" onClick={() => void answer.refetch()}>
              Try again now
            </button>
            {error instanceof ApiProblem && action?.(error)}
          </Notice>
        </div>
      ) : data ? (
        <div
          className="flex min-h-0 min-w-0 flex-1 flex-col"
          // Figures that follow at once do not fade.
          style={
            answer.isPlaceholderData ? { opacity: 0.55, transition: "opacity 150ms 250ms" } : { transition: "none" }
          }
        >
          {children(data)}
        </div>
      ) : (
        skeleton
      )}
    </section>
  );
}

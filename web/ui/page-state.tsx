import type { ReactNode } from "react";
import { Notice } from "./notice.tsx";

/** A page whose data is not there: on its way, or failed with the reason and what there is to do. */
export function PageState({
  error,
  title,
  children,
}: {
  error: Error | null;
  /** What cannot be shown, when it failed. */
  title: string;
  children?: ReactNode;
}) {
  return (
    <div className="px-6 pt-6">
      {error ? (
        <Notice tone="bad" title={title} detail={error.message}>
          {children}
        </Notice>
      ) : (
        Array.from({ length: 12 }, (_, i) => <div key={i} className="waiting mt-3 h-5" />)
      )}
    </div>
  );
}

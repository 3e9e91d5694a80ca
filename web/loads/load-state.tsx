import type { LoadHead } from "#contract/loads.ts";

/** Whether a load's facts count, where they do not simply all do. */
export function LoadStateWords({ state }: { state: LoadHead["state"] }) {
  if (state === "in force") return null;
  return (
    <span className="ml-2 rounded border border-thread px-1 text-[12px] font-normal whitespace-nowrap text-slate">
      {state}
    </span>
  );
}

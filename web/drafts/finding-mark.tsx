import { Check, Info, OctagonX, TriangleAlert } from "lucide-react";
import type { WireFinding } from "#contract/intake.ts";

/** How grave a finding is, by shape, colour and word. */
export function FindingMark({ finding }: { finding: Pick<WireFinding, "severity" | "answer"> }) {
  if (finding.answer !== null)
    return <Check size={15} className="mt-0.5 shrink-0 text-verdigris" aria-label="answered" />;
  if (finding.severity === "stop")
    return <OctagonX size={15} className="mt-0.5 shrink-0 text-madder" aria-label="stop" />;
  if (finding.severity === "warn")
    return <TriangleAlert size={15} className="mt-0.5 shrink-0 text-weld" aria-label="warning" />;
  return <Info size={15} className="mt-0.5 shrink-0 text-slate" aria-label="note" />;
}

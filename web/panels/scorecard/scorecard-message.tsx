import { usePanel, type FrameParams } from "../../app/questions.ts";
import { unbroken } from "../../ui/unbroken.ts";
import type { PanelPlace } from "./scorecard-panel.tsx";

/** The page's message, drafted from its scorecard's own figures. */
export function ScorecardMessage({ place, frame }: { place: PanelPlace; frame: FrameParams }) {
  const { data, error, isPlaceholderData } = usePanel(place, frame);
  if (error && !data) return null;
  if (data?.kind !== "scorecard") return <div className="waiting mt-2 h-7 w-3/4" />;
  const { words } = data.frame;
  return (
    <div style={{ opacity: isPlaceholderData ? 0.55 : 1 }}>
      <h1 className="mt-2 font-serif text-[21px] leading-snug">{unbroken(data.message)}</h1>
      <p className="text-[13px] text-slate">
        {capital(words.span)}
        {words.isOpen ? " as far as closed" : ""}, {words.spanMonths}, for {words.scope}, against {words.basis}
      </p>
    </div>
  );
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

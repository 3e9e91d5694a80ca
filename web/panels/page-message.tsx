import { usePanel, type FrameAddress, type PanelChoice } from "../app/questions.ts";
import { unbroken } from "../ui/unbroken.ts";
import type { PanelPlace } from "./panel-place.ts";

/** The page's message, drafted from the figures of its leading panel. */
export function PageMessage({
  place,
  frame,
  choice,
}: {
  place: PanelPlace;
  frame: FrameAddress;
  choice?: PanelChoice;
}) {
  const { data, error, isPlaceholderData } = usePanel(place, frame, choice);
  if (error && !data) return null;
  if (data === undefined) return <div className="waiting mt-2 h-7 w-3/4" />;
  const { words } = data.frame;
  return (
    <div style={{ opacity: isPlaceholderData ? 0.55 : 1 }}>
      <h1 className="mt-2 font-serif text-[21px] leading-snug">
        {unbroken("message" in data ? data.message : data.headline)}
      </h1>
      <p className="text-[13px] text-slate">
        {capital(words.span)}
        {words.isOpen ? ` as far as ${words.asOf.split(" ")[0]}` : ""}, {words.spanMonths}, for {words.scope}, against{" "}
        {words.basis}
      </p>
    </div>
  );
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

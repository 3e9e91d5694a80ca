import { Pin, Unlink } from "lucide-react";
import type { PanelDefinition, PanelKind } from "#core/panels/schemas.ts";
import { TextButton } from "../ui/form.tsx";
import { TextInPlace } from "../ui/text-in-place.tsx";
import { unbroken } from "../ui/unbroken.ts";
import { usePageHeadline } from "./page-message.tsx";
import type { PanelProps } from "./panel-view.ts";
import type { FrameAnswer } from "#core/frame/schema.ts";

/**
 * What a panel says of itself: its headline, where the page does not say the same above it, what it shows, what it keeps of
 * the frame, and whether it stands apart.
 */
export function PanelHead({
  view: { panel, choice, actions },
  label,
  drafted,
  descriptor,
  frame,
}: {
  view: PanelProps<PanelKind>;
  /** What it is called where it has no headline. */
  label: string;
  /** The headline made from its figures, or from its title; none where it has neither. */
  drafted: string | undefined;
  descriptor: string | undefined;
  frame: FrameAnswer;
}) {
  const { arrange } = actions;
  const pageHeadline = usePageHeadline();
  const isSaidAbove = drafted === pageHeadline && panel.title === undefined;
  const headline = isSaidAbove ? undefined : (drafted ?? panel.title);
  const set = (part: "title" | "subtitle") => (text: string) => {
    const { [part]: _, ...rest } = panel;
    arrange?.(text === "" ? rest : { ...rest, [part]: text });
  };
  const says = headline !== undefined || panel.subtitle || descriptor || panel.holds || panel.isApart || arrange;
  if (!says) return <h2 className="sr-only">{label}</h2>;
  return (
    <header className="px-4 pt-2.5 pb-1">
      {arrange ? (
        <TextInPlace
          as="h2"
          label="Title"
          value={panel.title ?? ""}
          drafted={drafted ?? "Add a title"}
          isInvitation={drafted === undefined}
          onCommit={set("title")}
          className="font-serif text-[17px] leading-snug"
        />
      ) : headline === undefined ? (
        <h2 className="sr-only">{label}</h2>
      ) : (
        <h2 className="font-serif text-[17px] leading-snug">{unbroken(headline)}</h2>
      )}
      {descriptor && <p className="mt-0.5 text-[13px] text-slate">{descriptor}</p>}
      {arrange ? (
        <TextInPlace
          as="p"
          label="Subtitle"
          value={panel.subtitle ?? ""}
          drafted="Add a subtitle"
          isInvitation
          onCommit={set("subtitle")}
          className="text-[13px]"
        />
      ) : (
        panel.subtitle && <p className="mt-0.5 text-[13px]">{panel.subtitle}</p>
      )}
      <Kept
        panel={panel}
        frame={frame}
        isFollowing={choice.follow === "page"}
        onFollow={(follow) => actions.choose({ follow })}
      />
    </header>
  );
}

/** What of the frame the panel keeps whatever the page says, with the way to follow the page, and back. */
function Kept({
  panel: { holds = {}, isApart },
  frame: { words },
  isFollowing,
  onFollow,
}: {
  panel: PanelDefinition;
  frame: FrameAnswer;
  isFollowing: boolean;
  onFollow: (follow: "page" | undefined) => void;
}) {
  const held = (
    [
      ["asOf", words.asOf],
      ["span", words.span],
      ["basis", `against ${words.basis}`],
      ["scope", `for ${words.scope}`],
    ] as const
  ).flatMap(([part, said]) => (holds[part] === undefined ? [] : [said]));
  if (held.length === 0 && !isApart) return null;
  return (
    <ul className="mt-0.5 flex flex-wrap gap-x-4 text-[12.5px]">
      {held.length > 0 && (
        <li className="flex flex-wrap items-center gap-x-1.5">
          <Pin size={12} aria-hidden="true" className="text-slate" />
          {isFollowing ? "Follows the page for now" : `Keeps its own: ${held.join(", ")}`}
          <span className="print:hidden">
            <TextButton onClick={() => onFollow(isFollowing ? undefined : "page")}>
              {isFollowing ? "Restore its own settings" : "Follow the page"}
            </TextButton>
          </span>
        </li>
      )}
      {isApart && (
        <li className="flex items-center gap-1.5">
          <Unlink size={12} aria-hidden="true" className="text-slate" />
          Stands apart: no click narrows it
        </li>
      )}
    </ul>
  );
}

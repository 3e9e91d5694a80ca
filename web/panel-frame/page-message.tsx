import { createContext, useContext, type ReactNode } from "react";
import { usePanel } from "../client/panel-answers.ts";
import type { PanelAnswer } from "#core/panels/schemas.ts";
import { TextInPlace } from "../ui/text-in-place.tsx";
import { unbroken } from "../ui/unbroken.ts";
import type { AskedPanel } from "../client/asked-panel.ts";

/** The page's message: its own headline, or one drafted from the figures of its leading panel; below it what all figures are of. */
export function PageMessage({
  asked,
  own,
  subtitle,
  pageName,
  onWrite,
}: {
  /** The leading panel; `null` where the page has none. */
  asked: AskedPanel | null;
  own: string | undefined;
  subtitle: string | undefined;
  pageName: string;
  /** Writes a part of one's own; `undefined` while the page is only read. */
  onWrite: ((part: "headline" | "subtitle", text: string) => void) | undefined;
}) {
  if (!asked)
    return <Message headline={own ?? pageName} {...{ own, subtitle, onWrite }} drafted={pageName} line={null} />;
  return <DraftedMessage {...{ asked, own, subtitle, pageName, onWrite }} />;
}

/** What a panel's figures say of a page that it leads; `undefined` where they say nothing. */
function messageOf(data: PanelAnswer | undefined): string | undefined {
  if (data === undefined) return undefined;
  return "message" in data && data.message !== "" ? data.message : "headline" in data ? data.headline : undefined;
}

const PageHeadline = createContext<string | undefined>(undefined);

/** Lets the panels of a page know its headline, so that none says the same sentence again. */
export function PageHeadlineProvider({
  asked,
  own,
  children,
}: {
  asked: AskedPanel | null;
  own: string | undefined;
  children: ReactNode;
}) {
  if (!asked || own !== undefined) return <PageHeadline.Provider value={own}>{children}</PageHeadline.Provider>;
  return <Drafted asked={asked}>{children}</Drafted>;
}

function Drafted({ asked, children }: { asked: AskedPanel; children: ReactNode }) {
  const { data } = usePanel(asked);
  return <PageHeadline.Provider value={messageOf(data)}>{children}</PageHeadline.Provider>;
}

/** The page's headline, where it is known. */
export function usePageHeadline(): string | undefined {
  return useContext(PageHeadline);
}

function DraftedMessage({
  asked,
  own,
  subtitle,
  pageName,
  onWrite,
}: Parameters<typeof PageMessage>[0] & { asked: AskedPanel }) {
  const { data, error, isPlaceholderData } = usePanel(asked);
  if (error && !data)
    return <Message headline={own ?? pageName} drafted={pageName} line={null} {...{ own, subtitle, onWrite }} />;
  if (data === undefined) return <div className="waiting mt-2 h-7 w-3/4" />;
  const { words } = data.frame;
  const drafted = messageOf(data) ?? pageName;
  const line = `${capital(words.span)}${words.isOpen && data.frame.span !== "full-year" ? ` as far as ${words.asOf.split(" ")[0]}` : ""}, ${words.spanMonths}, for ${words.scope}, against ${words.basis}`;
  return (
    <div style={{ opacity: isPlaceholderData ? 0.55 : 1 }}>
      <Message headline={own ?? drafted} {...{ own, subtitle, drafted, line, onWrite }} />
    </div>
  );
}

function Message({
  headline,
  own,
  subtitle,
  drafted,
  line,
  onWrite,
}: {
  headline: string;
  own: string | undefined;
  subtitle: string | undefined;
  drafted: string;
  line: string | null;
  onWrite: ((part: "headline" | "subtitle", text: string) => void) | undefined;
}) {
  const style = "mt-2 font-serif text-[21px] leading-snug";
  return (
    <>
      {onWrite ? (
        <TextInPlace
          as="h1"
          label="Headline"
          value={own ?? ""}
          drafted={drafted}
          onCommit={(text) => onWrite("headline", text)}
          className={style}
        />
      ) : (
        <h1 className={style}>{unbroken(headline)}</h1>
      )}
      {onWrite ? (
        <TextInPlace
          as="p"
          label="Subtitle of the page"
          value={subtitle ?? ""}
          drafted="Add a subtitle"
          isInvitation
          onCommit={(text) => onWrite("subtitle", text)}
          className="text-[14px]"
        />
      ) : (
        subtitle && <p className="text-[14px]">{subtitle}</p>
      )}
      {line && <p className="text-[13px] text-slate">{line}</p>}
    </>
  );
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

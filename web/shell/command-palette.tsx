import { PACKS } from "#contract/operations/packs.ts";
import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useLocation, useMatch, useNavigate } from "react-router";
import { keepFrame } from "./addresses.ts";
import { followerOf } from "../packs/follower.ts";
import { useOverlays, useSettings, useTheme } from "./settings.ts";
import { useFrameParams } from "../frame/frame-params.ts";
import { readLine, type AskedLine, type ReadLine } from "#core/workbench/read-line.ts";
import { workbenchAddress } from "../workbench/attempt-address.ts";
import { vocabularyOf } from "../workbench/vocabulary.ts";
import { FOUND_LIST } from "../ui/found-list.ts";
import { useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";
import { useFrameChoices } from "../frame/use-frame-choices.ts";

const DATA_PAGES = [
  { to: "/loads", name: "Loads", isEdit: false },
  { to: "/versions", name: "Versions of budget and forecast", isEdit: false },
  { to: "/feeds", name: "Feeds and intakes", isEdit: true },
  { to: "/structure/accounts", name: "Chart of accounts", isEdit: true },
  { to: "/structure/calendar", name: "Calendar and datasets", isEdit: true },
  { to: "/export", name: "Export", isEdit: false },
] as const;

/** Finds pages, KPIs, spans, bases, members and actions by a few letters. */
export function CommandPalette() {
  const { open, show } = useOverlays();
  const navigate = useNavigate();
  const { search } = useLocation();
  const onPage = useMatch("/packs/:pack/:page");
  const pack = useAnswer(PACKS.pack, { params: { pack: onPage?.params.pack ?? "" } }, { enabled: onPage !== null });
  const page = pack.data?.pages.find((own) => own.key === onPage?.params.page);
  // The first panel that shows one KPI over time shows the one that is chosen here.
  const follower = page && followerOf(page, "");
  const packs = useAnswer(PACKS.packs);
  const mayEdit = useMayEdit();
  const { frame, setFrame, setChoice } = useFrameParams();
  const structure = useFrameChoices(frame, open === "palette");
  const [written, setWritten] = useState("");
  const vocabulary = structure.data && vocabularyOf(structure.data);
  const line = vocabulary && written.trim() !== "" ? readLine(written, vocabulary) : null;
  const theme = useTheme();
  const setTheme = useSettings((s) => s.setTheme);
  const run = (action: () => void) => () => {
    show(null);
    setWritten("");
    action();
  };
  // What was looked for before is not what is looked for next.
  const onOpenChange = (isOpen: boolean) => {
    show(isOpen ? "palette" : null);
    if (!isOpen) setWritten("");
  };
  return (
    <Dialog.Root open={open === "palette"} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="popover fixed top-[14%] left-1/2 w-[min(36rem,92vw)] -translate-x-1/2 overflow-hidden"
        >
          <Dialog.Title className="sr-only">Find anything</Dialog.Title>
          <Command label="Find anything">
            <Command.Input
              autoFocus
              value={written}
              onValueChange={setWritten}
              placeholder="Find anything, or say what you want to see: fuel by vessel against prior year"
              className="w-full border-b border-thread bg-transparent px-4 py-3 text-base outline-none"
            />
            <Command.List className={`max-h-[50vh] overflow-y-auto p-2 ${FOUND_LIST}`}>
              {!line?.asked && <Command.Empty className="p-4 text-slate">No match.</Command.Empty>}
              {line && (
                <AskedLines
                  line={line}
                  written={written}
                  onComplete={setWritten}
                  onAsk={(asked) => run(() => void navigate(workbenchAddress(asked)))()}
                />
              )}
              <Command.Group heading="Pages">
                {packs.data?.flatMap((pack) =>
                  pack.pages.map((page) => (
                    <Command.Item
                      key={`${pack.key}/${page.key}`}
                      value={`${pack.name} ${page.name}`}
                      onSelect={run(() => void navigate(`/packs/${pack.key}/${page.key}${keepFrame(search)}`))}
                    >
                      {page.name}
                      <span className="text-slate"> · {pack.name}</span>
                    </Command.Item>
                  )),
                )}
                {DATA_PAGES.filter((page) => mayEdit || !page.isEdit).map((page) => (
                  <Command.Item key={page.to} value={`data ${page.name}`} onSelect={run(() => void navigate(page.to))}>
                    {page.name}
                  </Command.Item>
                ))}
              </Command.Group>
              {onPage && structure.data && (
                <>
                  <Command.Group heading="KPIs over time">
                    {(follower ? structure.data.kpis : []).map((kpi) => (
                      <Command.Item
                        key={kpi.key}
                        value={`kpi ${kpi.name} ${kpi.key}`}
                        onSelect={run(() => follower && setChoice(follower.key, { kpi: kpi.key }))}
                      >
                        {kpi.name}
                      </Command.Item>
                    ))}
                  </Command.Group>
                  <Command.Group heading="Span">
                    {structure.data.spans.map((span) => (
                      <Command.Item
                        key={span.key}
                        value={`span ${span.name}`}
                        onSelect={run(() => setFrame({ span: span.key }))}
                      >
                        {span.name}
                        <span className="text-slate"> · {span.months}</span>
                      </Command.Item>
                    ))}
                  </Command.Group>
                  <Command.Group heading="Against">
                    {structure.data.bases.map((basis) => (
                      <Command.Item
                        key={basis.key}
                        value={`against ${basis.name}`}
                        onSelect={run(() => setFrame({ basis: basis.key }))}
                      >
                        {basis.name}
                        <span className="text-slate"> · {basis.note}</span>
                      </Command.Item>
                    ))}
                  </Command.Group>
                  <Command.Group heading="Only">
                    {structure.data.dimensions.flatMap((d) =>
                      d.members.map((m) => (
                        <Command.Item
                          key={`${d.key}:${m.key}`}
                          value={`only ${m.name} ${d.name}`}
                          onSelect={run(() => setFrame({ scope: `${d.key}:${m.key}` }))}
                        >
                          {m.name}
                          <span className="text-slate"> · {d.name}</span>
                        </Command.Item>
                      )),
                    )}
                  </Command.Group>
                </>
              )}
              <Command.Group heading="Actions">
                <Command.Item onSelect={run(() => setTheme(theme === "dark" ? "light" : "dark"))}>
                  {theme === "dark" ? "Light theme" : "Dark theme"}
                </Command.Item>
                <Command.Item onSelect={run(() => show("shortcuts"))}>Keyboard shortcuts</Command.Item>
              </Command.Group>
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What a line asks for, and how it can go on, word by word. */
function AskedLines({
  line: { asked, rest, completions },
  written,
  onComplete,
  onAsk,
}: {
  line: ReadLine;
  /** As it was written: what matches it best is chosen first. */
  written: string;
  onComplete: (line: string) => void;
  onAsk: (asked: AskedLine) => void;
}) {
  if (!asked && completions.length === 0) return null;
  return (
    <Command.Group heading="Workbench" forceMount>
      {asked && rest === "" && (
        <Command.Item forceMount value={`workbench: ${written.trim()}`} onSelect={() => onAsk(asked)}>
          Show it in the workbench
        </Command.Item>
      )}
      {completions.map((completion) => (
        <Command.Item
          key={completion}
          forceMount
          value={`workbench: ${completion}`.trim()}
          onSelect={() => onComplete(`${completion.trimEnd()} `)}
        >
          {completion} …
        </Command.Item>
      ))}
      {asked && rest !== "" && completions.length === 0 && (
        <p className="px-2 py-1 text-[13px] text-slate">
          “{rest}” is not understood: take it out, or choose another word.
        </p>
      )}
    </Command.Group>
  );
}

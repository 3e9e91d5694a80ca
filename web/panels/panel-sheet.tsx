import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import type { AnswerOf, PanelKind } from "#contract/panels/index.ts";
import type { ApiProblem } from "../app/api.ts";
import { usePanel } from "../app/questions.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { PanelFoot } from "./panel-foot.tsx";
import { PanelHead } from "./panel-head.tsx";
import type { PanelProps } from "./panel-view.ts";

/** A panel: what it says of itself, its figures, and what can be taken along. */
export function PanelSheet<K extends PanelKind>({
  view,
  label,
  skeleton,
  table,
  action,
  children,
}: {
  view: PanelProps<K>;
  /** What the panel is called where it has no title. */
  label: string;
  skeleton: ReactNode;
  /** The numbers behind it, to take along; none where it has none. */
  table?: (data: AnswerOf<K>) => PanelTable;
  /** The way out of a problem. */
  action?: (problem: ApiProblem) => ReactNode;
  /** The figures, and those of the part that is weighed. */
  children: (data: AnswerOf<K>, part: AnswerOf<K> | undefined) => ReactNode;
}) {
  const { panel, asked, part: askedPart } = view;
  const answer = usePanel(asked) as UseQueryResult<AnswerOf<K>>;
  const part = usePanel(askedPart ?? asked, askedPart !== null);
  const partData = askedPart && !part.isPlaceholderData ? (part.data as AnswerOf<K> | undefined) : undefined;
  const name = panel.title ?? (view.ordinal === 1 ? label : `${label} ${view.ordinal}`);
  const anyView = view as unknown as PanelProps<PanelKind>;
  return (
    <AnswerSheet
      label={name}
      answer={answer}
      skeleton={skeleton}
      className={`flex h-full flex-col ${panel.isBare ? "" : "rounded-md border border-thread bg-panel"}`}
      {...(action ? { action } : {})}
    >
      {(data) => (
        <>
          <PanelHead
            view={anyView}
            label={name}
            drafted={"headline" in data ? data.headline : undefined}
            descriptor={"descriptor" in data ? data.descriptor : undefined}
            frame={data.frame}
          />
          {children(data, partData)}
          <PanelFoot view={anyView} table={table && (() => table(data))} />
        </>
      )}
    </AnswerSheet>
  );
}

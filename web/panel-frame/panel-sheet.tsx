import type { UseQueryResult } from "@tanstack/react-query";
import { memo, useDeferredValue, type ReactNode } from "react";
import { isSame } from "#core/history/records-diff.ts";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import type { AnswerOf, PanelKind } from "#core/panels/schemas.ts";
import { usePanel } from "../client/panel-answers.ts";
import { useInView } from "../ui/use-in-view.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { TextButton } from "../ui/form.tsx";
import { PanelFoot } from "./panel-foot.tsx";
import { PanelHead } from "./panel-head.tsx";
import type { PanelProps } from "./panel-view.ts";

/** A panel: what it says of itself, its figures, and what can be taken along. */
export function PanelSheet<K extends PanelKind>({
  view,
  label,
  skeleton,
  table,
  children,
}: {
  view: PanelProps<K>;
  /** What the panel is called where it has no title. */
  label: string;
  skeleton: ReactNode;
  /** The numbers behind it, to take along; none where it has none. */
  table?: (data: AnswerOf<K>) => PanelTable;
  /** The figures, and those of the part that is weighed. */
  children: (data: AnswerOf<K>, part: AnswerOf<K> | undefined) => ReactNode;
}) {
  const { panel, asked, part: askedPart } = view;
  const answer = usePanel(asked) as UseQueryResult<AnswerOf<K>>;
  const part = usePanel(askedPart ?? asked, askedPart !== null);
  const partData = askedPart && !part.isPlaceholderData ? (part.data as AnswerOf<K> | undefined) : undefined;
  const name = panel.title ?? (view.ordinal === 1 ? label : `${label} ${view.ordinal}`);
  const [isInView, holder] = useInView();
  // What is in view is drawn first.
  const former = useDeferredValue(answer.data);
  const isBehind = !isInView && former !== undefined && former !== answer.data;
  const anyView = view as unknown as PanelProps<PanelKind>;
  return (
    <AnswerSheet
      label={name}
      answer={answer}
      skeleton={skeleton}
      holder={holder}
      isBehind={isBehind}
      className={`flex h-full flex-col ${panel.isBare ? "" : "rounded-md border border-thread bg-panel"}`}
      action={() => <AsArranged view={anyView} />}
    >
      {(answered) => {
        const data = isBehind ? former : answered;
        return (
          <>
            <PanelHead
              view={anyView}
              label={name}
              drafted={"headline" in data ? data.headline : undefined}
              descriptor={"descriptor" in data ? data.descriptor : undefined}
              frame={data.frame}
            />
            <PanelBody shown={bodyOf(view, data, partData)}>{() => children(data, partData)}</PanelBody>
            <PanelFoot view={anyView} table={table && (() => table(data))} />
          </>
        );
      }}
    </AnswerSheet>
  );
}

/** The way out where what was chosen of a panel cannot be shown. */
function AsArranged({ view: { choice, actions } }: { view: PanelProps<PanelKind> }) {
  const chosen = Object.keys(choice).filter((part) => part !== "table");
  if (chosen.length === 0) return null;
  const nothing = Object.fromEntries(chosen.map((part) => [part, undefined]));
  return <TextButton onClick={() => actions.choose(nothing)}>Show it as it is arranged</TextButton>;
}

/** What a panel's body is drawn from; what else of its view changes, as the frame it is asked in, does not reach it. */
interface ShownBody {
  /** Compared by identity. */
  readonly same: readonly unknown[];
  /** Compared by what they hold. */
  readonly alike: Readonly<Record<string, unknown>>;
}

function bodyOf<K extends PanelKind>(view: PanelProps<K>, data: unknown, part: unknown): ShownBody {
  const { panel, choice, picked, actions, leads, standing, ordinal } = view;
  return {
    same: [data, part, panel, actions, standing, ordinal, leads?.kpi],
    alike: { choice, picked },
  };
}

/** The figures: drawn anew only where what they are drawn from changed, however often the page around them is. */
const PanelBody = memo(
  function PanelBody({ children }: { shown: ShownBody; children: () => ReactNode }) {
    return children();
  },
  ({ shown: before }, { shown: after }) =>
    before.same.every((one, i) => one === after.same[i]) && isSame(before.alike, after.alike),
);

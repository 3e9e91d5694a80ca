import { useState } from "react";
import type { EditableStructure } from "#contract/structure.ts";
import type { Draft, WireEffect, WireFinding } from "#contract/intake.ts";
import { countOf } from "#core/formats/count-words.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { TextButton } from "../ui/form.tsx";
import { MeaningChooser } from "./meaning-chooser.tsx";
import { RowsTable, type ShownRow } from "./rows-table.tsx";
import { changedRows } from "./step-changes.ts";
import type { DraftEdit } from "./use-draft-edit.ts";

/** What the table of rows is pointed at: a step's changes, a check's lines, or neither. */
export type Focus = { readonly step: number } | { readonly rule: string } | null;

/** The rows of a file: as they come in, as they will be posted, what a step changed, or the lines a check found. */
export function DraftRows({
  draft,
  structure,
  focus,
  onLeave,
  apply,
}: {
  draft: Draft;
  structure: EditableStructure;
  focus: Focus;
  /** Called when a person turns from the focus to the plain rows. */
  onLeave: () => void;
  apply: DraftEdit["apply"];
}) {
  const [view, setView] = useState<"tidied" | "raw">("tidied");
  const finding = focus && "rule" in focus ? draft.report?.findings.find((f) => f.rule === focus.rule) : undefined;
  const step = focus && "step" in focus ? focus.step : null;
  const effect = step === null ? undefined : (draft.report?.effects ?? draft.sample.effects)[step];
  const isPlain = !finding && !effect;
  const table = finding
    ? foundLines(draft, finding)
    : effect
      ? changesOf(draft, step!, effect)
      : view === "raw"
        ? { title: "In the file", columns: draft.columns, rows: [...draft.sample.raw] }
        : { title: "As it will be posted", columns: finalColumns(draft), rows: [...draft.sample.tidied] };
  const show = (next: "raw" | "tidied") => {
    setView(next);
    onLeave();
  };
  const { rejectedLines } = draft.definition.rules;
  const setRejected = (lines: number[]) => apply((d) => ({ ...d, rules: { ...d.rules, rejectedLines: lines } }));
  return (
    <section
      aria-label="Rows"
      className="flex min-h-0 flex-col rounded-md border border-thread bg-panel max-lg:max-h-[28rem]"
    >
      <div className="flex items-baseline gap-4 border-b border-thread px-3 py-1.5 text-[13px]">
        <Tab isChosen={isPlain && view === "raw"} onClick={() => show("raw")}>
          In the file
        </Tab>
        <Tab isChosen={isPlain && view === "tidied"} onClick={() => show("tidied")}>
          As it will be posted
        </Tab>
        {!isPlain && <span className="truncate font-semibold">{finding ? "Lines found" : table.title}</span>}
        <span className="ml-auto shrink-0 text-slate">
          {isPlain ? `first ${countOf(table.rows.length, "row")}` : `${formatNumber(table.rows.length, 0)} shown`}
        </span>
      </div>
      {table.rows.length === 0 ? (
        <p className="p-6 text-slate">
          {effect
            ? "This step changes nothing in the file."
            : "There are no rows below the header. Choose another header line."}
        </p>
      ) : (
        <RowsTable
          label={table.title}
          columns={table.columns}
          rows={table.rows}
          numeric={numericColumns(draft)}
          {...(isPlain && view === "tidied"
            ? {
                head: (column: string) => (
                  <MeaningChooser column={column} draft={draft} structure={structure} apply={apply} />
                ),
              }
            : {})}
          {...(finding
            ? {
                action: ({ line }: ShownRow) =>
                  rejectedLines.includes(line) ? (
                    <TextButton onClick={() => setRejected(rejectedLines.filter((l) => l !== line))}>
                      take back in
                    </TextButton>
                  ) : (
                    <TextButton onClick={() => setRejected([...rejectedLines, line])}>leave out</TextButton>
                  ),
              }
            : {})}
        />
      )}
    </section>
  );
}

interface Table {
  readonly title: string;
  readonly columns: readonly string[];
  readonly rows: readonly ShownRow[];
}

function foundLines(draft: Draft, finding: WireFinding): Table {
  const columns = finalColumns(draft);
  return {
    title: finding.message,
    columns,
    rows: finding.lines.map((line) => ({ ...line, pointed: columns.indexOf(line.column) })),
  };
}

function changesOf(draft: Draft, step: number, effect: WireEffect): Table {
  const before = step === 0 ? draft.columns : (draft.stages[step - 1] ?? draft.columns);
  return {
    title: `Changed by “${draft.stepWords[step] ?? "this step"}”`,
    columns: effect.columns,
    rows: changedRows(effect, before),
  };
}

function finalColumns(draft: Draft): readonly string[] {
  return draft.stages.at(-1) ?? draft.columns;
}

function numericColumns(draft: Draft): ReadonlySet<string> {
  const meanings = Object.entries(draft.definition.rules.mapping.columns);
  return new Set([
    ...draft.profiles.filter((p) => p.type === "number").map((p) => p.name),
    ...meanings.flatMap(([name, m]) => (m.as === "amount" || m.as === "quantity" ? [name] : [])),
  ]);
}

function Tab({ isChosen, onClick, children }: { isChosen: boolean; onClick: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      onClick={onClick}
      className={`min-h-[24px] ${isChosen ? "font-semibold shadow-[inset_0_-2px_0_var(--accent)]" : "text-slate hover:text-ink"}`}
    >
      {children}
    </button>
  );
}

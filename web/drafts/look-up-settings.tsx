import { DRAFTS } from "#contract/operations/drafts.ts";
import { useState } from "react";
import { broughtTableSchema, type BroughtTable, type Draft, type TableHead } from "#contract/intake.ts";
import { operationPath } from "#contract/operations/operation.ts";
import { freeName } from "#core/mapping/free-name.ts";
import { countOf } from "#core/formats/count-words.ts";
import { call, sendFile } from "../client/api.ts";
import { Field } from "../ui/form.tsx";
import { ColumnTicks } from "./column-ticks.tsx";
import type { StepOf } from "#core/tidy/steps/index.ts";

/** The file whose rows look something up: its own sheets, and the tables that it has. */
export type TableSource = Pick<Draft, "id" | "sheets" | "tables" | "definition">;

type LookUpStep = StepOf<"look-up">;

/** Which table is looked up in, by which column, and what is taken from it; a table is brought or is another sheet. */
export function LookUp({
  step,
  columns,
  set,
  draft,
}: {
  step: LookUpStep;
  columns: readonly string[];
  set: (change: Partial<Omit<LookUpStep, "kind">>) => void;
  draft: TableSource;
}) {
  const [brought, setBrought] = useState<readonly TableHead[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const [isWaiting, setWaiting] = useState(false);
  const tables = [...draft.tables, ...brought].filter(
    (table, i, all) => all.findIndex(({ key }) => key === table.key) === i,
  );
  const table = tables.find(({ key }) => key === step.table);
  const { reading } = draft.definition;
  const read = new Set([reading.sheet, ...(reading.stack ?? []).map(({ sheet }) => sheet)]);
  const sheets = draft.sheets.filter((sheet) => !read.has(sheet));
  const take = async (bring: () => Promise<BroughtTable>) => {
    setProblem(null);
    setWaiting(true);
    try {
      const answer = await bring();
      setBrought((before) => [...before, answer.table]);
      choose(answer.table, answer.proposed);
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setWaiting(false);
    }
  };
  const choose = (chosen: TableHead, proposed: LookUpStep | null = null) =>
    set(
      proposed ?? {
        table: chosen.key,
        named: chosen.name,
        by: chosen.columns[0]!,
        take: chosen.columns.slice(1).map((column) => ({ column, into: freeName(column, columns) })),
      },
    );
  return (
    <>
      <Field label="Look up in">
        <select
          className="field"
          value={step.table}
          disabled={isWaiting}
          onChange={({ target: { value } }) => {
            const sheet = value.startsWith(SHEET) ? value.slice(SHEET.length) : null;
            const chosen = tables.find(({ key }) => key === value);
            if (chosen) choose(chosen);
            else if (sheet !== null)
              void take(() => call(DRAFTS.bringSheet, { params: { draft: draft.id }, body: { sheet } }));
          }}
        >
          <option value="">{isWaiting ? "Reading …" : "Choose a table"}</option>
          {tables.map(({ key, name, rows }) => (
            <option key={key} value={key}>{`${name}, ${countOf(rows, "row")}`}</option>
          ))}
          {sheets.map((sheet) => (
            <option key={sheet} value={`${SHEET}${sheet}`}>{`sheet ${sheet} of this workbook`}</option>
          ))}
        </select>
      </Field>
      <label className="text-[12.5px] text-slate">
        or in a file of its own
        <input
          type="file"
          className="mt-0.5 block w-full text-[12.5px]"
          accept=".csv,.txt,.tsv,.xlsx"
          onChange={({ target: { files } }) => {
            const file = files?.[0];
            if (!file) return;
            const path = operationPath(DRAFTS.bringTable, { params: { draft: draft.id }, query: { name: file.name } });
            void take(() =>
              sendFile(path, broughtTableSchema, {
                file,
                onProgress: () => {},
                signal: new AbortController().signal,
              }),
            );
          }}
        />
      </label>
      {problem !== null && (
        <p role="alert" className="text-[12.5px] text-madder">
          {problem}
        </p>
      )}
      {table && (
        <>
          <Field label="The text in">
            <select className="field" value={step.column} onChange={(e) => set({ column: e.target.value })}>
              {columns.map((column) => (
                <option key={column}>{column}</option>
              ))}
            </select>
          </Field>
          <Field label={`is found in ${table.name} under`}>
            <select className="field" value={step.by} onChange={(e) => set({ by: e.target.value })}>
              {table.columns.map((column) => (
                <option key={column}>{column}</option>
              ))}
            </select>
          </Field>
          <ColumnTicks
            label="and gives"
            columns={table.columns.filter((column) => column !== step.by)}
            chosen={step.take.map(({ column }) => column)}
            onChange={(next) =>
              set({
                take: next.map(
                  (column) =>
                    step.take.find((one) => one.column === column) ?? { column, into: freeName(column, columns) },
                ),
              })
            }
          />
        </>
      )}
    </>
  );
}

const SHEET = "sheet:";

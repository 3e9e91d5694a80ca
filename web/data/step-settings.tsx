import { columnKeys, compileColumns } from "#core/tidy/column-formula.ts";
import { SCALES } from "#core/tidy/step.ts";
import { formatNumber } from "#core/words/number-words.ts";
import type { ReactNode } from "react";
import { Field, TextField } from "../ui/form.tsx";
import { parseTextList, writeTextList } from "../ui/text-list.ts";
import { ColumnTicks } from "./column-ticks.tsx";
import { LookUp, type TableSource } from "./look-up-settings.tsx";
import { DATES } from "./reading-choices.ts";
import type { Step, StepKind } from "./step-kinds.ts";

type StepOf<K extends StepKind> = Extract<Step, { kind: K }>;

/** What the settings of a step are drawn from, and how they change it. */
interface SettingsProps<S extends Step> {
  readonly step: S;
  readonly columns: readonly string[];
  readonly set: (change: Partial<Omit<S, "kind">>) => void;
  /** The file that the step is of. */
  readonly draft: TableSource;
}

const TESTS = ["is", "is not", "contains", "begins with", "is empty", "is not empty"] as const;
const MOST_DECIMALS = 9;

/** The settings of each kind of step; a kind without settings does not compile. */
const SETTINGS: { readonly [K in StepKind]: (props: SettingsProps<StepOf<K>>) => ReactNode } = {
  trim: Columns,
  "fill-down": Columns,
  "to-text": Columns,
  "to-whole": Columns,
  "skip-sums": Columns,
  duration: ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <Field label="As a number of">
        <select className="field" value={step.in} onChange={(event) => set({ in: event.target.value as "hours" })}>
          <option>hours</option>
          <option>minutes</option>
          <option>seconds</option>
        </select>
      </Field>
    </>
  ),
  difference: ({ step, columns, set }) => (
    <>
      <OneColumn {...{ step, columns, set }} />
      <ColumnTicks
        label="Apart for each"
        columns={columns.filter((name) => name !== step.column)}
        chosen={step.by}
        onChange={(by) => set({ by })}
      />
      <TextField label="New column" value={step.into} onCommit={(into) => set({ into })} />
    </>
  ),
  case: (props) => (
    <>
      <Columns {...props} />
      <Field label="Write them in">
        <select
          className="field"
          value={props.step.to}
          onChange={(e) => props.set({ to: e.target.value as StepOf<"case">["to"] })}
        >
          <option value="title">Title Case</option>
          <option value="upper">UPPER CASE</option>
          <option value="lower">lower case</option>
        </select>
      </Field>
    </>
  ),
  replace: ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <TextField label="Find (nothing: empty cells)" value={step.find} onCommit={(find) => set({ find })} />
      <TextField label="Replace by" value={step.with} onCommit={(text) => set({ with: text })} />
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={step.whole} onChange={(e) => set({ whole: e.target.checked })} /> only whole
        cells
      </label>
    </>
  ),
  split: ({ step, columns, set }) => (
    <>
      <OneColumn {...{ step, columns, set }} />
      <TextField label="Separator" value={step.at} onCommit={(at) => set({ at })} keepSpaces />
      <Texts label="New columns, separated by commas" texts={step.into} onChange={(into) => set({ into })} />
    </>
  ),
  join: ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <TextField label="Text between them" value={step.with} onCommit={(text) => set({ with: text })} keepSpaces />
      <TextField label="New column" value={step.into} onCommit={(into) => set({ into })} />
    </>
  ),
  filter: ({ step, columns, set }) => (
    <>
      <OneColumn {...{ step, columns, set }} />
      <Field label="Rows where the text">
        <span className="grid grid-cols-2 gap-1.5">
          <select
            className="field"
            aria-label="Test"
            value={step.test}
            onChange={(e) => set({ test: e.target.value as StepOf<"filter">["test"] })}
          >
            {TESTS.map((test) => (
              <option key={test}>{test}</option>
            ))}
          </select>
          <select
            className="field"
            aria-label="Keep or drop"
            value={step.keep ? "keep" : "drop"}
            onChange={(e) => set({ keep: e.target.value === "keep" })}
          >
            <option value="drop">are dropped</option>
            <option value="keep">are kept, others dropped</option>
          </select>
        </span>
      </Field>
      {!step.test.endsWith("empty") && (
        <Texts label="Texts, separated by commas" texts={step.values} onChange={(values) => set({ values })} />
      )}
    </>
  ),
  "skip-totals": ({ step, set }) => (
    <Texts label="Words, separated by commas" texts={step.words} onChange={(words) => set({ words })} />
  ),
  "number-format": ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <Field label="Numbers like">
        <select
          className="field"
          value={step.mark}
          onChange={(event) => set({ mark: event.target.value === "," ? "," : "." })}
        >
          <option value=",">1.234,56</option>
          <option value=".">1,234.56</option>
        </select>
      </Field>
    </>
  ),
  "add-year": ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <Field label="The fiscal year, by the year in which it ends">
        <input
          className="field"
          type="number"
          min={1900}
          max={2200}
          value={step.year}
          onChange={(event) => set({ year: Number(event.target.value) || step.year })}
        />
      </Field>
    </>
  ),
  constant: ({ step, set }) => (
    <>
      <TextField label="New column" value={step.into} onCommit={(into) => set({ into })} />
      <TextField label="On every row" value={step.value} onCommit={(value) => set({ value })} />
    </>
  ),
  compute: ({ step, columns, set }) => <Compute {...{ step, columns, set }} />,
  "look-up": ({ step, columns, set, draft }) => <LookUp {...{ step, columns, set, draft }} />,
  scale: ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <Field label="Times">
        <select
          className="field"
          value={step.by}
          onChange={(event) => set({ by: SCALES.find((by) => String(by) === event.target.value) ?? 1000 })}
        >
          {SCALES.map((by) => (
            <option key={by} value={by}>
              {formatNumber(by, 0)}
            </option>
          ))}
        </select>
      </Field>
    </>
  ),
  "flip-sign": ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <Field label="In">
        <select
          className="field"
          aria-label="Which rows"
          value={step.where?.column ?? ""}
          onChange={({ target: { value } }) =>
            set({ where: value === "" ? null : { column: value, values: step.where?.values ?? [] } })
          }
        >
          <option value="">all rows</option>
          {columns.map((column) => (
            <option key={column} value={column}>{`rows where ${column} is`}</option>
          ))}
        </select>
      </Field>
      {step.where && (
        <Texts
          label="Texts, separated by commas"
          texts={step.where.values}
          onChange={(values) => set({ where: { ...step.where!, values } })}
        />
      )}
    </>
  ),
  unpivot: ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <TextField label="Column for their names" value={step.nameInto} onCommit={(nameInto) => set({ nameInto })} />
      <TextField label="Column for their values" value={step.valueInto} onCommit={(valueInto) => set({ valueInto })} />
    </>
  ),
  "skip-notes": () => (
    <p className="text-[12.5px] text-slate">Notes, sources and headings of sections hold no amount.</p>
  ),
  "drop-doubles": () => <p className="text-[12.5px] text-slate">Of rows alike in every column, the first stays.</p>,
  "merge-duplicates": ({ step, columns, set }) => (
    <ColumnTicks label="Add up" columns={columns} chosen={step.sum} onChange={(sum) => set({ sum })} />
  ),
  "to-decimal": ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <TextField
        label="Decimals"
        value={String(step.decimals)}
        onCommit={(text) => set({ decimals: Math.min(MOST_DECIMALS, Math.max(0, Math.trunc(Number(text)) || 0)) })}
      />
    </>
  ),
  "to-date": ({ step, columns, set }) => (
    <>
      <Columns {...{ step, columns, set }} />
      <Field label="Written as">
        <select
          className="field"
          value={step.format}
          onChange={(e) => set({ format: e.target.value as StepOf<"to-date">["format"] })}
        >
          {DATES.map((way) => (
            <option key={way.key} value={way.key}>{`${way.name}, ${way.note}`}</option>
          ))}
        </select>
      </Field>
    </>
  ),
};

/** The settings of a step, whatever its kind. */
export function StepSettings({ step, columns, set, draft }: SettingsProps<Step>) {
  // The one place where a kind known at run time only meets the settings of its own.
  const Settings = SETTINGS[step.kind] as (props: SettingsProps<Step>) => ReactNode;
  return <>{Settings({ step, columns, set, draft })}</>;
}

/** A column by a formula: what the others are called in it, and what is wrong with it, while it is typed. */
function Compute({ step, columns, set }: Omit<SettingsProps<StepOf<"compute">>, "draft">) {
  const known = columns.filter((column) => column !== step.into);
  const read = step.formula.trim() === "" ? null : compileColumns(step.formula, known);
  return (
    <>
      <TextField label="New column" value={step.into} onCommit={(into) => set({ into })} />
      <TextField
        label="Formula, such as quantity * unit_price"
        value={step.formula}
        onCommit={(formula) => set({ formula })}
      />
      {read && !read.ok && <p className="text-[12.5px] text-madder">{read.problem.message}</p>}
      <p className="flex flex-wrap gap-1 text-[12.5px]">
        {[...columnKeys(known)].map(([key, column]) => (
          <button
            key={key}
            type="button"
            className="min-h-6 rounded border border-thread px-1.5 hover:border-accent"
            title={column}
            onClick={() => set({ formula: `${step.formula}${step.formula === "" ? "" : " "}${key}` })}
          >
            {key}
          </button>
        ))}
      </p>
      <TextField
        label="Decimals"
        value={String(step.decimals)}
        onCommit={(text) => set({ decimals: Math.min(MOST_DECIMALS, Math.max(0, Math.trunc(Number(text)) || 0)) })}
      />
    </>
  );
}

/** The columns that a step works on. */
function Columns({
  step,
  columns,
  set,
}: {
  step: { readonly columns: readonly string[] };
  columns: readonly string[];
  set: (change: { columns: string[] }) => void;
}) {
  return (
    <ColumnTicks label="Columns" columns={columns} chosen={step.columns} onChange={(next) => set({ columns: next })} />
  );
}

function OneColumn({
  step,
  columns,
  set,
}: {
  step: { readonly column: string };
  columns: readonly string[];
  set: (change: { column: string }) => void;
}) {
  return (
    <Field label="Column">
      <select className="field" value={step.column} onChange={(e) => set({ column: e.target.value })}>
        {columns.map((column) => (
          <option key={column}>{column}</option>
        ))}
      </select>
    </Field>
  );
}

function Texts({
  label,
  texts,
  onChange,
}: {
  label: string;
  texts: readonly string[];
  onChange: (texts: string[]) => void;
}) {
  return (
    <TextField
      label={label}
      value={writeTextList(texts, ",")}
      onCommit={(text) => onChange(parseTextList(text, ","))}
    />
  );
}

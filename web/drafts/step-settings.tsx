import type { ReactNode } from "react";
import { fieldOf, type SettingField } from "#core/tidy/settings.ts";
import { stepKind, type StepOf, type TidyKind, type TidyStep } from "#core/tidy/steps/index.ts";
import { columnKeys, compileColumns } from "#core/tidy/column-formula.ts";
import { MOST_DECIMALS } from "#core/tidy/rounded.ts";
import { ROW_TESTS } from "#core/tidy/steps/filter.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { Field, TextField } from "../ui/form.tsx";
import { parseTextList, writeTextList } from "../ui/text-list.ts";
import { ColumnTicks } from "./column-ticks.tsx";
import { LookUp, type TableSource } from "./look-up-settings.tsx";

/** What the settings of a step are drawn from, and how they change it. */
interface SettingsProps<S> {
  readonly step: S;
  readonly columns: readonly string[];
  readonly set: (change: Partial<Omit<S, "kind">>) => void;
  /** The file that the step is of. */
  readonly draft: TableSource;
}

/** The settings of a step: derived from its schema, but for kinds whose settings hang together. */
export function StepSettings(props: SettingsProps<TidyStep>) {
  // The one place where a kind known at run time only meets the settings of its own.
  const own = OWN_SETTINGS[props.step.kind] as ((props: SettingsProps<TidyStep>) => ReactNode) | undefined;
  return <>{own ? own(props) : <DerivedSettings {...props} />}</>;
}

function DerivedSettings({ step, columns, set }: SettingsProps<TidyStep>) {
  const { schema, about } = stepKind(step.kind);
  const values = step as unknown as Readonly<Record<string, unknown>>;
  return (
    <>
      {about !== undefined && <p className="text-[12.5px] text-slate">{about}</p>}
      {Object.entries(schema.shape).map(([setting, schema]) => {
        const field = fieldOf(schema);
        if (!field) return null;
        // What one column is taken for is not offered again where several are.
        const others = columns.filter((name) => name !== values["column"]);
        return (
          <Setting
            key={setting}
            field={field}
            columns={field.as === "columns" ? others : columns}
            value={values[setting]}
            onChange={(value) => set({ [setting]: value } as Partial<TidyStep>)}
          />
        );
      })}
    </>
  );
}

/** One setting, as its schema says that it is set. */
function Setting({
  field,
  columns,
  value,
  onChange,
}: {
  field: SettingField;
  columns: readonly string[];
  value: unknown;
  onChange: (value: unknown) => void;
}) {
  const { label } = field;
  switch (field.as) {
    case "columns":
      return <ColumnTicks label={label} columns={columns} chosen={value as readonly string[]} onChange={onChange} />;
    case "column":
      return <OneColumn label={label} columns={columns} chosen={value as string} onChange={onChange} />;
    case "texts":
      return <Texts label={label} texts={value as readonly string[]} onChange={onChange} />;
    case "text":
      return (
        <TextField label={label} value={value as string} onCommit={onChange} keepSpaces={field.keepsSpaces ?? false} />
      );
    case "number":
      return <WholeNumber label={label} value={value as number} min={field.min} max={field.max} onChange={onChange} />;
    case "number-choice":
      return (
        <Choice
          label={label}
          value={String(value)}
          names={field.values.map((one) => [String(one), formatNumber(one, 0)])}
          onChange={(chosen) => onChange(Number(chosen))}
        />
      );
    case "choice":
      return <Choice label={label} value={value as string} names={field.names} onChange={onChange} />;
    case "flag":
      return (
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={value as boolean} onChange={(event) => onChange(event.target.checked)} />
          {label}
        </label>
      );
  }
}

const PERIOD_PARTS = [
  ["year", "a year"],
  ["month", "a month of the calendar"],
  ["period", "a period of the fiscal year"],
] as const;

/** What each heading says, which a person may correct. */
function TurnedHeadings({ step, set }: SettingsProps<StepOf<"turn">>) {
  const change = (at: number, place: number, text: string) =>
    set({
      turned: step.turned.map((own, i) =>
        i === at ? { ...own, texts: step.into.map((_, k) => (k === place ? text : (own.texts[k] ?? ""))) } : own,
      ),
    });
  return (
    <>
      <p className="text-[12.5px] text-slate">{stepKind("turn").about}</p>
      <div className="max-h-72 overflow-auto">
        <table className="w-full text-[12.5px]">
          <thead>
            <tr className="text-left text-slate">
              <th className="pr-2 font-normal">Heading</th>
              {step.into.map((name) => (
                <th key={name} className="pr-2 font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {step.turned.map(({ name, texts }, at) => (
              <tr key={name}>
                <th scope="row" className="max-w-[12em] truncate pr-2 text-left font-normal" title={name}>
                  {name}
                </th>
                {step.into.map((into, place) => (
                  <td key={into} className="py-0.5 pr-2">
                    <input
                      className="field !py-0.5"
                      aria-label={`${into} of ${name}`}
                      value={texts[place] ?? ""}
                      onChange={(event) => change(at, place, event.target.value)}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <TextField label="Column for their values" value={step.valueInto} onCommit={(valueInto) => set({ valueInto })} />
    </>
  );
}

/** Which columns say the month, and what each of them says. */
function PeriodParts({ step, columns, set }: SettingsProps<StepOf<"make-period">>) {
  const change = (at: number, own: Partial<StepOf<"make-period">["parts"][number]>) =>
    set({ parts: step.parts.map((part, i) => (i === at ? { ...part, ...own } : part)) });
  return (
    <>
      <p className="text-[12.5px] text-slate">{stepKind("make-period").about}</p>
      {step.parts.map((part, at) => (
        <span key={at} className="grid grid-cols-2 gap-1.5">
          <OneColumn
            label={`Column ${at + 1}`}
            columns={columns}
            chosen={part.column}
            onChange={(column) => change(at, { column })}
          />
          <Choice
            label="Its numbers are"
            value={part.is}
            names={PERIOD_PARTS}
            onChange={(is) => change(at, { is: is as (typeof PERIOD_PARTS)[number][0] })}
          />
        </span>
      ))}
      <Field label="Year, where no column says it">
        <input
          type="number"
          min={1900}
          max={2200}
          className="field w-28"
          value={step.year ?? ""}
          onChange={(event) => set({ year: event.target.value === "" ? null : Number(event.target.value) })}
        />
      </Field>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={step.isFiscal} onChange={(event) => set({ isFiscal: event.target.checked })} />
        Years are fiscal years, named by the year in which they end
      </label>
      <TextField label="New column" value={step.into} onCommit={(into) => set({ into })} />
    </>
  );
}

/** Kinds whose settings hang together. */
const OWN_SETTINGS: { readonly [K in TidyKind]?: (props: SettingsProps<StepOf<K>>) => ReactNode } = {
  turn: TurnedHeadings,
  "make-period": PeriodParts,
  filter: ({ step, columns, set }) => (
    <>
      <OneColumn label="Column" columns={columns} chosen={step.column} onChange={(column) => set({ column })} />
      <Field label="Rows where the text">
        <span className="grid grid-cols-2 gap-1.5">
          <select
            className="field"
            aria-label="Test"
            value={step.test}
            onChange={(e) => set({ test: e.target.value as StepOf<"filter">["test"] })}
          >
            {ROW_TESTS.map((test) => (
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
  "flip-sign": ({ step, columns, set }) => (
    <>
      <ColumnTicks
        label="Columns"
        columns={columns}
        chosen={step.columns}
        onChange={(next) => set({ columns: next })}
      />
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
  compute: (props) => <Compute {...props} />,
  "look-up": (props) => <LookUp {...props} />,
};

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
      <WholeNumber
        label="Decimals"
        value={step.decimals}
        min={0}
        max={MOST_DECIMALS}
        onChange={(decimals) => set({ decimals })}
      />
    </>
  );
}

function OneColumn({
  label,
  columns,
  chosen,
  onChange,
}: {
  label: string;
  columns: readonly string[];
  chosen: string;
  onChange: (column: string) => void;
}) {
  return <Choice label={label} value={chosen} names={columns.map((name) => [name, name])} onChange={onChange} />;
}

function Choice({
  label,
  value,
  names,
  onChange,
}: {
  label: string;
  value: string;
  names: readonly (readonly [value: string, name: string])[];
  onChange: (value: string) => void;
}) {
  return (
    <Field label={label}>
      <select className="field" value={value} onChange={(event) => onChange(event.target.value)}>
        {names.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </Field>
  );
}

function WholeNumber({
  label,
  value,
  min,
  max,
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  onChange: (value: number) => void;
}) {
  const read = (text: string) => Math.min(max, Math.max(min, Math.trunc(Number(text)) || min));
  return <TextField label={label} value={String(value)} onCommit={(text) => onChange(read(text))} />;
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

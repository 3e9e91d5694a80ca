import { STRUCTURE } from "#contract/operations/structure.ts";
import { useState } from "react";
import { Link } from "react-router";
import { monthName, monthOf } from "#core/calendar/month.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import type { EditableStructure } from "#contract/structure.ts";
import { Sheet } from "../ui/sheet.tsx";
import { Button, Field, TextField } from "../ui/form.tsx";
import { StructurePage } from "./structure-page.tsx";
import { DaysQuestion } from "./days-question.tsx";
import { RemovePart } from "./remove-part.tsx";
import type { ChangeSender } from "./use-change.ts";
import { numbers, PlainTable } from "../ui/table.tsx";

/** The fiscal calendar, the datasets that close its months, and the scenarios. */
export function CalendarPage() {
  return (
    <StructurePage title={() => "Calendar and datasets"}>
      {(structure, change) => (
        <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-3">
          <Calendar structure={structure} />
          <Datasets structure={structure} change={change} />
          <Scenarios structure={structure} change={change} />
          <NewDimension structure={structure} change={change} />
        </div>
      )}
    </StructurePage>
  );
}

function Calendar({ structure }: { structure: EditableStructure }) {
  const { startMonth } = structure.company;
  return (
    <Sheet title="Calendar">
      <p>
        The fiscal year opens in {monthName(monthOf(2000, startMonth))} and is named by the calendar year in which it
        ends (
        <Link className="text-accent underline" to="/company">
          changes with the company
        </Link>
        ).{" "}
        {structure.lastClosed ? (
          <>
            The last closed month is <strong>{structure.lastClosed.name}</strong>: the last one that every dataset that
            closes months has whole. New loads move it by themselves.
          </>
        ) : (
          "No month is closed yet: the first load with actuals closes one."
        )}
      </p>
    </Sheet>
  );
}

function Datasets({ structure, change }: { structure: EditableStructure; change: ChangeSender }) {
  return (
    <Sheet title="Datasets">
      <PlainTable
        heads={["Dataset", "Kept by", "Actuals of", "Scenarios", "Dimensions", "Closes months", numbers("Rows"), ""]}
      >
        {structure.datasets.map((d) => (
          <tr key={d.key} className="border-t border-thread/60 align-baseline">
            <th scope="row" className="py-1 pr-4 text-left font-semibold">
              {d.name}
            </th>
            <td className="pr-4">{d.grain}</td>
            <td className="pr-4">
              {d.months || "none"}
              {!d.isWhole && <span className="text-slate">, the last month in part</span>}
            </td>
            <td className="pr-4">{d.scenarios.join(", ") || "none yet"}</td>
            <td className="pr-4">
              <details>
                <summary className="cursor-pointer">
                  {d.dimensions.map((k) => structure.dimensions.find((x) => x.key === k)?.name ?? k).join(", ") ||
                    "none"}
                </summary>
                {structure.dimensions.map((x) => (
                  <label key={x.key} className="flex items-center gap-2 py-0.5">
                    <input
                      type="checkbox"
                      checked={d.dimensions.includes(x.key)}
                      disabled={change.isSending}
                      onChange={(e) =>
                        void change.send(STRUCTURE.changeDataset, {
                          params: { dataset: d.key },
                          body: {
                            dimensions: e.target.checked
                              ? [...d.dimensions, x.key]
                              : d.dimensions.filter((k) => k !== x.key),
                            was: { dimensions: d.dimensions },
                          },
                        })
                      }
                    />
                    {x.name}
                  </label>
                ))}
              </details>
            </td>
            <td className="pr-4">
              <input
                type="checkbox"
                className="size-4"
                aria-label={`${d.name} closes months`}
                checked={d.closes}
                disabled={change.isSending}
                onChange={(e) =>
                  void change.send(STRUCTURE.changeDataset, {
                    params: { dataset: d.key },
                    body: { closes: e.target.checked, was: { closes: d.closes } },
                  })
                }
              />
            </td>
            <td className="text-right">{formatNumber(d.rows, 0)}</td>
            <td className="pl-4 text-right">
              <RemovePart table="dataset" part={d} change={change} />
            </td>
          </tr>
        ))}
      </PlainTable>
      {structure.datasets
        .filter(({ days }) => days !== null)
        .map((dataset) => (
          <div key={dataset.key} className="mt-2 flex items-baseline gap-2">
            {dataset.days!.isClear && <span className="text-[13px] font-semibold">{dataset.name}</span>}
            <DaysQuestion dataset={dataset} change={change} />
          </div>
        ))}
      <p className="mt-2 text-slate">
        A new dataset comes with a file: drop it on Loads and choose “a new dataset” as where it goes.
      </p>
    </Sheet>
  );
}

function Scenarios({ structure, change }: { structure: EditableStructure; change: ChangeSender }) {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<"budget" | "forecast" | "target">("forecast");
  const [madeAfter, setMadeAfter] = useState("");
  const [times, setTimes] = useState(0);
  return (
    <Sheet title="Scenarios">
      <ul>
        {structure.scenarios.map((s) => (
          <li key={s.key} className="flex gap-3 border-t border-thread/60 py-1 text-[13px] first:border-0">
            <span className="w-40 font-semibold">{s.name}</span>
            <span className="text-slate">
              {s.kind}
              {s.madeAfter ? `, made after ${s.madeAfter}` : ""}
              {s.months ? ` · ${s.months}` : " · nothing loaded yet"}
            </span>
            {s.kind !== "actual" && !s.months && (
              <span className="ml-auto">
                <RemovePart table="scenario" part={s} change={change} />
              </span>
            )}
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex flex-wrap items-end gap-2 border-t border-thread pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          void change
            .send(STRUCTURE.addScenario, {
              body: { name, kind, madeAfter: kind === "forecast" && madeAfter !== "" ? madeAfter : null },
            })
            .then((isDone) => {
              if (!isDone) return;
              setName("");
              setTimes(times + 1);
            });
        }}
      >
        <TextField key={times} label="New scenario" value={name} onCommit={setName} />
        <Field label="A version of">
          <select className="field" value={kind} onChange={(e) => setKind(e.target.value as "budget")}>
            <option>budget</option>
            <option>forecast</option>
            <option>target</option>
          </select>
        </Field>
        {kind === "forecast" && (
          <Field label="Made after the close of">
            <input type="month" className="field" value={madeAfter} onChange={(e) => setMadeAfter(e.target.value)} />
          </Field>
        )}
        <Button type="submit" isDisabled={name === "" || change.isSending}>
          Add it
        </Button>
      </form>
    </Sheet>
  );
}

function NewDimension({ structure, change }: { structure: EditableStructure; change: ChangeSender }) {
  const [name, setName] = useState("");
  const [plural, setPlural] = useState("");
  const [times, setTimes] = useState(0);
  return (
    <Sheet title="Dimensions">
      <p className="text-slate">
        {structure.dimensions.length === 0
          ? "None yet (up to eight)."
          : `${structure.dimensions.length} of up to eight: ${structure.dimensions.map((d) => d.name).join(", ")}.`}
      </p>
      <form
        className="mt-2 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void change.send(STRUCTURE.addDimension, { body: { name, plural } }).then((isDone) => {
            if (!isDone) return;
            setName("");
            setPlural("");
            setTimes(times + 1);
          });
        }}
      >
        <TextField key={`n${times}`} label="New dimension" value={name} onCommit={setName} />
        <TextField key={`p${times}`} label="Plural" value={plural} onCommit={setPlural} />
        <Button type="submit" isDisabled={name === "" || plural === "" || change.isSending}>
          Add it
        </Button>
      </form>
    </Sheet>
  );
}

import type { AnswerOf } from "#contract/operations/operation.ts";
import { EXPORTS } from "#contract/operations/exports.ts";
import { useEffect, useState } from "react";
import { operationPath } from "#contract/operations/operation.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { Field } from "../ui/form.tsx";
import { TokenSection } from "./token-section.tsx";
import { useAnswer } from "../client/answer.ts";

/** A dataset as a file, filtered by scenario, months and one dimension's members. */
export function ExportPage() {
  const choices = useAnswer(EXPORTS.exportable);
  useEffect(() => {
    document.title = "Export · Hackle";
  }, []);
  return (
    <div className="px-6 pt-4 pb-8">
      <h1 className="font-serif text-[21px]">Export</h1>
      <p className="mt-1 mb-4 text-slate">
        Every fact with its account, members, reference, and the file and line it came from, inside what you may see.
      </p>
      <AnswerSheet label="Export" answer={choices} skeleton={<div className="waiting m-5 h-24" />}>
        {(data) => <ExportForm data={data} />}
      </AnswerSheet>
      <div className="mt-4">
        <TokenSection />
      </div>
    </div>
  );
}

function ExportForm({ data }: { data: AnswerOf<typeof EXPORTS.exportable> }) {
  const [dataset, setDataset] = useState(data.datasets[0]?.key ?? "");
  const [scenario, setScenario] = useState("");
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const [member, setMember] = useState("");
  const own = data.datasets.find((d) => d.key === dataset);
  const query = {
    scenario: scenario || undefined,
    from: from || undefined,
    to: to || undefined,
    scope: member || undefined,
  };
  const address = (format: string) =>
    operationPath(EXPORTS.exportDataset, { params: { dataset }, query: { format, ...query } });
  if (!own) return <p className="p-5 text-slate">There is no dataset yet. Load a file first.</p>;
  return (
    <form className="grid max-w-3xl gap-3 px-5 py-4" onSubmit={(event) => event.preventDefault()}>
      <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
        <Field label="Dataset">
          <select className="field" value={dataset} onChange={(e) => setDataset(e.target.value)}>
            {data.datasets.map((d) => (
              <option key={d.key} value={d.key}>
                {d.name}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Scenario">
          <select className="field" value={scenario} onChange={(e) => setScenario(e.target.value)}>
            <option value="">all scenarios</option>
            {data.scenarios.map((s) => (
              <option key={s.key} value={s.key}>
                {s.name}
              </option>
            ))}
          </select>
        </Field>
        <Field label="From month">
          <input type="month" className="field" value={from} onChange={(e) => setFrom(e.target.value)} />
        </Field>
        <Field label="To month">
          <input type="month" className="field" value={to} onChange={(e) => setTo(e.target.value)} />
        </Field>
        <Field label="Only">
          <select className="field" value={member} onChange={(e) => setMember(e.target.value)}>
            <option value="">everything</option>
            {data.dimensions.map((d) => (
              <optgroup key={d.key} label={d.name}>
                {d.members.map((m) => (
                  <option key={m.key} value={`${d.key}:${m.key}`}>
                    {m.name}
                  </option>
                ))}
              </optgroup>
            ))}
          </select>
        </Field>
      </div>
      <p className="flex gap-4">
        <a
          className="rounded bg-accent px-3 py-1 font-semibold text-panel hover:brightness-110"
          href={address("csv")}
          download
        >
          As CSV
        </a>
        <a
          className="rounded border border-accent px-3 py-1 font-semibold text-accent"
          href={address("parquet")}
          download
        >
          As Parquet
        </a>
      </p>
      <p className="text-[13px] text-slate">
        A stable address for other programs: <code className="break-all">{address("csv")}</code>
      </p>
    </form>
  );
}

import { LOADS } from "#contract/operations/loads.ts";
import { writeAmount } from "#core/checks/write-amount.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { numbers, PlainTable } from "../ui/table.tsx";
import { useAnswer } from "../client/answer.ts";

/** The lines in which two loads differ. */
export function DifferencePanel({ from, to }: { from: number; to: number }) {
  const difference = useAnswer(LOADS.loadDifference, { params: { load: from }, query: { to } });
  return (
    <div className="mt-3">
      <AnswerSheet label="Difference" answer={difference} skeleton={<div className="waiting m-4 h-16" />}>
        {(data) => (
          <div className="px-4 py-3">
            <h2 className="font-serif text-[16px]">
              {data.total === 0
                ? `${data.to.fileName} and ${data.from.fileName} hold the same amounts`
                : `${formatNumber(data.total, 0)} ${data.total === 1 ? "line differs" : "lines differ"} between ${data.from.fileName} and ${data.to.fileName}`}
            </h2>
            <p className="text-slate">{formatNumber(data.same, 0)} lines are the same in both.</p>
            <div className="mt-2 grid items-start gap-6 min-[1100px]:grid-cols-[minmax(0,2fr)_minmax(0,1fr)]">
              <PlainTable heads={["", "Line", "Account", "Period", "Members", "Reference", numbers("Amount")]}>
                {data.lines.map((line, i) => (
                  <tr key={i} className="border-t border-thread/60">
                    <td className={`pr-3 whitespace-nowrap ${line.side === "gone" ? "text-madder" : "text-verdigris"}`}>
                      {line.side === "gone" ? "− gone" : "+ new"}
                    </td>
                    <td className="pr-3 text-slate">{line.line}</td>
                    <td className="pr-3">{line.account}</td>
                    <td className="pr-3 whitespace-nowrap">{line.period}</td>
                    <td className="pr-3">{line.members}</td>
                    <td className="pr-3 whitespace-nowrap">{line.reference}</td>
                    <td className="text-right whitespace-nowrap">
                      {writeAmount(line.amount)} {line.unit}
                    </td>
                  </tr>
                ))}
              </PlainTable>
              <PlainTable heads={["By account", numbers("Δ")]}>
                {data.byAccount.map((row) => (
                  <tr key={row.account} className="border-t border-thread/60">
                    <th scope="row" className="text-left font-normal">
                      {row.account}
                    </th>
                    <td className="text-right">
                      {row.delta.startsWith("-") ? "" : "+"}
                      {writeAmount(row.delta)} {row.unit}
                    </td>
                  </tr>
                ))}
              </PlainTable>
            </div>
            {data.total > data.lines.length && (
              <p className="mt-2 text-slate">The first {formatNumber(data.lines.length, 0)} are listed.</p>
            )}
          </div>
        )}
      </AnswerSheet>
    </div>
  );
}

import type { Draft } from "#contract/intake.ts";
import { formatNumber } from "#core/formats/number-words.ts";

/** What each account gets, in its own direction. */
export function AccountTotals({ draft }: { draft: Draft }) {
  const totals = draft.report?.totals ?? [];
  return (
    <details className="mt-3 border-t border-thread pt-3">
      <summary className="cursor-pointer font-serif text-[16px]">Totals by account</summary>
      <table className="mt-1.5 w-full text-[13px]">
        <tbody>
          {totals.map((total) => (
            <tr key={total.name} className="border-t border-thread/60">
              <th scope="row" className="py-0.5 text-left font-normal">
                {total.name}
              </th>
              <td className="text-right">{formatAmountText(total.amount)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

function formatAmountText(text: string): string {
  return formatNumber(Number(text), text.includes(".") ? text.length - text.indexOf(".") - 1 : 0);
}

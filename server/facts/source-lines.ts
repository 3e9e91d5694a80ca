import { periodName } from "#core/calendar/fiscal-calendar.ts";
import { writeDay } from "#core/formats/day-words.ts";
import { inWriting } from "#core/formats/writing.ts";
import { toMajor } from "#core/figures/amount.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import type { FrameQuery } from "#core/frame/schema.ts";
import { inputLines, type FigureSide } from "#core/provenance/explain-figure.ts";
import type { SourceLinesAnswer } from "#contract/provenance.ts";
import { ask, writingFor, type Workspace } from "./workspace.ts";

/** The source lines behind one input of a figure, largest first; their sum is the input. */
export async function listSourceLines(
  workspace: Workspace,
  query: FrameQuery & { kpi: string; side: FigureSide; input: number; offset: number; limit: number },
  pageScope: Scope = {},
): Promise<SourceLinesAnswer> {
  const { accounts, calendar } = workspace.structure;
  const { decimals, unit, divisor, ...lines } = await ask(
    workspace,
    query,
    (question) => inputLines(question, query),
    pageScope,
  );
  const found = await workspace.source.lines({ ...lines, offset: query.offset, limit: query.limit });
  return {
    total: found.total,
    sum: toMajor(found.sum / divisor, decimals),
    decimals,
    unit,
    offset: query.offset,
    lines: found.lines.map((line) => {
      const account = accounts.accounts.get(line.account)!;
      return {
        load: line.load,
        postedOn: line.postedAt.toISOString().slice(0, 10),
        line: line.line,
        period:
          line.day === null
            ? periodName(calendar, line.month)
            : inWriting(writingFor(workspace.structure, workspace.reader), () =>
                writeDay({ month: line.month, day: line.day! }),
              ),
        account: account.name,
        members: [...line.members],
        reference: line.reference,
        amount: toMajor(line.amount, account.decimals),
        original: line.original,
      };
    }),
  };
}

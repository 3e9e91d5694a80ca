import { parseMonth, type Month } from "#core/calendar/month.ts";
import { parseScope } from "#core/dimensions/scope-text.ts";
import type { Structure } from "#server/db/structure.ts";
import type { FactQuery } from "#server/facts/fact-source.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** What of a dataset is asked for, as an address says it. Throws a `ProblemError` naming what there is not. */
export function exportQuery(
  dataset: string,
  query: {
    scenario?: string | undefined;
    from?: string | undefined;
    to?: string | undefined;
    scope?: string | undefined;
  },
  structure: Structure,
): FactQuery {
  if (!structure.coverage.datasets.has(dataset))
    throw new ProblemError(
      "not-found",
      `There is no dataset "${dataset}". There are ${[...structure.coverage.datasets.keys()].join(", ")}.`,
    );
  const month = (text: string | undefined): Month | null => {
    if (text === undefined) return null;
    const parsed = parseMonth(text);
    if (parsed === undefined)
      throw new ProblemError(
        "unknown-period",
        `"${text}" is not a month. Write it as year and month, such as 2026-10.`,
      );
    return parsed;
  };
  const scenarios = query.scenario === undefined ? [] : query.scenario.split(",");
  const unknown = scenarios.find((key) => !structure.coverage.scenarios.has(key));
  if (unknown !== undefined)
    throw new ProblemError(
      "unknown-basis",
      `There is no scenario "${unknown}". There are ${[...structure.coverage.scenarios.keys()].join(", ")}.`,
    );
  const scope = parseScope(query.scope ?? "");
  if (!scope)
    throw new ProblemError(
      "unknown-scope",
      `The scope "${query.scope}" cannot be read. It is written as dimension:member,member;dimension:member.`,
    );
  for (const [key, members] of Object.entries(scope)) {
    const own = structure.dimensions.find((d) => d.key === key);
    const strange = members.find((m) => !own?.members.some((known) => known.key === m));
    if (!own || strange !== undefined)
      throw new ProblemError(
        "unknown-scope",
        own ? `There is no ${own.name.toLowerCase()} "${strange}".` : `There is no dimension "${key}".`,
      );
  }
  return { dataset, scenarios, from: month(query.from), to: month(query.to), scope };
}

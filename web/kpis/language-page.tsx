import { KPIS } from "#contract/operations/kpis.ts";
import { useEffect } from "react";
import { Link } from "react-router";
import { FUNCTION_GROUPS } from "#core/formula/functions/function.ts";
import type { Language } from "#contract/kpis.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { useAnswer } from "../client/answer.ts";

/** The reference of the formula language, made from what its functions say of themselves. */
export function LanguagePage() {
  const language = useAnswer(KPIS.language);
  useEffect(() => {
    document.title = "The formula language · Hackle";
  }, []);
  return (
    <div className="max-w-5xl px-6 pt-4 pb-8">
      <p className="text-[13px]">
        <Link to="/kpis" className="text-accent hover:underline">
          KPIs
        </Link>
      </p>
      <h1 className="font-serif text-[21px]">The formula language</h1>
      <Rules />
      <div className="mt-4">
        <AnswerSheet label="Functions" answer={language} skeleton={<div className="waiting m-5 h-64" />}>
          {(data) => <Functions functions={data.functions} />}
        </AnswerSheet>
      </div>
    </div>
  );
}

function Rules() {
  return (
    <div className="mt-2 grid gap-x-8 gap-y-2 md:grid-cols-2">
      <p>
        A formula names accounts and KPIs and calculates with them: <Code>operating_result / total_revenue</Code>. All
        inputs are gathered over the page&apos;s span and scope first, and the formula is applied then: a rate over a
        year is the rate of the year&apos;s sums, never the mean of twelve rates.
      </p>
      <p>
        <Code>@</Code> reads another scenario: <Code>total_revenue@budget</Code>, <Code>{'fuel@"forecast-6-6"'}</Code>,{" "}
        <Code>@forecast</Code> for the latest one made by then. <Code>and or not</Code> and{" "}
        <Code>{"= <> < <= > >="}</Code> make conditions; <Code>5%</Code> is 0.05.
      </p>
      <p>
        What is absent stays absent, with its reason, through the whole formula: no data, no base, not covered, not
        closed yet, division by zero, no access. It never becomes 0 by itself; <Code>if_absent(…, 0)</Code> says it. A
        month in which nothing was posted, of a scenario that has the month, is 0.
      </p>
      <p>
        Money, counts, percent and ratios, days and amounts by something are kept apart: what cannot be added or
        compared is refused. A balance beside a flow must say how it is gathered: <Code>closing(cash)</Code> or{" "}
        <Code>average(cash)</Code>.
      </p>
    </div>
  );
}

function Functions({ functions }: { functions: Language["functions"] }) {
  return (
    <div className="px-5 py-3">
      {FUNCTION_GROUPS.map((group) => (
        <section key={group} aria-label={group} className="mb-3">
          <h2 className="font-serif text-[16px]">{group}</h2>
          <dl>
            {functions
              .filter((f) => f.group === group)
              .map((f) => (
                <div
                  key={f.name}
                  id={f.name}
                  className="grid gap-x-5 border-t border-thread/70 py-2 md:grid-cols-[19rem_1fr]"
                >
                  <dt className="font-mono text-[12.5px] [overflow-wrap:anywhere]">{f.usage}</dt>
                  <dd>
                    {f.gives} <span className="text-slate">{f.absence}</span>
                    <span className="mt-0.5 block text-[13px]">
                      <Code>{f.example}</Code>{" "}
                      <Link className="text-accent underline" to={`/kpis/new?formula=${encodeURIComponent(f.example)}`}>
                        Try it
                      </Link>
                    </span>
                  </dd>
                </div>
              ))}
          </dl>
        </section>
      ))}
    </div>
  );
}

function Code({ children }: { children: string }) {
  return <code className="rounded bg-panel px-1 text-[12.5px]">{children}</code>;
}

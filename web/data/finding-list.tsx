import type { Chart } from "#contract/chart.ts";
import type { Definition, Draft, WireFinding } from "#contract/intake.ts";
import { FindingMark } from "./finding-mark.tsx";
import { NameDecisions } from "./name-decisions.tsx";

type Rules = Definition["rules"];
type LineRule = Rules["rejectedRules"][number];

const REJECTABLE: ReadonlySet<string> = new Set<LineRule>([
  "unknown-account",
  "parent-account",
  "unknown-scenario",
  "unknown-member",
  "no-period",
  "unreadable-period",
  "no-amount",
  "unreadable-amount",
  "fraction",
  "too-large",
]);

/** What the checks found, each with the ways to answer it. */
export function FindingList({
  draft,
  chart,
  shown,
  onShow,
  apply,
}: {
  draft: Draft;
  chart: Chart;
  /** The rule whose lines the table shows. */
  shown: string | null;
  onShow: (rule: string | null) => void;
  apply: (change: (definition: Definition) => Definition) => void;
}) {
  const findings = draft.report?.findings ?? [];
  const setRules = (change: Partial<Rules>) => apply((d) => ({ ...d, rules: { ...d.rules, ...change } }));
  const setAnswers = (change: Partial<Definition["answers"]>) =>
    apply((d) => ({ ...d, answers: { ...d.answers, ...change } }));
  return (
    <ul className="mt-1">
      {findings.map((finding) => (
        <li key={finding.rule + finding.message} className="border-b border-thread/70 py-2 last:border-0">
          <div className="flex gap-2">
            <FindingMark finding={finding} />
            <div className="min-w-0 flex-1">
              <p className={`leading-snug ${finding.answer === null ? "" : "text-slate"}`}>{finding.message}</p>
              {finding.answer !== null && <p className="text-[12.5px] text-verdigris">{finding.answer}.</p>}
              <p className="flex flex-wrap gap-x-3">
                <Ways finding={finding} draft={draft} setRules={setRules} setAnswers={setAnswers} />
                {finding.lines.length > 0 && (
                  <Way
                    onClick={() => onShow(shown === finding.rule ? null : finding.rule)}
                    isPressed={shown === finding.rule}
                  >
                    {shown === finding.rule
                      ? "Hide the lines"
                      : finding.count === 1
                        ? "Show the line"
                        : "Show the lines"}
                  </Way>
                )}
              </p>
              {finding.names.length > 0 && (
                <NameDecisions finding={finding} draft={draft} chart={chart} setRules={setRules} />
              )}
            </div>
          </div>
        </li>
      ))}
    </ul>
  );
}

function Ways({
  finding,
  draft,
  setRules,
  setAnswers,
}: {
  finding: WireFinding;
  draft: Draft;
  setRules: (change: Partial<Rules>) => void;
  setAnswers: (change: Partial<Definition["answers"]>) => void;
}) {
  const { rules, answers } = draft.definition;
  const rule = finding.rule;
  if (rule === "already-posted") {
    return (
      <>
        {answers.posting !== "restate" && (
          <Way onClick={() => setAnswers({ posting: "restate" })}>Take their place</Way>
        )}
        {answers.posting !== "beside" && <Way onClick={() => setAnswers({ posting: "beside" })}>Post beside them</Way>}
        {answers.posting !== "new" && <Way onClick={() => setAnswers({ posting: "new" })}>Neither</Way>}
      </>
    );
  }
  if (rule === "control-total" && finding.severity === "stop") {
    return (
      <Way onClick={() => setAnswers({ acceptsDifference: !answers.acceptsDifference })}>
        {answers.acceptsDifference ? "Do not accept it" : "Accept the difference"}
      </Way>
    );
  }
  if (rule === "repeated-line" || rule === "posted-double") {
    const lines = finding.lines.map((l) => l.line);
    const some = finding.count > lines.length ? `the first ${lines.length}` : lines.length === 1 ? "it" : "them";
    return (
      <Way onClick={() => setRules({ rejectedLines: [...new Set([...rules.rejectedLines, ...lines])] })}>
        Leave {some} out
      </Way>
    );
  }
  if (rule === "rejected-line") return <Way onClick={() => setRules({ rejectedLines: [] })}>Take all back in</Way>;
  if (rule === "rounded")
    return <Way onClick={() => setRules({ mapping: { ...rules.mapping, fractions: "stop" } })}>Do not round</Way>;
  if (!REJECTABLE.has(rule)) return null;
  const isRejected = rules.rejectedRules.includes(rule as LineRule);
  return (
    <>
      {rule === "fraction" && !isRejected && (
        <Way onClick={() => setRules({ mapping: { ...rules.mapping, fractions: "round" } })}>Round them</Way>
      )}
      <Way
        onClick={() =>
          setRules({
            rejectedRules: isRejected
              ? rules.rejectedRules.filter((r) => r !== rule)
              : [...rules.rejectedRules, rule as LineRule],
          })
        }
      >
        {isRejected ? "Take back in" : finding.count === 1 ? "Leave the line out" : "Leave the lines out"}
      </Way>
    </>
  );
}

function Way({
  onClick,
  isPressed,
  children,
}: {
  onClick: () => void;
  isPressed?: boolean;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      onClick={onClick}
      aria-pressed={isPressed}
      className="min-h-6 text-[13px] text-indigo hover:underline"
    >
      {children}
    </button>
  );
}

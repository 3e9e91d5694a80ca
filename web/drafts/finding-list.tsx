import type { EditableStructure } from "#contract/structure.ts";
import type { Definition, Draft, WireFinding } from "#contract/intake.ts";
import { REJECTABLE_RULES } from "#core/mapping/line-rule.ts";
import { TextButton } from "../ui/form.tsx";
import { FindingMark } from "./finding-mark.tsx";
import { NameDecisions } from "./name-decisions.tsx";

type Rules = Definition["rules"];
type LineRule = Rules["rejectedRules"][number];

const POSTINGS = [
  { posting: "restate", name: "Replace them" },
  { posting: "beside", name: "Keep both" },
] as const;
const REJECTABLE: ReadonlySet<string> = new Set(REJECTABLE_RULES);

/** What the checks found, each with the ways to answer it. */
export function FindingList({
  draft,
  structure,
  shown,
  onShow,
  apply,
}: {
  draft: Draft;
  structure: EditableStructure;
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
        <li key={findingKey(finding)} className="border-b border-thread/70 py-2 last:border-0">
          <div className="flex gap-2">
            <FindingMark finding={finding} />
            <div className="min-w-0 flex-1">
              <p className={`leading-snug ${finding.answer === null ? "" : "text-slate"}`}>{finding.message}</p>
              {finding.answer !== null && <p className="text-[12.5px] text-verdigris">{finding.answer}.</p>}
              <p className="flex flex-wrap gap-x-3">
                <Ways finding={finding} draft={draft} setRules={setRules} setAnswers={setAnswers} />
                {finding.lines.length > 0 && (
                  <TextButton
                    onClick={() => onShow(shown === finding.rule ? null : finding.rule)}
                    isPressed={shown === finding.rule}
                  >
                    {shown === finding.rule
                      ? "Hide the lines"
                      : finding.count === 1
                        ? "Show the line"
                        : "Show the lines"}
                  </TextButton>
                )}
              </p>
              {finding.names.length > 0 && (
                <NameDecisions finding={finding} draft={draft} structure={structure} setRules={setRules} />
              )}
            </div>
          </div>
        </li>
      ))}
    </ul>
  );
}

/** The same for a finding whatever it counts, so that a choice that stands open outlives the next check. */
function findingKey({ rule, names, doubt }: WireFinding): string {
  const thing = names[0]?.thing ?? "";
  return `${rule} ${doubt ?? ""} ${typeof thing === "object" ? thing.dimension : thing}`;
}

const hasReference = ({ mapping }: Rules) => Object.values(mapping.columns).some(({ as }) => as === "reference");

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
        {POSTINGS.filter(({ posting }) => answers.posting !== posting)
          // What the figures speak for comes first.
          .sort((a, b) => Number(b.posting === finding.likely) - Number(a.posting === finding.likely))
          .map(({ posting, name }) => (
            <TextButton key={posting} onClick={() => setAnswers({ posting })}>
              {name}
              {posting === finding.likely && " (likely)"}
            </TextButton>
          ))}
        {answers.posting !== "new" && <TextButton onClick={() => setAnswers({ posting: "new" })}>Neither</TextButton>}
      </>
    );
  }
  if (rule === "doubt") {
    const { doubts = [] } = rules.mapping;
    const own = doubts.find(({ key }) => key === finding.doubt);
    return (own?.ways ?? [])
      .filter(({ name }) => name !== own?.settled)
      .map((way) => (
        <TextButton
          key={way.name}
          onClick={() =>
            setRules({
              ...(way.steps ? { steps: way.steps } : {}),
              mapping: {
                ...rules.mapping,
                ...(way.sign ? { sign: way.sign } : {}),
                doubts: doubts.map((doubt) => (doubt.key === finding.doubt ? { ...doubt, settled: way.name } : doubt)),
              },
            })
          }
        >
          {way.name}
        </TextButton>
      ));
  }
  if (rule === "control-total" && finding.severity === "stop") {
    return (
      <TextButton onClick={() => setAnswers({ acceptsDifference: !answers.acceptsDifference })}>
        {answers.acceptsDifference ? "Don't accept" : "Accept the difference"}
      </TextButton>
    );
  }
  if (rule === "repeated-line" && !hasReference(rules)) {
    return (
      <TextButton onClick={() => setRules({ steps: [...rules.steps, { kind: "drop-doubles" }] })}>
        Leave out duplicates
      </TextButton>
    );
  }
  if (rule === "repeated-line" || rule === "posted-double") {
    const lines = finding.lines.map((l) => l.line);
    const some = finding.count > lines.length ? `the first ${lines.length}` : lines.length === 1 ? "it" : "them";
    return (
      <TextButton onClick={() => setRules({ rejectedLines: [...new Set([...rules.rejectedLines, ...lines])] })}>
        Leave {some} out
      </TextButton>
    );
  }
  if (rule === "rejected-line")
    return <TextButton onClick={() => setRules({ rejectedLines: [] })}>Include all again</TextButton>;
  if (rule === "rounded")
    return (
      <TextButton onClick={() => setRules({ mapping: { ...rules.mapping, fractions: "stop" } })}>
        Do not round
      </TextButton>
    );
  if (rule === "running-balance")
    return (
      <TextButton onClick={() => setRules({ mapping: { ...rules.mapping, movements: "stop" } })}>
        Do not add them up
      </TextButton>
    );
  if (!REJECTABLE.has(rule)) return null;
  const isRejected = rules.rejectedRules.includes(rule as LineRule);
  return (
    <>
      {rule === "fraction" && !isRejected && (
        <TextButton onClick={() => setRules({ mapping: { ...rules.mapping, fractions: "round" } })}>
          Round them
        </TextButton>
      )}
      {rule === "movement-of-balance" && !isRejected && (
        <TextButton onClick={() => setRules({ mapping: { ...rules.mapping, movements: "accumulate" } })}>
          Add them up month by month
        </TextButton>
      )}
      <TextButton
        onClick={() =>
          setRules({
            rejectedRules: isRejected
              ? rules.rejectedRules.filter((r) => r !== rule)
              : [...rules.rejectedRules, rule as LineRule],
          })
        }
      >
        {isRejected ? "Include again" : finding.count === 1 ? "Leave out the line" : "Leave out the lines"}
      </TextButton>
    </>
  );
}

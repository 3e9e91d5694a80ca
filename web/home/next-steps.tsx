import { Link } from "react-router";
import type { Home } from "#contract/home.ts";
import { Sheet } from "./sheet.tsx";

type Beginning = NonNullable<Home["beginning"]>;

interface Step {
  readonly name: string;
  readonly about: string;
  readonly to: string;
  readonly isDone: boolean;
}

/** The first way through a company of one's own, in order, with the next step marked; gone once all of it is done. */
export function NextSteps({ beginning, mayManage }: { beginning: Beginning; mayManage: boolean }) {
  const steps = stepsOf(beginning, mayManage);
  const next = steps.find(({ isDone }) => !isDone);
  if (!next) return null;
  return (
    <Sheet title="Next">
      {steps.map((step) => (
        <li key={step.name} className="flex items-baseline gap-2.5" aria-current={step === next ? "step" : undefined}>
          <span aria-hidden="true" className={step.isDone ? "text-accent" : "text-slate"}>
            {step.isDone ? "✓" : step === next ? "→" : "·"}
          </span>
          <span>
            {step.isDone || step !== next ? (
              <span className={step.isDone ? "text-slate" : ""}>{step.name}</span>
            ) : (
              <Link to={step.to} className="font-semibold text-accent hover:underline">
                {step.name}
              </Link>
            )}
            {step.isDone && <span className="sr-only">, done</span>}
            {step === next && <span className="block text-slate">{step.about}</span>}
          </span>
        </li>
      ))}
    </Sheet>
  );
}

function stepsOf({ hasLoads, page, hasJudged, hasArranged, hasReaders }: Beginning, mayManage: boolean): Step[] {
  const place = page ? `/packs/${page.pack}/${page.page}` : "/packs";
  return [
    {
      name: "Bring a file",
      about:
        "A month of actuals, a budget, a list of sales: CSV or a workbook, as it is. Hackle says what it makes of it.",
      to: "/loads",
      isDone: hasLoads,
    },
    {
      name: "Look at what was made",
      about: page ? `${page.name} shows it.` : "Make a pack with a page from the KPIs.",
      to: place,
      isDone: hasLoads && page !== null && (hasJudged || hasArranged),
    },
    {
      name: "Name what good is",
      about: "Of each KPI: whether more or less is better, and what difference is small enough to leave be.",
      to: "/kpis",
      isDone: hasJudged,
    },
    {
      name: "Arrange the page",
      about: "Put what matters first, and a title that says it.",
      to: `${place}?arrange`,
      isDone: hasArranged,
    },
    ...(mayManage
      ? [
          {
            name: "Add the people who read it",
            about: "By name, address and role; each chooses a password at the first sign-in.",
            to: "/company",
            isDone: hasReaders,
          },
        ]
      : []),
  ];
}

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
      name: "Load your first file",
      about:
        "A month of actuals, a budget, a sales list: CSV or a workbook, as it is. Hackle shows how it understands it.",
      to: "/loads",
      isDone: hasLoads,
    },
    {
      name: "Review the first page",
      about: page ? `${page.name} shows it.` : "Make a pack with a page from the KPIs.",
      to: place,
      isDone: hasLoads && page !== null && (hasJudged || hasArranged),
    },
    {
      name: "Set direction and tolerance",
      about: "For each KPI: whether higher or lower is better, and how small a variance counts as on plan.",
      to: "/kpis",
      isDone: hasJudged,
    },
    {
      name: "Arrange the page",
      about: "Put what matters first, and give it a headline.",
      to: `${place}?arrange`,
      isDone: hasArranged,
    },
    ...(mayManage
      ? [
          {
            name: "Add people",
            about: "With name, e-mail and role; each chooses a password at first sign-in.",
            to: "/company",
            isDone: hasReaders,
          },
        ]
      : []),
  ];
}

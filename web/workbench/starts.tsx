import { HOME } from "#contract/operations/home.ts";
import type { ReactNode } from "react";
import type { Attempt } from "#core/workbench/attempt.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { OutsideSign } from "../chart-kit/outside-mark.tsx";
import { VarianceComb } from "../chart-kit/variance-comb.tsx";
import { TextButton } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { useAnswer } from "../client/answer.ts";

const MOST_SHOWN = 6;

/** Where to begin: with what the closed month is off plan by, what is out of the ordinary, and what the last load turned. */
export function Starts({ choices, onStart }: { choices: FrameChoices; onStart: (attempt: Attempt) => void }) {
  const home = useAnswer(HOME.home).data;
  const alerts = useAnswer(HOME.alerts).data;
  const dimension = choices.dimensions[0];
  const bridge = (kpi: string): Attempt => ({ kpis: [kpi], split: null, kind: "bridge" });
  const overTime = (kpi: string): Attempt => ({ kpis: [kpi], split: null, kind: "time-chart" });
  const offPlan = home?.offPlan?.kpis.slice(0, MOST_SHOWN) ?? [];
  const turned = [...new Map((alerts?.changes ?? []).map((change) => [change.kpi, change])).values()];
  const unusual = alerts?.unusual ?? [];
  if (home && alerts && offPlan.length + turned.length + unusual.length === 0)
    return (
      <Notice
        title="Choose a KPI to start"
        detail="Choose one above, or press Ctrl K and type what you want to see, such as: fuel by vessel as breakdown against prior year."
      />
    );
  return (
    <div className="mx-auto grid max-w-4xl gap-4">
      {offPlan.length > 0 && (
        <Group title="Largest variances" of={home!.offPlan!.frame}>
          {offPlan.map(({ kpi, words, variance }) => (
            <Row
              key={kpi.key}
              sign={<VarianceComb variance={variance} />}
              name={kpi.name}
              words={words.replace(/, unfavourable$/, "")}
            >
              <TextButton onClick={() => onStart(bridge(kpi.key))}>What drives it</TextButton>
              {dimension && (
                <TextButton
                  onClick={() =>
                    onStart({ kpis: [kpi.key], split: { dimension: dimension.key, level: null }, kind: "breakdown" })
                  }
                >
                  By {dimension.name.toLowerCase()}
                </TextButton>
              )}
              <TextButton onClick={() => onStart(overTime(kpi.key))}>Over time</TextButton>
            </Row>
          ))}
        </Group>
      )}
      {unusual.length > 0 && (
        <Group title="Unusual" of="In the last load">
          {unusual.slice(0, MOST_SHOWN).map(({ kpi, name, words }) => (
            <Row key={`${kpi} ${words}`} sign={<OutsideSign />} name={name} words={words}>
              <TextButton onClick={() => onStart({ kpis: [kpi], split: null, kind: "expected-range" })}>
                Against its expected range
              </TextButton>
            </Row>
          ))}
        </Group>
      )}
      {turned.length > 0 && (
        <Group title="Changed by the last load" of={alerts!.words}>
          {turned.slice(0, MOST_SHOWN).map(({ kpi, name, from, to }) => (
            <Row key={kpi} sign={null} name={name} words={`${from} → ${to}`}>
              <TextButton onClick={() => onStart(bridge(kpi))}>What drives it</TextButton>
              <TextButton onClick={() => onStart(overTime(kpi))}>Over time</TextButton>
            </Row>
          ))}
        </Group>
      )}
      <p className="text-[13px] text-slate">
        Or choose a KPI above, or press Ctrl K and write what you want to see, such as: fuel by vessel as breakdown
        against prior year.
      </p>
    </div>
  );
}

function Group({ title, of, children }: { title: string; of: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="rounded-md border border-thread bg-panel px-5 py-3">
      <h2 className="font-serif text-[17px]">{title}</h2>
      <p className="text-[13px] text-slate">{of}</p>
      <ul className="mt-2">{children}</ul>
    </section>
  );
}

function Row({ sign, name, words, children }: { sign: ReactNode; name: string; words: string; children: ReactNode }) {
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-thread/60 py-1.5">
      {sign}
      <span className="min-w-0 flex-1">
        <span className="font-semibold">{name}</span> <span className="text-[13px] text-slate">{words}</span>
      </span>
      <span className="flex flex-wrap gap-x-4 text-[13px]">{children}</span>
    </li>
  );
}

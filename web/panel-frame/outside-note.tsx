import { Popover } from "radix-ui";
import { outsideWords } from "#core/panels/parts/outside-words.ts";
import type { MoneyUnit } from "#core/formats/number-words.ts";
import { OutsideSign } from "../chart-kit/outside-mark.tsx";
import type { KpiRow } from "#core/panels/parts/schema.ts";

/** A sign beside a figure whose month lies outside of what was expected of it; opened, it says how far. */
export function OutsideNote({ row: { outside, kpi }, money }: { row: KpiRow; money: MoneyUnit }) {
  if (outside === null) return null;
  const words = outsideWords(outside, kpi, money);
  return (
    <Popover.Root>
      <Popover.Trigger
        className={`ml-0.5 -my-1 inline-flex min-h-[24px] min-w-[24px] items-center justify-center align-middle ${outside.reason === null ? "" : "opacity-50"}`}
        aria-label={`Unusual: ${words}`}
        title={words}
      >
        <OutsideSign />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={4}
          className="popover max-w-sm p-3 text-[13px]"
          aria-label="Unusual"
        >
          <p className="font-semibold">Unusual</p>
          <p className="mt-1">{words}</p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

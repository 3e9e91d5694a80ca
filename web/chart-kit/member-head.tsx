import type { RepeatOrder } from "#core/panels/parts/repetition.ts";
import { ChoiceWord } from "../ui/choice-word.tsx";
import { MemberPath } from "./member-path.tsx";
import { ORDER_CHOICES, orderKey, orderWords, parseOrder, TOP_CHOICES, topWords } from "./member-order.ts";

interface Named {
  readonly key: string;
  readonly name: string;
}

/** What is chosen of members that are shown one by one. */
export interface MemberChoice {
  readonly kpi?: string;
  readonly order?: RepeatOrder;
  readonly reversed?: "yes" | "no";
  readonly top?: number | "all";
  readonly below?: string | undefined;
}

/** What is shown of whom: each word a way to change it; the path leads back up. */
export function MemberHead({
  layers,
  shown,
  level,
  path,
  onChoose,
}: {
  layers: readonly Named[];
  /** The layer that is shown. */
  shown: string | undefined;
  level: string;
  path: readonly Named[];
  onChoose: (change: MemberChoice) => void;
}) {
  return (
    <>
      {layers.length > 1 && (
        <div role="group" aria-label="Layer" className="flex flex-wrap gap-x-3 gap-y-1">
          {layers.map(({ key, name }) => (
            <button
              key={key}
              type="button"
              aria-pressed={key === shown}
              onClick={() => onChoose({ kpi: key })}
              className={`min-h-[24px] ${key === shown ? "font-semibold text-ink shadow-[inset_0_-2px_0_var(--accent)]" : "text-slate hover:text-ink print:hidden"}`}
            >
              {name}
            </button>
          ))}
        </div>
      )}
      <div className="flex flex-wrap items-baseline gap-x-1">
        <span>by {level}</span>
        <MemberPath path={path} onOpen={(below) => onChoose({ below })} />
      </div>
    </>
  );
}

/** In which order members stand, and how many of them apart. */
export function MemberOrder({
  order,
  isReversed,
  top,
  onChoose,
}: {
  order: RepeatOrder;
  isReversed: boolean;
  top: number | null;
  onChoose: (change: MemberChoice) => void;
}) {
  return (
    <p className="text-[13px] text-slate">
      <ChoiceWord
        label="Order"
        words={orderWords(order, isReversed)}
        choices={ORDER_CHOICES}
        chosen={orderKey(order, isReversed)}
        onChoose={(key) => {
          const next = parseOrder(key);
          onChoose({ order: next.order, reversed: next.isReversed ? "yes" : "no" });
        }}
        className="meaning-word"
      />
      {", "}
      <ChoiceWord
        label="How many"
        words={topWords(top)}
        choices={TOP_CHOICES}
        chosen={top === null ? "all" : String(top)}
        onChoose={(key) => onChoose({ top: key === "all" ? "all" : Number(key) })}
        className="meaning-word"
      />
    </p>
  );
}

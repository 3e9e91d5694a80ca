import type { RepeatOrder } from "#core/panels/parts/repetition.ts";
import { Field } from "../../ui/form.tsx";
import { ORDER_CHOICES, orderKey, parseOrder, TOP_CHOICES } from "../../chart-kit/member-order.ts";

/** In which order members stand, and how many apart. */
export interface MemberArrangement {
  readonly order: RepeatOrder;
  readonly isReversed: boolean;
  readonly top: number | null;
}

/** Arranges members that are shown one by one. */
export function ArrangeMembers({
  arrangement: { order, isReversed, top },
  hasTop = true,
  onChange,
}: {
  arrangement: MemberArrangement;
  hasTop?: boolean;
  onChange: (change: Partial<MemberArrangement>) => void;
}) {
  return (
    <>
      <Field label="Order">
        <select
          className="field"
          value={orderKey(order, isReversed)}
          onChange={(e) => onChange(parseOrder(e.target.value))}
        >
          {ORDER_CHOICES.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </Field>
      {hasTop && (
        <Field label="Apart">
          <select
            className="field"
            value={top === null ? "all" : String(top)}
            onChange={(e) => onChange({ top: e.target.value === "all" ? null : Number(e.target.value) })}
          >
            {TOP_CHOICES.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </Field>
      )}
    </>
  );
}

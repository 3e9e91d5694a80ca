import { KPIS } from "#contract/operations/kpis.ts";
import { Field, Tick } from "../../ui/form.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import { LevelPick } from "../arrange/level-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { START_CHOICES } from "./starts.ts";
import { useAnswer } from "../../client/answer.ts";
import { BRIDGE_ORDERS, BRIDGE_STARTS, type BridgeBy } from "#core/panels/bridge/schema.ts";

const BY_NAMES: Readonly<Record<BridgeBy["kind"], string>> = {
  account: "account, by effect",
  member: "member",
  month: "month",
  effects: "volume, mix and price",
};
const ORDER_NAMES = { tree: "as the tree has them", effect: "the largest effect first" } as const;
const TOPS = [5, 8, 12, 20] as const;

/** A bridge: of which KPI, from where, by what steps, and how many of them stand apart. */
export default function ArrangeBridge({ panel, dimensions, onChange }: ArrangeProps<"bridge">) {
  const library = useAnswer(KPIS.kpis).data ?? [];
  const { by } = panel;
  const counted = library.filter(({ definition }) => definition.unit.kind === "count");
  const level = { dimension: dimensions[0]?.key ?? "", level: null };
  const asBy = (kind: BridgeBy["kind"]): BridgeBy => {
    const own = "dimension" in by ? { dimension: by.dimension, level: by.level } : level;
    switch (kind) {
      case "member":
        return { kind, ...own };
      case "effects":
        return { kind, quantity: counted[0]?.definition.key ?? panel.kpi, ...own };
      default:
        return { kind };
    }
  };
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
      <Field label="It leads">
        <select
          className="field"
          value={panel.from}
          onChange={(e) => onChange({ ...panel, from: BRIDGE_STARTS.find((from) => from === e.target.value)! })}
        >
          {START_CHOICES.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </Field>
      {panel.from !== "to-date" && (
        <>
          <Field label="Step by step">
            <select
              className="field"
              value={by.kind}
              onChange={(e) => onChange({ ...panel, by: asBy(e.target.value as BridgeBy["kind"]) })}
            >
              {Object.entries(BY_NAMES).map(([kind, name]) => (
                <option key={kind} value={kind}>
                  {name}
                </option>
              ))}
            </select>
          </Field>
          {"dimension" in by && (
            <LevelPick
              label="Break down by"
              dimensions={dimensions}
              chosen={by}
              onPick={(picked) => picked && onChange({ ...panel, by: { ...by, ...picked } })}
            />
          )}
          {by.kind === "effects" && (
            <KpiPick
              label="Quantity"
              chosen={by.quantity}
              isOffered={({ unit }) => unit.kind === "count"}
              onPick={(quantity) => onChange({ ...panel, by: { ...by, quantity } })}
            />
          )}
          <Field label="Arrange steps">
            <select
              className="field"
              value={panel.order}
              onChange={(e) => onChange({ ...panel, order: BRIDGE_ORDERS.find((o) => o === e.target.value)! })}
            >
              {BRIDGE_ORDERS.map((order) => (
                <option key={order} value={order}>
                  {ORDER_NAMES[order]}
                </option>
              ))}
            </select>
          </Field>
          <Field label="Show separately">
            <select
              className="field"
              value={panel.top ?? ""}
              onChange={(e) => onChange({ ...panel, top: e.target.value === "" ? null : Number(e.target.value) })}
            >
              <option value="">all of them</option>
              {[...new Set([...TOPS, ...(panel.top === null ? [] : [panel.top])])]
                .sort((a, b) => a - b)
                .map((top) => (
                  <option key={top} value={top}>
                    the largest {top}
                  </option>
                ))}
            </select>
          </Field>
          <Tick
            label="Show subtotals"
            isOn={panel.hasSubtotals}
            onChange={(hasSubtotals) => onChange({ ...panel, hasSubtotals })}
          />
        </>
      )}
    </div>
  );
}

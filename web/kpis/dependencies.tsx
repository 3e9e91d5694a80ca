import { Fragment } from "react";
import { Link } from "react-router";
import type { LibraryKpi } from "#contract/kpis.ts";

const [ROW, GAP, WIDTH] = [24, 46, 150];

interface Item {
  readonly key: string;
  readonly name: string;
  readonly to: string | null;
}

/** What a KPI is made of and where it is used, drawn: inputs lead to it, and it leads to what uses it. */
export function Dependencies({ kpi }: { kpi: LibraryKpi }) {
  const left = kpi.reads.map((r): Item => ({
    key: r.key,
    name: r.name,
    to: r.kind === "kpi" ? `/kpis/${r.key}` : null,
  }));
  const right: Item[] = [
    ...kpi.usedBy.map((u) => ({ key: u.key, name: u.name, to: `/kpis/${u.key}` })),
    ...kpi.pages.map((p) => ({ key: `${p.pack}/${p.page}`, name: `Page ${p.name}`, to: `/packs/${p.pack}/${p.page}` })),
  ];
  const rows = Math.max(left.length, right.length, 1);
  const height = rows * ROW;
  const at = (count: number, i: number) => height / 2 + (i - (count - 1) / 2) * ROW;
  const [x1, x2, x3] = [WIDTH, WIDTH + GAP, 2 * WIDTH + GAP];
  return (
    <section aria-label="Dependencies">
      <div className="relative overflow-x-auto" style={{ height: height + 8 }}>
        <svg aria-hidden="true" width={3 * WIDTH + 2 * GAP} height={height} className="absolute top-0 left-0">
          {left.map((item, i) => (
            <Thread key={item.key} from={[x1, at(left.length, i)]} to={[x2, height / 2]} />
          ))}
          {right.map((item, i) => (
            <Thread key={item.key} from={[x3, height / 2]} to={[x3 + GAP, at(right.length, i)]} />
          ))}
        </svg>
        {left.map((item, i) => (
          <Place key={item.key} item={item} x={0} y={at(left.length, i)} align="right" />
        ))}
        <Place item={{ key: "", name: kpi.definition.name, to: null }} x={x2} y={height / 2} align="center" isOwn />
        {right.length > 0 ? (
          right.map((item, i) => <Place key={item.key} item={item} x={x3 + GAP} y={at(right.length, i)} align="left" />)
        ) : (
          <Place item={{ key: "", name: "not used yet", to: null }} x={x3 + 8} y={height / 2} align="left" />
        )}
      </div>
    </section>
  );
}

function Thread({ from, to }: { from: readonly [number, number]; to: readonly [number, number] }) {
  const middle = (from[0] + to[0]) / 2;
  return (
    <path
      d={`M${from[0] + 4} ${from[1]}C${middle} ${from[1]} ${middle} ${to[1]} ${to[0] - 4} ${to[1]}`}
      fill="none"
      stroke="var(--walnut)"
      strokeOpacity=".6"
    />
  );
}

function Place({
  item,
  x,
  y,
  align,
  isOwn = false,
}: {
  item: Item;
  x: number;
  y: number;
  align: "left" | "center" | "right";
  isOwn?: boolean;
}) {
  const Content = item.to ? Link : Fragment;
  return (
    <span
      className={`absolute truncate text-[13px] leading-[22px] ${isOwn ? "rounded border border-accent bg-chosen px-1.5 font-semibold" : ""}`}
      style={{ left: x, top: y - 11, width: WIDTH, textAlign: align }}
      title={item.name}
    >
      <Content {...(item.to ? { to: item.to, className: "text-accent hover:underline" } : ({} as { to: string }))}>
        {item.name}
      </Content>
    </span>
  );
}

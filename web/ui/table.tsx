import type { ReactNode } from "react";

/** A column's name; numbers stand to the right. */
export type ColumnHead = string | { readonly name: string; readonly isNumber: true };

/** A plain table of texts and numbers: quiet head, hairlines between the rows. */
export function PlainTable({ heads, children }: { heads: readonly ColumnHead[]; children: ReactNode }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-[13px]">
        <thead>
          <tr className="text-slate">
            {heads.map((head, i) => {
              const name = typeof head === "string" ? head : head.name;
              // What stands over a column of buttons has nothing to say.
              if (name === "") return <td key={name} />;
              return (
                <th
                  key={name}
                  scope="col"
                  className={`pb-1 font-normal whitespace-nowrap ${typeof head === "string" ? `pr-4 text-left ${typeof heads[i - 1] === "object" ? "pl-2" : ""}` : "text-right"}`}
                >
                  {name}
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}

/** A column of numbers. */
export function numbers(name: string): ColumnHead {
  return { name, isNumber: true };
}

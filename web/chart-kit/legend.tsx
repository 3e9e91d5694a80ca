import type { ReactNode } from "react";

/** What the colours and lines of a chart are. */
export function Legend({
  entries,
}: {
  entries: readonly { readonly key: string; readonly sign: ReactNode; readonly name: ReactNode }[];
}) {
  return (
    <ul className="flex flex-wrap gap-x-3.5 gap-y-1 text-[12.5px]">
      {entries.map(({ key, sign, name }) => (
        <li key={key} className="flex items-center gap-1.5">
          {sign}
          {name}
        </li>
      ))}
    </ul>
  );
}

import { Link } from "react-router";
import type { Home } from "#contract/home.ts";
import { Sheet } from "./sheet.tsx";

type OpenMonth = NonNullable<Home["openMonth"]>;

/** What the open month has and what it still lacks, dataset by dataset, with the ways to bring it. */
export function OpenMonthList({ open, mayEdit }: { open: OpenMonth; mayEdit: boolean }) {
  const lacking = open.datasets.filter((dataset) => dataset.has !== "all");
  return (
    <Sheet title={lacking.length === 0 ? `${open.name} is complete` : `Missing for ${open.name}`}>
      {open.datasets.map(({ key, name, has, words, closes }) => (
        <li key={key} className="flex flex-wrap items-baseline justify-between gap-x-3">
          <span className={has === "all" ? "text-slate" : "font-semibold"}>{name}</span>
          <span className={has === "nothing" ? "text-madder" : has === "part" ? "text-ink" : "text-slate"}>
            {words}
            {closes && has !== "all" ? "; the month closes with it" : ""}
          </span>
        </li>
      ))}
      {mayEdit && lacking.length > 0 && (
        <li className="flex flex-wrap gap-x-4">
          <Link to="/loads" className="text-accent underline">
            Load a file
          </Link>
          <Link to="/feeds" className="text-accent underline">
            Pull it from a feed
          </Link>
        </li>
      )}
    </Sheet>
  );
}

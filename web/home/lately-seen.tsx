import { Link } from "react-router";
import type { Home } from "#contract/home.ts";
import { useVisited, type Visit } from "../shell/visited.ts";
import { dateTimeWords } from "../ui/date-time-words.ts";
import { Sheet } from "./sheet.tsx";

const MOST_SHOWN = 6;
const NOTHING: readonly Visit[] = [];

/** What the reader looked at lately in this browser, as they left it. */
export function LatelySeen({ who }: { who: string }) {
  const visits = useVisited(({ by }) => by[who] ?? NOTHING);
  if (visits.length === 0) return null;
  return (
    <Sheet title="Where you left off">
      {visits.slice(0, MOST_SHOWN).map(({ path, search, title }) => (
        <li key={path}>
          <Link to={path + search} className="text-accent hover:underline">
            {title}
          </Link>
        </li>
      ))}
    </Sheet>
  );
}

/** What others changed on the pages lately. */
export function PageNews({ news }: { news: Home["news"] }) {
  if (news.length === 0) return null;
  return (
    <Sheet title="Changed by others">
      {news.map(({ at, by, said, page }, i) => (
        <li key={i} className="text-[13px]">
          {page && (
            <Link to={`/packs/${page.pack}/${page.page}`} className="font-semibold text-accent hover:underline">
              {page.name}
            </Link>
          )}{" "}
          {said}
          <span className="text-slate">
            , {by}, {dateTimeWords(at)}
          </span>
        </li>
      ))}
    </Sheet>
  );
}

import { PACKS } from "#contract/operations/packs.ts";
import { ChevronRight, Library, Plus } from "lucide-react";
import { useState } from "react";
import { NavLink, useLocation, useMatch } from "react-router";
import type { PackList } from "#contract/pack.ts";
import { keepFrame } from "./addresses.ts";
import { useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";

/** How a way in the navigation looks; where one is, it is marked. */
export const navigationLink = ({ isActive }: { isActive: boolean }) =>
  `block rounded px-2 py-1 ${isActive ? "bg-panel font-semibold shadow-[inset_2px_0_0_var(--accent)]" : "text-slate hover:text-ink"}`;

type PackEntry = PackList[number];

/** The packs in use with their pages: the one that is read is open, others open on their name. */
export function PackNavigation() {
  const packs = useAnswer(PACKS.packs).data?.filter((pack) => !pack.isRetired) ?? [];
  const mayEdit = useMayEdit();
  const at = useMatch("/packs/:pack/*")?.params.pack;
  const [toggled, setToggled] = useState<ReadonlySet<string>>(new Set());
  const toggle = (key: string) => {
    const next = new Set(toggled);
    if (!next.delete(key)) next.add(key);
    setToggled(next);
  };
  // A single pack is always open; of several the one that is read.
  const isOpen = (key: string) => (key === at || packs.length === 1) !== toggled.has(key);
  return (
    <>
      {packs.map((pack) => (
        <section key={pack.key} aria-label={pack.name}>
          <h2 className="font-serif">
            <button
              type="button"
              aria-expanded={isOpen(pack.key)}
              onClick={() => toggle(pack.key)}
              className="flex w-full items-baseline gap-1 rounded px-2 pb-1 text-left hover:text-accent"
            >
              <span className="flex-1">{pack.name}</span>
              <ChevronRight
                size={12}
                aria-hidden="true"
                className={`shrink-0 self-center text-slate ${isOpen(pack.key) ? "rotate-90" : ""}`}
              />
            </button>
          </h2>
          {isOpen(pack.key) && <Pages pack={pack} />}
        </section>
      ))}
      {mayEdit && (
        <NavLink to="/packs" end className={navigationLink}>
          <span className="flex items-center gap-2">
            {packs.length === 0 ? <Plus size={14} aria-hidden="true" /> : <Library size={14} aria-hidden="true" />}
            {packs.length === 0 ? "Create a pack" : "Packs and pages"}
          </span>
        </NavLink>
      )}
    </>
  );
}

/** A pack's pages in their order, under the headings they stand under. */
function Pages({ pack }: { pack: PackEntry }) {
  const { search } = useLocation();
  return (
    <ul className="max-md:flex max-md:flex-wrap">
      {pack.pages.map((page, i) => (
        <li key={page.key}>
          {page.group !== undefined && page.group !== pack.pages[i - 1]?.group && (
            <h3 className="mt-1.5 px-2 text-[12px] text-slate max-md:hidden">{page.group}</h3>
          )}
          <NavLink
            to={`/packs/${pack.key}/${page.key}${keepFrame(search)}`}
            className={(state) => `${navigationLink(state)} ${page.group === undefined ? "" : "md:pl-4"}`}
          >
            {page.name}
          </NavLink>
        </li>
      ))}
      {pack.pages.length === 0 && <li className="px-2 text-[13px] text-slate">No pages yet</li>}
    </ul>
  );
}

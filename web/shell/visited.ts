import { useEffect } from "react";
import { useLocation } from "react-router";
import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { Person } from "#contract/session.ts";

/** Something that was looked at, as it was looked at. */
export interface Visit {
  readonly path: string;
  readonly search: string;
  readonly title: string;
}

interface Visited {
  /** By company and person, who may share a browser; the latest first. */
  readonly by: Readonly<Record<string, readonly Visit[]>>;
  readonly note: (who: string, visit: Visit) => void;
}

const MOST_VISITS = 12;
/** What somebody comes back to: pages, KPIs, and what was tried in the workbench. */
const COMES_BACK = /^\/(?:packs\/[^/]+\/[^/]+|kpis\/[^/]+|workbench)$/;
/** A view names itself once its answers are there. */
const NAMED_AFTER_MS = 1500;

/** What was looked at in this browser. */
export const useVisited = create<Visited>()(
  persist(
    (set) => ({
      by: {},
      note: (who, visit) => set(({ by }) => ({ by: { ...by, [who]: noted(by[who] ?? [], visit) } })),
    }),
    { name: "hackle-visited" },
  ),
);

/** The visits with one more: each place once, the latest first. */
export function noted(visits: readonly Visit[], visit: Visit): readonly Visit[] {
  return [visit, ...visits.filter(({ path }) => path !== visit.path)].slice(0, MOST_VISITS);
}

/** By whom visits are kept. */
export function visitorOf({ company, email }: Pick<Person, "email"> & { company: { name: string } }): string {
  return `${company.name}/${email}`;
}

/** Notes what is looked at, once it has stood for a moment. */
export function useNoteVisits(who: string | undefined): void {
  const { pathname, search } = useLocation();
  const note = useVisited((visited) => visited.note);
  useEffect(() => {
    if (who === undefined || !COMES_BACK.test(pathname)) return;
    const params = new URLSearchParams(search);
    if (pathname === "/workbench" && !params.has("kpi")) return;
    params.delete("arrange");
    const timer = setTimeout(() => {
      const title = document.title.replace(/ · Hackle$/, "");
      const query = params.toString();
      note(who, { path: pathname, search: query === "" ? "" : `?${query}`, title });
    }, NAMED_AFTER_MS);
    return () => clearTimeout(timer);
  }, [who, pathname, search, note]);
}

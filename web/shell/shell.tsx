import { SESSION } from "#contract/operations/session.ts";
import { useQueryClient } from "@tanstack/react-query";
import {
  Download,
  FileStack,
  FlaskConical,
  GitBranch,
  House,
  Keyboard,
  ListTree,
  LogOut,
  Menu,
  Moon,
  Rss,
  Search,
  Sigma,
  Sun,
  type LucideIcon,
} from "lucide-react";
import { useEffect, useState } from "react";
import { Link, NavLink, Outlet, ScrollRestoration, useLocation, useNavigate } from "react-router";
import { writeAs } from "#core/formats/writing.ts";
import { ApiProblem, call } from "../client/api.ts";
import { FirstPasswordPage } from "../companies/first-password-page.tsx";
import { Comb } from "./comb.tsx";
import { CommandPalette } from "./command-palette.tsx";
import { Shortcuts } from "./shortcuts.tsx";
import { navigationLink as link, PackNavigation } from "./pack-navigation.tsx";
import { useOverlays, useSettings, useTheme } from "./settings.ts";
import { useNoteVisits, visitorOf } from "./visited.ts";
import { IconButton } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { answerKey, useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";

/** Navigation around whatever is open; leads to sign-in and back when a session has ended. */
export function Shell() {
  const person = useAnswer(SESSION.session);
  const location = useLocation();
  const navigate = useNavigate();
  const client = useQueryClient();
  const mayEdit = useMayEdit();
  useEffect(() => {
    const toSignIn = (ended: boolean) => {
      const back = encodeURIComponent(window.location.pathname + window.location.search);
      void navigate(`/sign-in?return=${back}${ended ? "&ended" : ""}`, { replace: true });
    };
    return client.getQueryCache().subscribe(({ query }) => {
      const error: unknown = query.state.error;
      if (error instanceof ApiProblem && error.code === "not-signed-in" && window.location.pathname !== "/sign-in") {
        toSignIn(client.getQueryData(answerKey(SESSION.session)) !== undefined);
      }
    });
  }, [client, navigate]);
  useGlobalKeys();
  useNoteVisits(person.data && visitorOf(person.data));
  const palette = person.data?.palette;
  useEffect(() => {
    if (palette) document.documentElement.dataset["palette"] = palette;
  }, [palette]);

  // While a page is arranged, the rack takes the navigation's place.
  const isArranging = mayEdit && new URLSearchParams(location.search).has("arrange");
  const { error } = person;
  if (error instanceof ApiProblem && error.isPassing && !person.data) {
    return (
      <div className="p-16">
        <Notice tone="bad" title="Hackle cannot be reached" detail={error.message} />
      </div>
    );
  }
  if (!person.data) return null;
  // What is written from here on is written for this company and this reader.
  const { company, numbers, dates } = person.data;
  writeAs({ currency: company.currency, numbers: numbers ?? company.numbers, dates: dates ?? company.dates });
  if (person.data.mustChoosePassword) return <FirstPasswordPage name={person.data.name} />;
  return (
    <div
      className={`grid min-h-screen grid-cols-1 print:block ${isArranging ? "" : "md:grid-cols-[158px_minmax(0,1fr)]"}`}
    >
      <a href="#page" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2">
        Skip to the page
      </a>
      {!isArranging && <Navigation />}
      <main id="page" tabIndex={-1} className="min-w-0 outline-none" key={location.pathname}>
        <Outlet />
      </main>
      <CommandPalette />
      <Shortcuts />
      <ScrollRestoration getKey={({ pathname, key }) => `${pathname} ${key}`} />
    </div>
  );
}

function Navigation() {
  const person = useAnswer(SESSION.session);
  const client = useQueryClient();
  const navigate = useNavigate();
  const theme = useTheme();
  const setTheme = useSettings((s) => s.setTheme);
  const show = useOverlays((s) => s.show);
  const { pathname } = useLocation();
  const mayEdit = useMayEdit();
  // On a narrow window the pages are opened by the button, and closed once another address is chosen.
  const [openedAt, setOpenedAt] = useState<string | null>(null);
  const isOpen = openedAt === pathname;
  const signOut = async () => {
    await call(SESSION.signOut);
    client.clear();
    await navigate("/sign-in");
  };
  return (
    <nav
      aria-label="Main"
      className="flex flex-col gap-5 border-thread px-2.5 py-4 max-md:gap-2 max-md:border-b max-md:py-2 md:sticky md:top-0 md:h-screen md:overflow-y-auto md:border-r"
    >
      <p className="flex items-center gap-2 px-2 text-accent">
        <Comb />
        <span className="font-serif text-xl tracking-tight text-ink">Hackle</span>
        <span className="ml-auto md:hidden">
          <IconButton label="Pages" isOn={isOpen} onClick={() => setOpenedAt(isOpen ? null : pathname)}>
            <Menu size={16} />
          </IconButton>
        </span>
      </p>
      <div className={`contents ${isOpen ? "" : "max-md:hidden"}`}>
        <Item to="/home" icon={House} name="Home" />
        <PackNavigation />
        <section aria-label="Measures">
          <Item to="/workbench" icon={FlaskConical} name="Workbench" />
          <Item to="/kpis" icon={Sigma} name="KPIs" />
        </section>
        <section aria-label="Data">
          <h2 className="px-2 pb-1 font-serif max-md:hidden">Data</h2>
          <Item to="/loads" icon={FileStack} name="Loads" />
          <Item to="/versions" icon={GitBranch} name="Versions" />
          {mayEdit && (
            <>
              <Item to="/feeds" icon={Rss} name="Feeds" />
              <Item to="/structure/accounts" within="/structure" icon={ListTree} name="Structure" />
            </>
          )}
          <Item to="/export" icon={Download} name="Export" />
        </section>
        <div className="mt-auto max-md:mt-0 max-md:flex max-md:items-center">
          <div className="flex gap-1 px-1 md:mb-3">
            <IconButton label="Find anything (Ctrl K)" onClick={() => show("palette")}>
              <Search size={15} />
            </IconButton>
            <IconButton label="Keyboard shortcuts (?)" onClick={() => show("shortcuts")}>
              <Keyboard size={15} />
            </IconButton>
            <IconButton
              label={theme === "dark" ? "Light theme" : "Dark theme"}
              onClick={() => setTheme(theme === "dark" ? "light" : "dark")}
            >
              {theme === "dark" ? <Sun size={15} /> : <Moon size={15} />}
            </IconButton>
            <IconButton label="Sign out" onClick={() => void signOut()}>
              <LogOut size={15} />
            </IconButton>
          </div>
          <p className="border-thread px-2 md:border-t md:pt-3">
            <span className="block font-semibold">{person.data?.name}</span>
            <span className="block text-[13px] text-slate">{person.data?.title}</span>
            <Link
              to="/company"
              className="block text-[13px] text-accent hover:underline"
              title="The company and its people"
            >
              {person.data?.company.name}
            </Link>
          </p>
        </div>
      </div>
    </nav>
  );
}

/** A way to a part of the product; `within`: all addresses that belong to it. */
function Item({ to, within, icon: Icon, name }: { to: string; within?: string; icon: LucideIcon; name: string }) {
  const { pathname } = useLocation();
  return (
    <NavLink
      to={to}
      className={({ isActive }) => link({ isActive: within === undefined ? isActive : pathname.startsWith(within) })}
    >
      <span className="flex items-center gap-2">
        <Icon size={14} aria-hidden="true" />
        {name}
      </span>
    </NavLink>
  );
}

function useGlobalKeys(): void {
  const show = useOverlays((s) => s.show);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && event.target.matches("input, textarea, select, [contenteditable]");
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k") {
        event.preventDefault();
        show("palette");
      } else if (event.key === "?" && !typing) {
        show("shortcuts");
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [show]);
}

import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { useNavigate } from "react-router";
import { pickMember } from "#core/dimensions/pick-member.ts";
import { formatScope, parseScope } from "#core/dimensions/scope-text.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { readablePanels, type Page } from "#contract/pack.ts";
import { referencesOf, type PanelDefinition, type PanelKind } from "#core/panels/schemas.ts";
import { askPageAhead, useWholePage } from "../client/panel-answers.ts";
import { searchNow, useAskedSearch } from "../frame/address-changes.ts";
import { keepView, readLens, useFrameParams, type FrameParams } from "../frame/frame-params.ts";
import type {
  Leading,
  PageLink,
  PanelActions,
  PanelProps,
  PickedMember,
  PickManner,
} from "../panel-frame/panel-view.ts";
import { followerOf } from "./follower.ts";
import { existingPicks, follows, panelsInView, questionsOf, standingOf, type PanelInView } from "./page-view.ts";
import type { AskedPanel } from "../client/asked-panel.ts";

/** A page ready to be drawn. */
export interface PageView {
  readonly panels: readonly (PanelInView & { readonly props: PanelProps<PanelKind> })[];
  /** The panel that the page's message is drafted from; `null` where it has none. */
  readonly leading: AskedPanel | null;
}

/**
 * What a page shows and what can be done with it, by the address. `stored` is the page as the server has it, `arrange`
 * changes a panel; without it the page is only read.
 */
export function usePageView(
  pack: string,
  page: Page,
  {
    stored,
    choices,
    arrange,
  }: {
    stored: Page | undefined;
    /** What there is to pick; while it is not known, all that is picked is asked for. */
    choices: FrameChoices | undefined;
    arrange?: (next: PanelDefinition) => void;
  },
): PageView {
  const params = useFrameParams();
  const dimensions = choices?.dimensions;
  const { setPicked, setChoices, setView } = params;
  const follow = useFollow();
  const inView = panelsInView(
    pack,
    page,
    { ...params, picked: existingPicks(params.picked, dimensions) },
    { stored, dimensions },
  );
  useWholePage(questionsOf(inView));
  const client = useQueryClient();
  const askAhead = useCallback(
    (next: URLSearchParams) => {
      const lens = readLens(next);
      const asked = { ...lens, picked: existingPicks(lens.picked, dimensions) };
      void askPageAhead(client, questionsOf(panelsInView(pack, page, asked, { stored })));
    },
    [client, pack, page, stored, dimensions],
  );
  useAskedSearch(askAhead);
  // The same as long as the page is: what is drawn with them is not drawn anew for each change of the address.
  const actions = useMemo(() => {
    const pick = picking(page, setPicked);
    return new Map(
      readablePanels(page).map(({ key, definition }): [string, PanelActions<PanelKind>] => [
        key,
        {
          choose: (change) => setChoices(choicesOf(page, definition, change)),
          ask: (figure, at) => setView({ figure, at, settings: undefined }),
          pick: definition.isApart ? undefined : pick,
          follow,
          arrange,
        },
      ]),
    );
  }, [page, setPicked, setChoices, setView, follow, arrange]);
  const panels = inView.map((view, i) => ({
    ...view,
    props: {
      panel: view.asked.panel,
      asked: view.asked,
      part: view.part,
      choice: view.asked.choice,
      picked: view.picked,
      leads: leading(page, view, params),
      ordinal: ordinalOf(inView, i),
      standing: view.asked.panel.kind === "chooser" ? standingOf(view.asked.panel, inView) : null,
      actions: actions.get(view.key)!,
    },
  }));
  return { panels, leading: inView.find(({ asked }) => MESSAGES.has(asked.panel.kind))?.asked ?? null };
}

/** Kinds from whose figures a page's message is drafted. */
const MESSAGES: ReadonlySet<PanelKind> = new Set<PanelKind>(["scorecard", "tiles", "time-chart"]);

/** How many panels of the kind stand before it without a title of their own, and it. */
function ordinalOf(inView: readonly PanelInView[], at: number): number {
  const { kind } = inView[at]!.asked.panel;
  const alike = inView.slice(0, at).filter(({ asked: { panel } }) => panel.kind === kind && panel.title === undefined);
  return alike.length + 1;
}

/** Opens a page with the same frame and narrowing, and a further member where one is given. */
function useFollow(): (link: PageLink, member?: PickedMember) => void {
  const navigate = useNavigate();
  return useCallback(
    ({ pack, page }, member) => {
      const search = searchNow();
      const narrow = parseScope(search.get("narrow") ?? "") ?? {};
      const added = member && { narrow: formatScope({ ...narrow, [member.dimension]: [member.member] }) };
      void navigate(`/packs/${pack}/${page}${keepView(search, added)}`);
    },
    [navigate],
  );
}

/** What a click on a member does on a page. */
function picking(page: Page, setPicked: FrameParams["setPicked"]) {
  return ({ dimension, member }: PickedMember, { adds, otherWay }: PickManner) => {
    const usual = page.look.click ?? "narrow";
    const way = otherWay ? (usual === "narrow" ? "weigh" : "narrow") : usual;
    setPicked((now) => ({
      [way]: formatScope(pickMember(parseScope(now[way] ?? "") ?? {}, { dimension, member, adds })),
    }));
  };
}

/** What is chosen of a panel; what a chooser sets takes the place of what was chosen of each of its panels alone. */
function choicesOf(
  page: Page,
  panel: PanelDefinition,
  change: Record<string, string | undefined>,
): Record<string, Record<string, string | undefined>> {
  const changes: Record<string, Record<string, string | undefined>> = { [panel.key]: change };
  if (panel.kind === "chooser")
    for (const { key, definition } of page.panels)
      if (definition.kind !== "unreadable" && follows(definition, panel)) changes[key] = { [panel.sets]: undefined };
  return changes;
}

/** The panel that follows what is chosen on another one. */
function leading(page: Page, { key }: PanelInView, { choice, setChoice }: FrameParams): Leading | null {
  const follower = followerOf(page, key);
  if (!follower || follower.key === key) return null;
  const [own = ""] = referencesOf(follower.definition).kpis;
  return {
    kpi: choice(follower.key)["kpi"] ?? own,
    choose: (kpi) => setChoice(follower.key, { kpi }),
  };
}

import { FIGURES } from "#contract/operations/figures.ts";
import { keepPreviousData, useQueries, useQuery, type QueryClient, type UseQueryResult } from "@tanstack/react-query";
import { getOrCreate } from "#core/collections/keyed.ts";
import { answeredChoice, type DetailOf, type PanelAnswer, type PanelKind } from "#core/panels/schemas.ts";
import { askAtOnce, askPanel } from "./panel-requests.ts";
import { call } from "./api.ts";
import type { AskedPanel, PanelPlace } from "./asked-panel.ts";
const texts = new WeakMap<object, string>();

/** What is the same for long, written once: keys are compared with every look at the page. */
function textOf(part: object): string {
  return getOrCreate(texts, part, () => JSON.stringify(part));
}

const panelQuery = (asked: AskedPanel) => {
  const { place, panel, frame, pageScope } = asked;
  const choice = answeredChoice(panel.kind, asked.choice);
  const queryKey = ["panel", { ...place }, textOf(panel), textOf(pageScope), frame, choice] as const;
  return {
    queryKey,
    queryFn: ({ signal, client }: { signal: AbortSignal; client: QueryClient }) =>
      askPanel({
        ...asked,
        choice,
        signal,
        onWhole: (answer) => client.setQueryData(queryKey, answer),
        onLost: () => void client.invalidateQueries({ queryKey }),
      }),
  };
};

/** A panel's figures in a frame; while a new frame is asked, the former figures stay, marked as such. */
export function usePanel(asked: AskedPanel, enabled = true): UseQueryResult<PanelAnswer> {
  return useQuery({
    ...panelQuery(asked),
    enabled,
    placeholderData: (previous, query) =>
      isSamePlace(query?.queryKey[1], asked.place) && previous?.kind === asked.panel.kind ? previous : undefined,
  });
}

/** Asks for all of a page's panels in one breath, whatever code is still on its way to draw them. */
export function useWholePage(questions: readonly AskedPanel[]): void {
  // The panels themselves say what came; the page is not drawn anew for that.
  useQueries({ queries: questions.map((question) => ({ ...panelQuery(question), notifyOnChangeProps: [] })) });
}

/**
 * Asks for a page's panels before the page is drawn anew; what is at hand or on its way is not asked again. Resolves
 * once all are there or have failed.
 */
export async function askPageAhead(client: QueryClient, questions: readonly AskedPanel[]): Promise<void> {
  const asked = questions.map((question) => client.prefetchQuery(panelQuery(question)));
  askAtOnce();
  await Promise.all(asked);
}

function isSamePlace(other: unknown, { pack, page, panel }: PanelPlace): boolean {
  const of = other as PanelPlace | undefined;
  return of?.pack === pack && of.page === page && of.panel === panel;
}

/** A further question to a panel, such as a row by its members. */
export function usePanelDetail<K extends PanelKind>(
  { place, frame }: Pick<AskedPanel, "place" | "frame">,
  query: Readonly<Record<string, string | undefined>>,
): UseQueryResult<DetailOf<K>> {
  return useQuery({
    queryKey: ["panelDetail", { ...place }, frame, query],
    queryFn: ({ signal }) =>
      call(FIGURES.panelDetail, { params: { ...place }, query: { ...frame, ...query } }, { signal }),
    placeholderData: keepPreviousData,
  });
}

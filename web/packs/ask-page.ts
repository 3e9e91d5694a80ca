import { FIGURES } from "#contract/operations/figures.ts";
import { PACKS } from "#contract/operations/packs.ts";
import type { QueryClient } from "@tanstack/react-query";
import { frameOfPage } from "#contract/frame-address.ts";
import { readablePanels } from "#contract/pack.ts";
import { askPageAhead } from "../client/panel-answers.ts";
import { readLens } from "../frame/frame-params.ts";
import { viewOf } from "../panels/index.ts";
import { existingPicks, panelsInView, questionsOf } from "./page-view.ts";
import { answerQuery } from "../client/answer.ts";

/**
 * Asks for the figures of the page at an address, and fetches the code that draws them, before anything of the page is
 * drawn. Resolves once all of it is there, or it turned out that it cannot be: the page says why.
 */
export async function askPage(
  client: QueryClient,
  { pack: packKey, page: pageKey }: { readonly pack: string; readonly page: string },
  search: URLSearchParams,
): Promise<void> {
  const lens = readLens(search);
  const frame = frameOfPage({ pack: packKey, page: pageKey }, lens.frame);
  const [pack, choices] = await Promise.all([
    client.fetchQuery(answerQuery(PACKS.pack, { params: { pack: packKey } })),
    client.fetchQuery(answerQuery(FIGURES.frameChoices, { query: frame })),
  ]).catch(() => []);
  const page = pack?.pages.find((own) => own.key === pageKey);
  if (!pack || !page) return;
  const asked = { ...lens, picked: existingPicks(lens.picked, choices?.dimensions) };
  await Promise.all([
    askPageAhead(client, questionsOf(panelsInView(packKey, page, asked, { stored: page }))),
    ...readablePanels(page).map(({ definition }) => viewOf(definition.kind).Panel.load()),
  ]);
}

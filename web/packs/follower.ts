import { readablePanels, type Page } from "#contract/pack.ts";
import { viewOf } from "../panels/index.ts";

/** The panel that follows what is chosen on another one: the next behind it that can, else the first of the page. */
export function followerOf(
  page: Pick<Page, "panels">,
  key: string,
): ReturnType<typeof readablePanels>[number] | undefined {
  const panels = readablePanels(page);
  const at = panels.findIndex((panel) => panel.key === key);
  const isFollower = ({ definition }: (typeof panels)[number]) => viewOf(definition.kind).follows;
  return panels.slice(at + 1).find(isFollower) ?? panels.find(isFollower);
}

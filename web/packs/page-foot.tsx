import type { FrameChoices } from "#contract/frame-choices.ts";
import { readablePanels, type Page } from "#contract/pack.ts";
import { referencesOf } from "#core/panels/schemas.ts";

/** What stands at a page's foot: words of its own, or where its figures come from, how far they are closed, and who answers. */
export function PageFoot({ page, choices }: { page: Page; choices: FrameChoices | undefined }) {
  if (page.panels.length === 0 || !choices) return null;
  return (
    <p className="mt-3 border-t border-thread pt-1.5 text-[12.5px] text-slate">
      {page.look.footer ?? draftedFoot(page, choices)}
    </p>
  );
}

/** The foot as it is drafted. */
export function draftedFoot(page: Page, { foot, kpis }: FrameChoices): string {
  const shown = new Set(readablePanels(page).flatMap(({ definition }) => referencesOf(definition).kpis));
  const owners = [...new Set(kpis.flatMap(({ key, owner }) => (shown.has(key) && owner !== "" ? [owner] : [])))];
  return owners.length === 0 ? foot : `${foot} Answered by ${owners.join(", ")}.`;
}

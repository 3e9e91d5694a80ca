import { formatScope, parseScope } from "#core/dimensions/scope-text.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { isSame } from "#core/history/records-diff.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { readablePanels, type Page } from "#contract/pack.ts";
import { PANEL_SCHEMAS, referencesOf, type DefinitionOf, type PanelDefinition } from "#core/panels/schemas.ts";
import { maySplitBy, panelFrame, splitsBy } from "#core/panels/panel-frame.ts";
import type { FrameAddress } from "#contract/frame-address.ts";
import type { PageLens, Picked } from "../frame/frame-params.ts";
import type { AskedPanel, PanelChoice } from "../client/asked-panel.ts";
import { CHOOSER_PANEL_PARTS } from "#core/panels/chooser/schema.ts";

/** A panel as it is shown: what is asked of it, and the part that is weighed. */
export interface PanelInView {
  readonly key: string;
  readonly asked: AskedPanel;
  readonly part: AskedPanel | null;
  /** The members that are picked, as far as the panel shows them. */
  readonly picked: Scope;
}

/**
 * Every panel of a page as it is shown through a lens: choosers set parts of the panels they name, a panel's own
 * choice goes before a chooser's, and what it holds before the page's frame.
 */
export function panelsInView(
  pack: string,
  page: Page,
  { frame, picked, choice }: PageLens,
  { stored, dimensions }: { stored?: Page | undefined; dimensions?: FrameChoices["dimensions"] | undefined } = {},
): PanelInView[] {
  const panels = readablePanels(page);
  const choosers = panels.flatMap(({ definition }) => (definition.kind === "chooser" ? [definition] : []));
  const narrow = picked.narrow === undefined ? {} : { narrow: picked.narrow };
  const storedPanels = new Map(stored && readablePanels(stored).map((panel) => [panel.key, panel.definition]));
  const isAsStored = (definition: PanelDefinition, key: string) =>
    isSame(stored?.scope, page.scope) && isSame(storedPanels.get(key), definition);
  return panels.map(({ key, definition }) => {
    const set = chosenFor(definition, choosers, choice);
    const own = { ...set.choice, ...withoutEmpty(choice(key)) };
    const pageFrame: FrameAddress = { ...frame, ...set.frame, ...narrow };
    const base = {
      place: { pack, page: page.key, panel: key },
      panel: definition,
      choice: own,
      pageScope: page.scope,
      storedAmong: isAsStored(definition, key) ? storedPanels.size : null,
    };
    const askedIn = (framed: FrameAddress): AskedPanel => ({
      ...base,
      pageFrame: framed,
      frame: panelFrame(definition, framed, own),
    });
    return {
      key,
      asked: askedIn(pageFrame),
      part: partOf(definition, picked, own, (weighed) => askedIn({ ...pageFrame, narrow: weighed })),
      picked: definition.isApart ? {} : shownPicks(definition, own, withBelow(pickedScope(picked), dimensions)),
    };
  });
}

/** What is asked for such panels. */
export function questionsOf(panels: readonly PanelInView[]): AskedPanel[] {
  return panels.flatMap(({ asked, part }) => (part ? [asked, part] : [asked]));
}

/** What is picked of the dimensions whose members a panel shows. */
function shownPicks(definition: PanelDefinition, choice: PanelChoice, all: Scope): Scope {
  const shown = maySplitBy(definition, choice);
  return shown === null ? all : Object.fromEntries(Object.entries(all).filter(([key]) => shown.includes(key)));
}

/** Members with all that lie below them: a panel may show those one by one. */
export function withBelow(scope: Scope, dimensions: FrameChoices["dimensions"] | undefined): Scope {
  return Object.fromEntries(
    Object.entries(scope).map(([dimension, keys]) => {
      const members = dimensions?.find(({ key }) => key === dimension)?.members ?? [];
      const found = new Set(keys);
      // Parents may come after their children.
      for (let before = -1; before < found.size;) {
        before = found.size;
        for (const { key, parent } of members) if (parent !== null && found.has(parent)) found.add(key);
      }
      return [dimension, [...found]] as const;
    }),
  );
}

/** What is picked without what is no more: a link outlives the members it names. All of it while they are not known. */
export function existingPicks(picked: Picked, dimensions: FrameChoices["dimensions"] | undefined): Picked {
  if (!dimensions) return picked;
  const members = new Map(dimensions.map(({ key, members: own }) => [key, new Set(own.map((member) => member.key))]));
  const existing = (text: string | undefined) => {
    const scope = text === undefined ? undefined : parseScope(text);
    if (!scope) return text;
    const kept = Object.entries(scope).flatMap(([dimension, keys]) => {
      const there = keys.filter((key) => members.get(dimension)?.has(key));
      return there.length === 0 ? [] : [[dimension, there] as const];
    });
    return kept.length === 0 ? undefined : formatScope(Object.fromEntries(kept));
  };
  return { narrow: existing(picked.narrow), weigh: existing(picked.weigh) };
}

/** Everything that is picked, whichever way the page follows it. */
export function pickedScope({ narrow, weigh }: Picked): Scope {
  const [narrowed, weighed] = [parseScope(narrow ?? "") ?? {}, parseScope(weigh ?? "") ?? {}];
  const both: Record<string, readonly string[]> = { ...narrowed };
  for (const [dimension, members] of Object.entries(weighed))
    both[dimension] = [...new Set([...(both[dimension] ?? []), ...members])];
  return both;
}

/** The question for the weighed members alone; `null` where they do not reach the panel, or it shows them one by one. */
function partOf(
  definition: PanelDefinition,
  { narrow, weigh }: Picked,
  choice: PanelChoice,
  askedIn: (narrow: string) => AskedPanel,
): AskedPanel | null {
  const weighed = weigh === undefined ? undefined : parseScope(weigh);
  if (!weighed || definition.isApart) return null;
  const shown = splitsBy(definition, choice);
  const reaching = Object.fromEntries(Object.entries(weighed).filter(([dimension]) => !shown.includes(dimension)));
  if (Object.keys(reaching).length === 0) return null;
  return askedIn(formatScope({ ...parseScope(narrow ?? ""), ...reaching }));
}

/** What choosers set of a panel. */
function chosenFor(
  definition: PanelDefinition,
  choosers: readonly DefinitionOf<"chooser">[],
  choice: (panel: string) => PanelChoice,
): { frame: FrameAddress; choice: PanelChoice } {
  const frame: Record<string, string> = {};
  const parts: Record<string, string> = {};
  for (const chooser of choosers) {
    const { chosen } = choice(chooser.key);
    if (chosen === undefined || !follows(definition, chooser)) continue;
    if (isPanelPart(chooser.sets)) parts[chooser.sets] = chosen;
    else frame[chooser.sets] = chosen;
  }
  return { frame, choice: parts };
}

/** Whether a panel follows a chooser: it is named, or all are meant, and it has the part that is chosen. */
export function follows(panel: PanelDefinition, { key, sets, panels }: DefinitionOf<"chooser">): boolean {
  if (panel.key === key || panel.kind === "chooser" || (panels !== null && !panels.includes(panel.key))) return false;
  return !isPanelPart(sets) || Object.hasOwn(PANEL_SCHEMAS[panel.kind].choice.shape, sets);
}

/** What all panels of a chooser show as they are arranged; `null` where they differ, or the page's frame decides. */
export function standingOf(chooser: DefinitionOf<"chooser">, inView: readonly PanelInView[]): string | null {
  const { sets, options } = chooser;
  const shown = inView
    .filter(({ asked: { panel } }) => follows(panel, chooser))
    .map(({ asked: { panel } }) => {
      const own = panel as Readonly<Record<string, unknown>>;
      if (sets === "kpi") return referencesOf(panel).kpis[0];
      return isPanelPart(sets) ? own[sets] : (panel.holds as Record<string, string> | undefined)?.[sets];
    });
  const [first] = shown;
  return typeof first === "string" && shown.every((one) => one === first) && options.includes(first) ? first : null;
}

function isPanelPart(part: string): boolean {
  return (CHOOSER_PANEL_PARTS as readonly string[]).includes(part);
}

function withoutEmpty(choice: PanelChoice): PanelChoice {
  return Object.fromEntries(Object.entries(choice).filter(([, value]) => value !== undefined));
}

import { isSame, type Records, type RecordsDiff } from "#core/history/records-diff.ts";
import { countOf } from "#core/formats/count-words.ts";
import {
  panelOf,
  parseRecordName,
  type PackRecord,
  type PackRecordName,
  type PageRecord,
  type PanelRecord,
} from "#contract/pack-records.ts";
import { namedAtAllTimes } from "#contract/pack.ts";
import { panelName } from "./panel-name.ts";

/** What an edit did, in the words of the history. They are made from what was changed, not from what somebody claims. */
export function editWords(now: Records, { added, changed, removed }: RecordsDiff): string {
  const of = (part: Records, kind: PackRecordName["kind"]) =>
    Object.entries(part).flatMap(([name, record]) => {
      const read = parseRecordName(name);
      return read?.kind === kind ? [{ name: read, record }] : [];
    });
  const from = Object.fromEntries(Object.entries(changed).map(([name, change]) => [name, change.from]));
  const [pack] = of(added, "pack");
  if (pack) return `Created the pack ${namedAtAllTimes((pack.record as PackRecord).name)}`;
  const pagesIn = of(added, "page");
  if (pagesIn.length > 0)
    return `Added ${named(
      pagesIn.map(({ record }) => (record as PageRecord).name),
      "page",
    )}`;
  const pagesOut = of(removed, "page");
  if (pagesOut.length > 0)
    return `Removed ${named(
      pagesOut.map(({ record }) => (record as PageRecord).name),
      "page",
    )}`;
  const onto = pageName(now, [...Object.keys(added), ...Object.keys(removed), ...Object.keys(changed)]);
  const panelsIn = of(added, "panel");
  const panelsOut = of(removed, "panel");
  if (panelsIn.length > 0 && panelsOut.length === 0) return `Added ${panels(panelsIn)} to ${onto}`;
  if (panelsOut.length > 0 && panelsIn.length === 0) return `Removed ${panels(panelsOut)} from ${onto}`;
  if (panelsIn.length > 0) return `Replaced ${panels(panelsOut)} on ${onto}`;
  const arranged = of(from, "panel").filter(({ name, record }) => {
    const key = `panel/${name.pack}/${(name as { page: string }).page}/${(name as { panel: string }).panel}`;
    return !isSame((record as PanelRecord).definition, (changed[key]!.to as PanelRecord).definition);
  });
  if (arranged.length > 0)
    return `Arranged ${panels(arranged.map(({ name }) => ({ name, record: changed[keyOf(name)]!.to })))}`;
  const pages = of(from, "page");
  if (pages.length === 0 && of(from, "panel").length > 0) return `Moved ${panels(of(from, "panel"))}`;
  if (pages.length > 0) return pageWords(pages, changed);
  const [ownPack] = of(from, "pack");
  return ownPack ? packWords(changed[keyOf(ownPack.name)]!) : "Changed nothing";
}

interface Named {
  readonly name: PackRecordName;
  readonly record: unknown;
}

function keyOf(name: PackRecordName): string {
  return Object.values(name).join("/");
}

function pageWords(pages: readonly Named[], changed: RecordsDiff["changed"]): string {
  const changes = pages.map(({ name }) => changed[keyOf(name)] as { from: PageRecord; to: PageRecord });
  const [{ from, to }] = changes as [(typeof changes)[number]];
  if (changes.every((c) => c.from.position !== c.to.position)) return "Reordered the pages";
  if (from.name !== to.name) return `Renamed ${from.name} to ${to.name}`;
  if (from.group !== to.group)
    return to.group === undefined ? `Took ${to.name} out of ${from.group}` : `Put ${to.name} under ${to.group}`;
  if (!isSame(from.scope, to.scope)) return `Changed the scope of ${to.name}`;
  return `Changed how ${named(
    changes.map((c) => c.to.name),
    "page",
  )} looks`;
}

function packWords({ from, to }: { readonly from: unknown; readonly to: unknown }): string {
  const [before, after] = [from as PackRecord, to as PackRecord];
  const name = namedAtAllTimes(after.name);
  if (before.name !== after.name) return `Renamed the pack to ${name}`;
  if (Boolean(before.isRetired) !== Boolean(after.isRetired))
    return after.isRetired ? `Retired ${name}` : `Restored ${name}`;
  return before.position !== after.position ? "Reordered the packs" : `Changed the default frame of ${name}`;
}

function panels(all: readonly Named[]): string {
  const [first] = all;
  if (all.length !== 1 || !first) return countOf(all.length, "panel");
  const { panel } = first.name as { panel: string };
  return panelName(panelOf(panel, first.record as PanelRecord));
}

function named(names: readonly string[], what: string): string {
  return names.length === 1 ? names[0]! : countOf(names.length, what);
}

/** The page that an edit is of, by its name. */
function pageName(now: Records, names: readonly string[]): string {
  const read = names.map(parseRecordName).find((name) => name && name.kind !== "pack") as
    | { pack: string; page: string }
    | undefined;
  const page = read && (now[`page/${read.pack}/${read.page}`] as PageRecord | undefined);
  return page?.name ?? "its page";
}

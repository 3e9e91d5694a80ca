import type { FrameChoices } from "#contract/frame-choices.ts";
import { isReadable, type Page } from "#contract/pack.ts";
import { referencesOf, type PanelKind } from "#contract/panels/index.ts";
import { PANEL_KINDS } from "#core/panels/index.ts";
import { viewOf } from "../panels/index.ts";
import { TextButton } from "../ui/form.tsx";
import type { PackChanges } from "./use-pack-changes.ts";

/** As many KPIs as fill a panel without being too many to read. */
const FIRST_KPIS = 10;

/** Puts a new panel of any kind on a page, with the page's own KPIs to begin with. */
export function AddPanels({
  page,
  library,
  changes,
  isArranging,
  onAdded,
}: {
  page: Page;
  library: FrameChoices["kpis"];
  changes: PackChanges;
  /** Whether a panel is being arranged: its drawer has the undo then, and says what went wrong. */
  isArranging: boolean;
  onAdded: (key: string) => void;
}) {
  const kpis = kpisFor(page, library);
  if (kpis.length === 0) return null;
  const add = async (kind: PanelKind) => {
    const key = freeKey(page, kind);
    if (await changes.add(viewOf(kind).create(key, kpis))) onAdded(key);
  };
  return (
    <p className="mt-2 flex flex-wrap gap-x-4 print:hidden">
      {PANEL_KINDS.map((kind) => (
        <TextButton key={kind} onClick={() => void add(kind)}>
          {`Add ${viewOf(kind).name}`}
        </TextButton>
      ))}
      {changes.undo && !isArranging && <TextButton onClick={changes.undo}>Undo the last change</TextButton>}
      {changes.problem && !isArranging && (
        <span role="alert" className="text-madder">
          {changes.problem}
        </span>
      )}
    </p>
  );
}

/** The KPIs that the page shows already; of an empty page the first of the library. */
function kpisFor(page: Page, library: FrameChoices["kpis"]): string[] {
  const shown = new Set(page.panels.filter(isReadable).flatMap((panel) => referencesOf(panel).kpis));
  return shown.size > 0 ? [...shown] : library.slice(0, FIRST_KPIS).map(({ key }) => key);
}

function freeKey(page: Page, kind: string): string {
  const taken = new Set(page.panels.map((panel) => panel.key));
  for (let n = 1; ; n += 1) {
    const key = n === 1 ? kind : `${kind}-${n}`;
    if (!taken.has(key)) return key;
  }
}

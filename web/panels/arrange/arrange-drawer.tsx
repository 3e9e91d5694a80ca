import { Redo2, Undo2 } from "lucide-react";
import type { PanelDefinition } from "#contract/pack.ts";
import type { StructureAnswer } from "#contract/structure.ts";
import { usePack } from "../../app/questions.ts";
import { Drawer } from "../../ui/drawer.tsx";
import { Button, IconButton } from "../../ui/form.tsx";
import type { PanelPlace } from "../panel-place.ts";
import { ArrangeScorecard } from "./arrange-scorecard.tsx";
import { ArrangeTimeChart } from "./arrange-time-chart.tsx";
import { ArrangeWords } from "./arrange-words.tsx";
import { ArrangeTiles } from "./arrange-tiles.tsx";
import { useArranging } from "./use-arranging.ts";

const TITLES: Readonly<Record<PanelDefinition["kind"], string>> = {
  scorecard: "Arrange the scorecard",
  tiles: "Arrange the tiles",
  "time-chart": "Arrange the chart",
};

/** A panel arranged. Saved as it is made, with undo. */
export function ArrangeDrawer({
  place,
  dimensions,
  onRemove,
  onClose,
}: {
  place: PanelPlace;
  dimensions: StructureAnswer["dimensions"];
  /** Takes the panel off the page. */
  onRemove: () => void;
  onClose: () => void;
}) {
  const pack = usePack(place.pack);
  const panel = pack.data?.pages.find((p) => p.key === place.page)?.panels.find((p) => p.key === place.panel);
  const { save, undo, redo, canUndo, canRedo, problem } = useArranging(place, panel ?? null);
  const title = panel ? TITLES[panel.kind] : "Arrange";
  return (
    <Drawer label={title} subject={place.panel} onClose={onClose}>
      <div className="flex items-center gap-2">
        <h2 className="font-serif text-[19px]">{title}</h2>
        <IconButton label="Undo" isDisabled={!canUndo} onClick={undo}>
          <Undo2 size={15} />
        </IconButton>
        <IconButton label="Redo" isDisabled={!canRedo} onClick={redo}>
          <Redo2 size={15} />
        </IconButton>
      </div>
      <p className="text-[13px] text-slate">Every change is saved as it is made, for all who read this page.</p>
      {problem && (
        <p role="alert" className="mt-1 text-madder">
          {problem}
        </p>
      )}
      {panel && <ArrangeWords panel={panel} onChange={save} />}
      {panel?.kind === "time-chart" && <ArrangeTimeChart panel={panel} onChange={save} />}
      {panel?.kind === "scorecard" && <ArrangeScorecard {...{ panel, dimensions }} onChange={save} />}
      {panel?.kind === "tiles" && <ArrangeTiles {...{ panel, dimensions }} onChange={save} />}
      <p className="mt-5 border-t border-thread pt-3">
        <Button onClick={onRemove}>Take it off this page</Button>
      </p>
    </Drawer>
  );
}

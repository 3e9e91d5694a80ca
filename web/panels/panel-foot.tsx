import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import type { FrameAddress, PanelChoice } from "../app/questions.ts";
import { TextButton } from "../ui/form.tsx";
import { PanelNumbers } from "./panel-numbers.tsx";
import type { PanelPlace } from "./panel-place.ts";

/** What stands below every panel: its numbers to take along, and the way to arrange it. */
export function PanelFoot({
  table,
  place,
  frame,
  choice,
  onArrange,
}: {
  table: () => PanelTable;
  place: PanelPlace;
  frame: FrameAddress;
  choice?: PanelChoice;
  onArrange: (() => void) | undefined;
}) {
  return (
    <p className="flex flex-wrap justify-between gap-x-4 border-t border-thread/70 px-4 py-1 print:hidden">
      <PanelNumbers table={table} place={place} frame={frame} {...(choice ? { choice } : {})} />
      {onArrange && <TextButton onClick={onArrange}>Arrange</TextButton>}
    </p>
  );
}

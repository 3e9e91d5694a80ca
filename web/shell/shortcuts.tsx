import { Dialog } from "radix-ui";
import { useOverlays } from "./settings.ts";

const SHORTCUTS: readonly (readonly [string, string])[] = [
  ["Ctrl K", "Find pages, KPIs, spans, bases and actions"],
  ["?", "This list"],
  ["↑ ↓", "In the scorecard: move along the rows; the chart follows"],
  ["Enter", "On a figure: how it was made"],
  ["← →", "In the chart: move along the months"],
  ["Home End", "In the chart: first and last month"],
  ["t", "In the chart: its table of numbers, and back"],
  ["Esc", "Close"],
];

/** The list of keyboard shortcuts. */
export function Shortcuts() {
  const { open, show } = useOverlays();
  return (
    <Dialog.Root open={open === "shortcuts"} onOpenChange={(isOpen) => show(isOpen ? "shortcuts" : null)}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="popover fixed top-1/4 left-1/2 w-[min(30rem,92vw)] -translate-x-1/2 p-5"
        >
          <Dialog.Title className="font-serif text-lg">Keyboard</Dialog.Title>
          <dl className="mt-3 grid grid-cols-[7rem_1fr] gap-y-2">
            {SHORTCUTS.map(([keys, meaning]) => (
              <div key={keys} className="contents">
                <dt>
                  <kbd className="rounded border border-thread bg-ground px-1.5 py-0.5 font-sans text-[13px]">
                    {keys}
                  </kbd>
                </dt>
                <dd>{meaning}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

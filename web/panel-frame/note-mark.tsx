import { Popover } from "radix-ui";

/** A disc filled by half: the figure has a part of what was asked for. */
export function CoverageGlyph() {
  return (
    <svg aria-hidden="true" width="10" height="10" viewBox="0 0 10 10">
      <circle cx="5" cy="5" r="4.2" fill="none" stroke="currentColor" />
      <path d="M5 .8a4.2 4.2 0 0 1 0 8.4z" fill="currentColor" />
    </svg>
  );
}

/** A mark beside a figure that leaves something out; opened, it says what. */
export function NoteMark({ notes, label }: { notes: readonly string[]; label?: string | undefined }) {
  if (notes.length === 0) return null;
  return (
    <Popover.Root>
      <Popover.Trigger
        className="ml-0.5 -my-1 inline-flex min-h-[24px] min-w-[24px] items-center justify-center gap-1 align-middle text-[11.5px] text-slate hover:text-ink"
        aria-label={`Coverage: ${notes.join(" ")}`}
      >
        <CoverageGlyph />
        {label}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={4}
          className="popover max-w-sm p-3 text-[13px]"
          aria-label="Coverage"
        >
          <p className="font-semibold">Coverage</p>
          <ul className="mt-1 space-y-1">
            {notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

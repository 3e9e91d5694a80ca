import { Slider as Radix } from "radix-ui";

/** A number that is dragged: told while it moves, and once more when it is let go. */
export function Slider({
  label,
  value,
  words,
  least,
  most,
  onDrag,
  onDrop,
}: {
  label: string;
  value: number;
  /** The value as it is read. */
  words: string;
  least: number;
  most: number;
  onDrag: (value: number) => void;
  onDrop: (value: number) => void;
}) {
  return (
    <label className="flex items-center gap-2">
      <span className="text-slate">{label}</span>
      <Radix.Root
        className="relative flex h-6 w-24 touch-none items-center select-none"
        value={[value]}
        min={least}
        max={most}
        step={1}
        onValueChange={([next]) => onDrag(next!)}
        onValueCommit={([next]) => onDrop(next!)}
      >
        <Radix.Track className="relative h-[3px] grow rounded bg-thread">
          <Radix.Range className="absolute h-full rounded bg-accent" />
        </Radix.Track>
        <Radix.Thumb
          aria-label={label}
          aria-valuetext={words}
          className="grid size-[24px] place-items-center rounded-full"
        >
          <span className="block size-[13px] rounded-full border-2 border-accent bg-panel" />
        </Radix.Thumb>
      </Radix.Root>
      <span className="min-w-[3.5em] whitespace-nowrap">{words}</span>
    </label>
  );
}

import type { Figure } from "#core/figures/schema.ts";

/** In a reading card: the figure of what is weighed, where it is no share of the whole's. Nothing while nothing is weighed. */
export function ChosenPart({
  name = "Selected part",
  figure,
  write,
}: {
  name?: string;
  figure: Figure | undefined;
  write: (value: number) => string;
}) {
  if (!figure) return null;
  return (
    <p className="mt-1 flex justify-between gap-2 border-t border-thread pt-1 text-slate">
      <span>{name}</span>
      <span>{"value" in figure ? write(figure.value) : figure.absent}</span>
    </p>
  );
}

import { writeNumber, type NumberStyle } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";

/** A number whose point stands at the same place in every row: what follows it has a slot of its own. */
export function AlignedNumber({
  value,
  style,
  signed = false,
  suffix = "",
}: {
  value: number;
  style: NumberStyle;
  signed?: boolean;
  suffix?: string;
}) {
  const text = writeNumber(value, style);
  const [whole, fraction] = text.split(".");
  const plus = signed && value > 0 && !/^[0.,]*$/.test(text) ? "+" : "";
  return (
    <span className="whitespace-nowrap">
      {plus}
      {whole}
      <span className="inline-block w-[1.5em] text-left">
        {fraction ? `.${fraction}` : ""}
        {suffix && <span className="text-[10.5px]">{suffix}</span>}
      </span>
    </span>
  );
}

/** A figure that is not there: a dash that says why to whoever asks. */
export function Absent({ figure }: { figure: Extract<Figure, { absent: string }> }) {
  return (
    <span className="whitespace-nowrap text-[12px] text-slate" title={figure.detail}>
      {figure.absent}
    </span>
  );
}

import { Popover } from "radix-ui";
import { useState } from "react";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { Field } from "../ui/form.tsx";

/** The span of a frame: one of the usual ones, or from one month to another. */
export function SpanWord({ structure, onChoose }: { structure: FrameChoices; onChoose: (span: string) => void }) {
  const [isOpen, setOpen] = useState(false);
  const { span, words, asOf } = structure.frame;
  const isWindow = span.includes("..");
  const said = isWindow ? words.spanMonths : words.span;
  const choose = (key: string) => {
    setOpen(false);
    onChoose(key);
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className="frame-word" aria-label={`Span: ${said}`}>
        {said}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={8}
          className="popover w-[min(25rem,94vw)] p-1.5"
          aria-label="Span"
        >
          <ul role="menu" aria-label="Span">
            {structure.spans.map(({ key, name, months }) => (
              <li key={key} role="none">
                <button
                  type="button"
                  role="menuitemradio"
                  aria-checked={key === span}
                  onClick={() => choose(key)}
                  className={`flex w-full items-baseline gap-3 rounded px-2 py-1 text-left hover:bg-chosen focus-visible:bg-chosen ${key === span ? "font-semibold" : ""}`}
                >
                  <span aria-hidden="true" className="w-2 text-accent">
                    {key === span ? "•" : ""}
                  </span>
                  <span>{name}</span>
                  <span className="ml-auto pl-6 text-[13px] font-normal text-slate">{months}</span>
                </button>
              </li>
            ))}
          </ul>
          <Months structure={structure} asOf={asOf} chosen={isWindow ? span : null} onChoose={choose} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** From one month to another. */
function Months({
  structure,
  asOf,
  chosen,
  onChoose,
}: {
  structure: FrameChoices;
  asOf: string;
  chosen: string | null;
  onChoose: (span: string) => void;
}) {
  const [start = asOf, end = asOf] = chosen?.split("..") ?? [];
  const [from, setFrom] = useState(start);
  const [to, setTo] = useState(end);
  const months = structure.asOfChoices.filter(({ month }) => month <= asOf);
  const pick = (label: string, value: string, set: (month: string) => void) => (
    <Field label={label}>
      <select className="field" value={value} onChange={(event) => set(event.target.value)}>
        {months.map(({ month, name }) => (
          <option key={month} value={month}>
            {name}
          </option>
        ))}
      </select>
    </Field>
  );
  return (
    <div className="mt-1 grid grid-cols-[1fr_1fr_auto] items-end gap-2 border-t border-thread px-2 pt-2 pb-1">
      {pick("From", from, setFrom)}
      {pick("To", to, setTo)}
      <button
        type="button"
        disabled={from > to}
        title={from > to ? "The first month comes after the last" : undefined}
        className="min-h-7 px-1 text-accent hover:underline disabled:text-slate disabled:no-underline"
        onClick={() => onChoose(`${from}..${to}`)}
      >
        Apply
      </button>
    </div>
  );
}

import { useId, useState, type ReactNode } from "react";

/** A labelled control. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="grid gap-0.5">
      <span className="text-[12.5px] text-slate">{label}</span>
      {children}
    </label>
  );
}

/** A text that is taken over while it is typed, or once it is left where every change counts for itself. */
export function TextField({
  label,
  value,
  onCommit,
  keepSpaces = false,
  autoFocus = false,
  whenLeft = false,
  isLabelHidden = false,
}: {
  label: string;
  value: string;
  onCommit: (text: string) => void;
  keepSpaces?: boolean;
  autoFocus?: boolean;
  whenLeft?: boolean;
  /** Under a head that says it for a whole column: the label is only read aloud. */
  isLabelHidden?: boolean;
}) {
  const id = useId();
  // What is typed stays as it is typed, also while it is read as a list, or changed by somebody else meanwhile.
  const [text, setText] = useState(value);
  const [start, setStart] = useState<string | null>(null);
  const [known, setKnown] = useState(value);
  const isTyping = start !== null && text !== start;
  if (known !== value) {
    setKnown(value);
    if (whenLeft && !isTyping) {
      setText(value);
      if (start !== null) setStart(value);
    }
  }
  return (
    <span className="grid gap-0.5">
      <label htmlFor={id} className={isLabelHidden ? "sr-only" : "text-[12.5px] text-slate"}>
        {label}
      </label>
      <input
        id={id}
        className="field"
        value={text}
        autoFocus={autoFocus}
        onFocus={() => setStart(value)}
        onChange={(event) => {
          setText(event.target.value);
          if (!whenLeft) onCommit(keepSpaces ? event.target.value : event.target.value.trim());
        }}
        onBlur={() => {
          setStart(null);
          if (whenLeft && text.trim() !== value) onCommit(text.trim());
        }}
      />
      {whenLeft && isTyping && start !== value && (
        <span role="status" className="text-[12.5px] text-madder">
          Meanwhile somebody wrote “{value || "nothing"}”. Yours takes its place when you leave the field.
        </span>
      )}
    </span>
  );
}

/** A button; the main one of a place is filled. */
export function Button({
  kind = "plain",
  type = "button",
  onClick,
  isDisabled = false,
  title,
  children,
}: {
  kind?: "main" | "plain";
  type?: "button" | "submit";
  onClick?: () => void;
  isDisabled?: boolean;
  title?: string;
  children: ReactNode;
}) {
  return (
    <button
      type={type}
      onClick={onClick}
      disabled={isDisabled}
      title={title}
      className={
        kind === "main"
          ? "rounded bg-accent px-3 py-1 font-semibold text-panel hover:brightness-110 disabled:opacity-40"
          : "rounded px-1 py-1 text-accent hover:underline disabled:text-slate disabled:no-underline"
      }
    >
      {children}
    </button>
  );
}

/** A small button that shows a sign; its label is read aloud and shown on hovering. */
export function IconButton({
  label,
  onClick,
  isDisabled = false,
  isOn,
  children,
}: {
  label: string;
  onClick: () => void;
  isDisabled?: boolean;
  /** For a button that switches something: whether it is on. */
  isOn?: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={isOn}
      disabled={isDisabled}
      onClick={onClick}
      className={`grid size-[26px] place-items-center rounded disabled:opacity-30 print:hidden ${isOn ? "bg-chosen text-accent" : "text-slate hover:bg-panel hover:text-ink"}`}
    >
      {children}
    </button>
  );
}

/** A way to act within a text: looks like a link, does something here. */
export function TextButton({
  onClick,
  isPressed,
  isDisabled,
  label,
  children,
}: {
  onClick: () => void;
  isPressed?: boolean;
  isDisabled?: boolean;
  /** What it is called where its words need what stands around them. */
  label?: string;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      onClick={onClick}
      disabled={isDisabled}
      aria-label={label}
      aria-pressed={isPressed}
      className="min-h-[24px] text-[13px] text-accent hover:underline disabled:text-slate"
    >
      {children}
    </button>
  );
}

/** Something that is on or off. */
export function Tick({ label, isOn, onChange }: { label: string; isOn: boolean; onChange: (isOn: boolean) => void }) {
  return (
    <label className="flex min-h-[26px] items-center gap-2">
      <input
        type="checkbox"
        className="accent-[var(--accent)]"
        checked={isOn}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  );
}

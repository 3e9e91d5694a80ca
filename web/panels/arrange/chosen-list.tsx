import { ArrowDown, ArrowUp, Plus, X } from "lucide-react";
import { IconButton } from "../../ui/form.tsx";
import { moved } from "./moved.ts";

/** From more than so many on, all of them can be left out at once. */
const MANY = 2;

/** Things chosen in an order: moved, left out, and those that are not chosen added below. */
export function ChosenList<K extends string>({
  chosen,
  nameOf,
  rest,
  mayBeEmpty = false,
  onChange,
}: {
  chosen: readonly K[];
  nameOf: (key: K) => string;
  /** What can be added. */
  rest: readonly K[];
  mayBeEmpty?: boolean;
  onChange: (next: K[]) => void;
}) {
  return (
    <>
      <ol>
        {chosen.map((key, i) => (
          <li key={key} className="flex items-center border-t border-thread/60">
            <span className="flex-1">{nameOf(key)}</span>
            <Moves
              name={nameOf(key)}
              isFirst={i === 0}
              isLast={i === chosen.length - 1}
              onMove={(by) => onChange(moved(chosen, i, i + by))}
            />
            <IconButton
              label={`Leave out ${nameOf(key)}`}
              isDisabled={!mayBeEmpty && chosen.length === 1}
              onClick={() => onChange(chosen.toSpliced(i, 1))}
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ol>
      <p className="mt-1 flex flex-wrap gap-x-3 gap-y-1 text-[13px]">
        {chosen.length > MANY && (
          <button
            type="button"
            className="flex min-h-[24px] items-center gap-0.5 text-accent hover:underline"
            onClick={() => onChange(mayBeEmpty ? [] : chosen.slice(0, 1))}
          >
            <X size={12} aria-hidden="true" /> {mayBeEmpty ? "Remove all" : `Keep only ${nameOf(chosen[0]!)}`}
          </button>
        )}
        {rest.map((key) => (
          <button
            key={key}
            type="button"
            className="flex min-h-[24px] items-center gap-0.5 text-accent hover:underline"
            onClick={() => onChange([...chosen, key])}
          >
            <Plus size={12} aria-hidden="true" /> {nameOf(key)}
          </button>
        ))}
      </p>
    </>
  );
}

/** Up and down by one place. */
export function Moves({
  name,
  isFirst,
  isLast,
  onMove,
}: {
  name: string;
  isFirst: boolean;
  isLast: boolean;
  onMove: (by: -1 | 1) => void;
}) {
  return (
    <>
      <IconButton label={`Move ${name} up`} isDisabled={isFirst} onClick={() => onMove(-1)}>
        <ArrowUp size={13} />
      </IconButton>
      <IconButton label={`Move ${name} down`} isDisabled={isLast} onClick={() => onMove(1)}>
        <ArrowDown size={13} />
      </IconButton>
    </>
  );
}

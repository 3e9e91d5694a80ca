import { Popover } from "radix-ui";
import { createContext, use, useMemo, type ReactNode } from "react";
import { DYE_NAMES, dyeOf } from "./dyes.ts";

/** The colours that a page gives to members and KPIs, by what they are kept under. */
export type ChosenDyes = Readonly<Record<string, number>>;

interface PageDyes {
  readonly chosen: ChosenDyes;
  /** Keeps a colour for all panels of the page; `undefined` while the page is only read. */
  readonly choose: ((key: string, dye: number | undefined) => void) | undefined;
}

/** One and the same, so that charts are not drawn anew with every page that has no colours of its own. */
const NONE: ChosenDyes = {};
const PageDyesContext = createContext<PageDyes>({ chosen: NONE, choose: undefined });

/** Below it a member has the same colour on every panel: its own where the page gives it one. */
export function PageDyesProvider({
  chosen = NONE,
  onChange,
  children,
}: {
  chosen: ChosenDyes | undefined;
  onChange?: (chosen: ChosenDyes | undefined) => void;
  children: ReactNode;
}) {
  const dyes = useMemo(
    (): PageDyes => ({
      chosen,
      choose:
        onChange &&
        ((key, dye) => {
          const { [key]: _, ...others } = chosen;
          const next = dye === undefined ? others : { ...others, [key]: dye };
          onChange(Object.keys(next).length === 0 ? undefined : next);
        }),
    }),
    [chosen, onChange],
  );
  return <PageDyesContext value={dyes}>{children}</PageDyesContext>;
}

/** How members are coloured here: by what the page says, else by their place among their like. */
export function useDyes(): (key: string | null, at: number | null) => string {
  const { chosen } = use(PageDyesContext);
  return (key, at) => dyeOf(key === null ? at : (chosen[key] ?? at));
}

/** A member's colour in a legend; while the page is arranged, the way to another. */
export function DyeMark({
  of,
  at,
  name,
  isFaded = false,
}: {
  of: string | null;
  at: number | null;
  name: string;
  isFaded?: boolean;
}) {
  const { chosen, choose } = use(PageDyesContext);
  const colourOf = useDyes();
  const mark = (
    <svg aria-hidden="true" width="11" height="11" className="block shrink-0">
      <rect width="11" height="11" fill={colourOf(of, at)} opacity={isFaded ? 0.35 : 1} />
    </svg>
  );
  if (!choose || of === null) return mark;
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`Colour of ${name}`}
        className="grid size-[24px] shrink-0 place-items-center rounded hover:bg-chosen"
      >
        {mark}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} collisionPadding={8} className="popover p-2.5">
          <p className="text-[12.5px] text-slate">{name} on this page</p>
          <div role="group" aria-label={`Colour of ${name}`} className="mt-1.5 grid grid-cols-4 gap-1">
            {DYE_NAMES.map((dye, i) => (
              <Popover.Close
                key={dye}
                aria-label={dye}
                aria-pressed={chosen[of] === i}
                title={dye}
                className="size-8 rounded border-2 border-panel aria-pressed:border-ink"
                style={{ background: dyeOf(i) }}
                onClick={() => choose(of, i)}
              />
            ))}
          </div>
          {chosen[of] !== undefined && (
            <Popover.Close className="meaning-word mt-1.5" onClick={() => choose(of, undefined)}>
              as the palette has it
            </Popover.Close>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

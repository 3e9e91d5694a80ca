import { Button } from "./form.tsx";

/** What two people made of one thing, as the server tells it. */
export interface BothVersionsOf<T> {
  readonly message: string;
  /** What is kept now; `null` where it was removed. */
  readonly current: T | null;
  /** What the one who is told wanted; `null` where it was to be removed. */
  readonly yours: T | null;
}

/** Two people changed the same thing: where the versions differ, and the choice between them. */
export function BothVersions({
  conflict: { message, current, yours },
  names = {},
  onTakeTheirs,
  onKeepMine,
}: {
  conflict: BothVersionsOf<object>;
  /** What its parts are called where they are edited. */
  names?: Readonly<Record<string, string>>;
  onTakeTheirs: () => void;
  onKeepMine: () => void;
}) {
  const parts = differences(current, yours, names);
  return (
    <div role="alert" className="mt-2 max-w-3xl rounded border border-madder px-3 py-2 text-[13px]">
      <p className="font-semibold">{message}</p>
      {parts.length > 0 && (
        <dl className="mt-1.5 grid grid-cols-[auto_1fr_1fr] gap-x-3 gap-y-0.5">
          <dt />
          <dd className="text-slate">Theirs</dd>
          <dd className="text-slate">Yours</dd>
          {parts.map(({ part, theirs, yours: own }) => (
            <div key={part} className="contents">
              <dt>{part}</dt>
              <dd className="min-w-0 break-words">{theirs}</dd>
              <dd className="min-w-0 break-words">{own}</dd>
            </div>
          ))}
        </dl>
      )}
      <p className="mt-1.5 flex gap-3">
        <Button onClick={onTakeTheirs}>Keep their version</Button>
        {yours && <Button onClick={onKeepMine}>Apply my version on top</Button>}
      </p>
    </div>
  );
}

/** Where two versions differ, part by part, in words. */
export function differences(
  current: object | null,
  yours: object | null,
  names: Readonly<Record<string, string>> = {},
) {
  const [a, b] = [current ?? {}, yours ?? {}] as Record<string, unknown>[];
  return [...new Set([...Object.keys(a!), ...Object.keys(b!)])]
    .filter((part) => part !== "version" && JSON.stringify(a![part]) !== JSON.stringify(b![part]))
    .map((part) => ({ part: names[part] ?? partName(part), theirs: said(a![part]), yours: said(b![part]) }));
}

function said(value: unknown): string {
  if (value === undefined || value === null || value === "") return "not set";
  return typeof value === "string" ? value : JSON.stringify(value);
}

/** "fallbackBasis" → "fallback basis" */
function partName(part: string): string {
  return part.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
}

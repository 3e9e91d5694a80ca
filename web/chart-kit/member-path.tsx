import { TextButton } from "../ui/form.tsx";

/** What a reader went down through: each word leads back to it. Nothing while all is shown. */
export function MemberPath({
  path,
  onOpen,
}: {
  path: readonly { readonly key: string; readonly name: string }[];
  onOpen: (key: string | undefined) => void;
}) {
  if (path.length === 0) return null;
  return (
    <>
      <span>in</span>
      <TextButton onClick={() => onOpen(undefined)}>all</TextButton>
      {path.map(({ key, name }, i) => (
        <span key={key} className="inline-flex items-baseline gap-x-1">
          <span aria-hidden="true" className="text-slate">
            ›
          </span>
          {i === path.length - 1 ? (
            <span className="font-semibold" aria-current="true">
              {name}
            </span>
          ) : (
            <TextButton onClick={() => onOpen(key)}>{name}</TextButton>
          )}
        </span>
      ))}
    </>
  );
}

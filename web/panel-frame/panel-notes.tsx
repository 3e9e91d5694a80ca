/** What a panel cannot show of whom, with the reason, and what must be known to read it. */
export function PanelNotes({
  absent = [],
  notes,
}: {
  absent?: readonly { readonly name: string; readonly reason: string }[];
  notes: readonly string[];
}) {
  if (absent.length === 0 && notes.length === 0) return null;
  return (
    <ul className="mx-4 mt-1.5 space-y-0.5 border-t border-thread pt-1.5 text-[12.5px] text-slate">
      {absent.map(({ name, reason }) => (
        <li key={name}>
          {name}: {reason}
        </li>
      ))}
      {notes.map((note) => (
        <li key={note}>{note}</li>
      ))}
    </ul>
  );
}

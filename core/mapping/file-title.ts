/** "Spend by department" of "spend_by-department (3).csv". */
export function titleOf(fileName: string): string {
  const words = fileName
    .replace(/\.[a-z0-9]{2,5}$/i, "")
    .replace(/\(\d+\)/g, "")
    .replace(/[_\-.]+/g, " ")
    .replace(/\s+/g, " ")
    .trim();
  const title = words === "" ? "New data" : words;
  return title[0]!.toUpperCase() + title.slice(1);
}

/** What a title says is measured: "Sales" of "Sales 2026, in USD thousand"; `undefined` where it says nothing. */
export function measureOf(heading: string): string | undefined {
  const plain = heading
    .replace(/\b(?:FY)?(?:19|20)?\d\d\b|\(.*?\)|,.*$|\b(?:in|by)\b.*$/gi, " ")
    .replace(/\s+/g, " ")
    .trim();
  return plain === "" || plain.length > 40 ? undefined : plain[0]!.toUpperCase() + plain.slice(1);
}

/** A name that no column has yet. */
export function freeName(wanted: string, columns: readonly string[]): string {
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? wanted : `${wanted} ${n}`;
    if (!columns.includes(name)) return name;
  }
}

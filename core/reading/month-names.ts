/** Months by their names, in the languages that files most often speak; without accents. */
const NAMES: readonly (readonly string[])[] = [
  ["january", "januar", "janvier", "enero", "gennaio", "januari", "janeiro", "janner"],
  ["february", "februar", "fevrier", "febrero", "febbraio", "februari", "fevereiro"],
  ["march", "marz", "mars", "marzo", "maart", "marco", "mrz", "maerz", "mrt"],
  ["april", "avril", "abril", "aprile"],
  ["may", "mai", "mayo", "maggio", "mei", "maio"],
  ["june", "juni", "juin", "junio", "giugno", "junho"],
  ["july", "juli", "juillet", "julio", "luglio", "julho"],
  ["august", "aout", "agosto", "augustus"],
  ["september", "septembre", "septiembre", "settembre", "setembro", "sept"],
  ["october", "oktober", "octobre", "octubre", "ottobre", "outubro"],
  ["november", "novembre", "noviembre", "novembro"],
  ["december", "dezember", "decembre", "diciembre", "dicembre", "dezembro"],
];
const SHORTEST = 3;

const known = new Map<string, number | undefined>();

/** Which month a name or its beginning means, 0 for January; `undefined` where it means none, or could mean two. */
export function monthIndexOf(name: string): number | undefined {
  const plain = name.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase().replace(/\.$/, "");
  if (plain.length < SHORTEST || plain.length > 10) return undefined;
  if (!known.has(plain)) {
    const found = NAMES.flatMap((names, index) => (names.some((full) => full.startsWith(plain)) ? [index] : []));
    known.set(plain, found.length === 1 ? found[0] : undefined);
  }
  return known.get(plain);
}

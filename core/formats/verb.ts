/**
 * "is" or "are" for a KPI's name: "Operating costs are", "Revenue is". Goes by the
 * plural s, which -ss, -us and -is are not.
 */
export function isOrAre(name: string): "is" | "are" {
  return /[^sui]s$/i.test(name.trim()) ? "are" : "is";
}

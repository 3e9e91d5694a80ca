/** What keeps a text legible over marks: an edge in the panel's own colour. */
export const HALO = { stroke: "var(--panel)", strokeWidth: 3, paintOrder: "stroke" } as const;

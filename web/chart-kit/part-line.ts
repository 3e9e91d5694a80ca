/** How the selected part is drawn where the whole is a line: in its colour, thinner. */
export const PART_LINE = { fill: "none", stroke: "var(--indigo)", strokeOpacity: 0.7, strokeWidth: 1 } as const;

/** The forecast's grain, by which its areas are told from the actual's: fill with `url(#id)`. */
export function WovenGrain({ id, colour = "var(--indigo)" }: { id: string; colour?: string }) {
  return (
    <pattern id={id} width="5" height="5" patternUnits="userSpaceOnUse">
      <rect width="5" height="5" fill={colour} fillOpacity=".17" />
      <circle cx="1.2" cy="1.2" r=".8" fill={colour} fillOpacity=".75" />
      <circle cx="3.7" cy="3.7" r=".8" fill={colour} fillOpacity=".75" />
    </pattern>
  );
}

import type { PanelDefinition } from "#contract/panels/index.ts";

/** A panel's own title and subtitle, where it has been given any. */
export function OwnWords({ panel: { title, subtitle } }: { panel: PanelDefinition }) {
  if (!title && !subtitle) return null;
  return (
    <header className="px-4 pt-3 pb-1">
      {title && <h2 className="font-serif text-[17px] leading-snug">{title}</h2>}
      {subtitle && <p className="text-[13px] text-slate">{subtitle}</p>}
    </header>
  );
}

import { PACKS } from "#contract/operations/packs.ts";
import { KPIS } from "#contract/operations/kpis.ts";
import type { PackList } from "#contract/pack.ts";
import { referencesOf, type PanelDefinition } from "#core/panels/schemas.ts";
import { Field } from "../../ui/form.tsx";
import type { PageLink } from "../../panel-frame/panel-view.ts";
import { useAnswer } from "../../client/answer.ts";

/** The pages with the detail that a panel, and each of its KPIs, leads to. */
export function ArrangeLinks({
  panel,
  onChange,
}: {
  panel: PanelDefinition;
  onChange: (next: PanelDefinition) => void;
}) {
  const packs = useAnswer(PACKS.packs).data ?? [];
  const library = useAnswer(KPIS.kpis).data ?? [];
  const { kpis } = referencesOf(panel);
  const set = (link: PageLink | undefined) => {
    const { link: _, ...rest } = panel;
    onChange(link ? { ...rest, link } : rest);
  };
  const setKpi = (kpi: string, link: PageLink | undefined) => {
    const { [kpi]: _, ...others } = panel.links ?? {};
    const next = link ? { ...others, [kpi]: link } : others;
    const { links: __, ...rest } = panel;
    onChange(Object.keys(next).length === 0 ? rest : { ...rest, links: next });
  };
  return (
    <details className="mt-4" open={panel.link !== undefined || panel.links !== undefined}>
      <summary className="font-serif text-[16px]">Links to pages</summary>
      <div className="mt-1 grid gap-2">
        <PagePick label="The panel" packs={packs} link={panel.link} onPick={set} />
        {kpis.map((kpi) => (
          <PagePick
            key={kpi}
            label={library.find(({ definition }) => definition.key === kpi)?.definition.name ?? kpi}
            packs={packs}
            link={panel.links?.[kpi]}
            onPick={(link) => setKpi(kpi, link)}
          />
        ))}
      </div>
    </details>
  );
}

function PagePick({
  label,
  packs,
  link,
  onPick,
}: {
  label: string;
  packs: PackList;
  link: PageLink | undefined;
  onPick: (link: PageLink | undefined) => void;
}) {
  const value = link ? `${link.pack}/${link.page}` : "";
  return (
    <Field label={label}>
      <select
        className="field"
        value={value}
        onChange={(event) => {
          const [pack, page] = event.target.value.split("/");
          onPick(pack && page ? { pack, page } : undefined);
        }}
      >
        <option value="">nowhere</option>
        {packs.map((pack) => (
          <optgroup key={pack.key} label={pack.name}>
            {pack.pages.map((page) => (
              <option key={page.key} value={`${pack.key}/${page.key}`}>
                {page.name}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </Field>
  );
}

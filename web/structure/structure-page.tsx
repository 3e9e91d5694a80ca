import { STRUCTURE } from "#contract/operations/structure.ts";
import { useEffect, type ReactNode } from "react";
import { NavLink } from "react-router";
import type { EditableStructure } from "#contract/structure.ts";
import { BothVersions } from "../ui/both-versions.tsx";
import { ChangeList } from "../ui/change-list.tsx";
import { PageState } from "../ui/page-state.tsx";
import { useChange, type ChangeSender } from "./use-change.ts";
import { useAnswer } from "../client/answer.ts";

/** The frame of the structure's pages: which part is open, the last changes, and what went wrong. */
export function StructurePage({
  title,
  children,
}: {
  title: (structure: EditableStructure) => string;
  children: (structure: EditableStructure, change: ChangeSender) => ReactNode;
}) {
  const structure = useAnswer(STRUCTURE.structure);
  const change = useChange();
  const name = structure.data ? title(structure.data) : "Structure";
  useEffect(() => {
    document.title = `${name} · Hackle`;
  }, [name]);
  if (!structure.data) return <PageState error={structure.error} title="The structure cannot be shown" />;
  const tab = ({ isActive }: { isActive: boolean }) =>
    `pb-0.5 ${isActive ? "font-semibold shadow-[inset_0_-2px_0_var(--accent)]" : "text-slate hover:text-ink"}`;
  return (
    <div className="px-6 pt-4 pb-8">
      <nav aria-label="Structure" className="flex flex-wrap gap-x-5 gap-y-1">
        <NavLink to="/structure/accounts" className={tab}>
          Accounts
        </NavLink>
        {structure.data.dimensions.map((d) => (
          <NavLink key={d.key} to={`/structure/dimensions/${d.key}`} className={tab}>
            {d.name}
          </NavLink>
        ))}
        <NavLink to="/structure/calendar" className={tab}>
          Calendar and datasets
        </NavLink>
      </nav>
      <h1 className="mt-3 font-serif text-[21px]">{name}</h1>
      {change.problem && (
        <p role="alert" className="mt-1 max-w-3xl text-madder">
          {change.problem}
        </p>
      )}
      {change.conflict && (
        <BothVersions conflict={change.conflict} onTakeTheirs={change.takeTheirs} onKeepMine={change.keepMine} />
      )}
      {children(structure.data, change)}
      <Changes structure={structure.data} change={change} />
    </div>
  );
}

function Changes({ structure, change }: { structure: EditableStructure; change: ChangeSender }) {
  if (structure.changes.length === 0) return null;
  return (
    <details className="mt-6 max-w-3xl" open={structure.changes.length <= 5}>
      <summary className="cursor-pointer font-serif text-[16px]">Last changes</summary>
      <ChangeList
        changes={structure.changes.slice(0, 20)}
        onTakeBack={
          change.isSending ? undefined : (id) => void change.send(STRUCTURE.undoChange, { params: { change: id } })
        }
      />
    </details>
  );
}

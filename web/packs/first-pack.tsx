import { PACKS } from "#contract/operations/packs.ts";
import { Navigate, useParams } from "react-router";
import { Notice } from "../ui/notice.tsx";
import { useAnswer } from "../client/answer.ts";

/** Leads to the first page of a pack. */
export function FirstPack() {
  const packs = useAnswer(PACKS.packs);
  const { pack: wanted } = useParams();
  if (packs.error && !packs.data)
    return (
      <div className="p-8">
        <Notice tone="bad" title="Packs could not be loaded" detail={packs.error.message} />
      </div>
    );
  if (!packs.data) return null;
  const pack = packs.data.find((p) => p.key === wanted);
  const page = pack?.pages[0];
  if (pack && page) return <Navigate to={`/packs/${pack.key}/${page.key}`} replace />;
  return (
    <div className="p-8">
      <Notice
        title={`There is no pack "${wanted}"`}
        detail={packs.data.length > 0 ? "Choose a pack on the left." : "A first page is made when data is loaded."}
      />
    </div>
  );
}

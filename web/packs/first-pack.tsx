import { Navigate, useParams } from "react-router";
import { usePacks } from "../app/questions.ts";
import { Notice } from "../ui/notice.tsx";

/** Leads to the first page of a pack. */
export function FirstPack() {
  const packs = usePacks();
  const { pack: wanted } = useParams();
  if (packs.error && !packs.data)
    return (
      <div className="p-8">
        <Notice tone="bad" title="The packs cannot be read" detail={packs.error.message} />
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
        detail={packs.data.length > 0 ? "Choose one on the left." : "A first page is made when data is loaded."}
      />
    </div>
  );
}

import { useEffect } from "react";
import { formatNumber } from "#core/words/number-words.ts";
import { useLoads } from "../app/questions.ts";
import { PanelFrame } from "../panels/panel-frame.tsx";

/** Everything that was posted: which file, when, by whom, what it covers. */
export function LoadsPage() {
  const loads = useLoads();
  useEffect(() => {
    document.title = "Loads · Hackle";
  }, []);
  return (
    <div className="px-6 pt-4 pb-8">
      <h1 className="font-serif text-[21px]">Loads</h1>
      <p className="mt-1 mb-4 text-slate">
        {loads.data
          ? `${formatNumber(loads.data.rows, 0)} rows were posted from ${formatNumber(loads.data.total, 0)} files, newest first.`
          : "Every file that was posted."}
      </p>
      <PanelFrame
        label="Loads"
        answer={loads}
        skeleton={
          <div className="p-5">
            {Array.from({ length: 12 }, (_, i) => (
              <div key={i} className="waiting mt-3 h-5" />
            ))}
          </div>
        }
      >
        {(data) => (
          <div className="overflow-x-auto px-5 py-3">
            <table className="w-full text-[13px]">
              <thead>
                <tr className="text-left text-slate">
                  {["File", "Dataset", "Scenario", "Covers", "Posted", "By"].map((h) => (
                    <th key={h} scope="col" className="pr-4 pb-1 font-normal">
                      {h}
                    </th>
                  ))}
                  <th scope="col" className="pb-1 text-right font-normal">
                    Rows
                  </th>
                </tr>
              </thead>
              <tbody>
                {data.loads.map((load) => (
                  <tr key={load.id} className="border-t border-thread/70">
                    <th scope="row" className="py-1 pr-4 text-left font-semibold">
                      {load.fileName}
                    </th>
                    <td className="pr-4">{load.dataset}</td>
                    <td className="pr-4">{load.scenario}</td>
                    <td className="pr-4">{load.months}</td>
                    <td className="pr-4">{load.postedOn}</td>
                    <td className="pr-4">{load.postedBy}</td>
                    <td className="text-right">{formatNumber(load.rows, 0)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </PanelFrame>
    </div>
  );
}

import { STRUCTURE } from "#contract/operations/structure.ts";
import type { EditableStructure } from "#contract/structure.ts";
import { Button } from "../ui/form.tsx";
import type { ChangeSender } from "./use-change.ts";

type Dataset = EditableStructure["datasets"][number];

/** What days without a line are taken for, and the way to say otherwise; a question where the days leave a doubt. */
export function DaysQuestion({ dataset, change }: { dataset: Dataset; change: ChangeSender }) {
  const { days, key, name } = dataset;
  if (!days) return null;
  const say = (daysWithoutLines: "zero" | "missing") =>
    void change.send(STRUCTURE.changeDataset, { params: { dataset: key }, body: { daysWithoutLines } });
  const isZero = days.as === "zero";
  return (
    <p className={`text-[13px] ${days.isClear ? "text-slate" : ""}`}>
      {days.isClear ? (
        <>
          Days without lines {isZero ? "count as zero" : "are missing data"}.{" "}
          <Button isDisabled={change.isSending} onClick={() => say(isZero ? "missing" : "zero")}>
            {isZero ? "Treat them as missing" : "Count them as zero"}
          </Button>
        </>
      ) : (
        <>
          <strong>{name}</strong> has no lines on some days. Did nothing happen on them, or is data missing?{" "}
          <Button isDisabled={change.isSending} onClick={() => say("zero")}>
            Nothing happened: count them as zero
          </Button>{" "}
          <Button isDisabled={change.isSending} onClick={() => say("missing")}>
            Data is missing
          </Button>{" "}
          <span className="text-slate">Until you answer, they {isZero ? "count as zero" : "are missing data"}.</span>
        </>
      )}
    </p>
  );
}

import { STRUCTURE } from "#contract/operations/structure.ts";
import type { z } from "zod";
import type { partTableSchema } from "#contract/structure.ts";
import { TextButton } from "../ui/form.tsx";
import type { ChangeSender } from "./use-change.ts";

/** Removes a dimension, dataset or scenario; what still uses it is said, and the last changes take it back. */
export function RemovePart({
  table,
  part,
  change,
}: {
  table: z.infer<typeof partTableSchema>;
  part: { readonly key: string; readonly name: string };
  change: ChangeSender;
}) {
  return (
    <TextButton
      label={`Remove ${part.name}`}
      isDisabled={change.isSending}
      onClick={() => void change.send(STRUCTURE.removePart, { params: { table, key: part.key } })}
    >
      Remove
    </TextButton>
  );
}

import { LOADS } from "#contract/operations/loads.ts";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { LoadDetail } from "#contract/loads.ts";
import { call } from "../client/api.ts";
import { Button } from "../ui/form.tsx";
import { Sheet } from "../ui/sheet.tsx";

/** Removing an undone load for good: what goes is said before, and what stays is said afterwards. */
export function Removal({ load }: { load: LoadDetail }) {
  const client = useQueryClient();
  const [withBrought, setWithBrought] = useState(true);
  const remove = useMutation({
    mutationFn: () => call(LOADS.removeLoad, { params: { load: load.id }, body: { withBrought } }),
    onSuccess: () => client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== LOADS.load.name }),
  });
  if (remove.data)
    return (
      <Sheet title={`${load.fileName} is removed`}>
        {remove.data.kept.length > 0 && (
          <ul className="mb-2 grid gap-1">
            {remove.data.kept.map((sentence) => (
              <li key={sentence} className="border-l-2 border-weld pl-3">
                {sentence}
              </li>
            ))}
          </ul>
        )}
        <p>
          {withBrought && load.brought.length > 0 && (
            <>
              What went of the structure can be taken back under{" "}
              <Link className="text-accent underline" to="/structure/calendar">
                the last changes
              </Link>
              .{" "}
            </>
          )}
          <Link className="text-accent underline" to="/loads">
            To the list of loads
          </Link>
        </p>
      </Sheet>
    );
  return (
    <Sheet title="Delete for good">
      <p>
        Its {load.rows === 1 ? "row" : "rows"}
        {load.hasFile ? " and its file are" : " are"} deleted, and it cannot be brought back.
      </p>
      {load.brought.length > 0 && (
        <label className="mt-2 flex items-baseline gap-2">
          <input type="checkbox" checked={withBrought} onChange={(event) => setWithBrought(event.target.checked)} />
          <span>
            Also what it alone brought, as far as nothing else uses it:
            <span className="block text-slate">{load.brought.join("; ")}.</span>
          </span>
        </label>
      )}
      {remove.error && (
        <p role="alert" className="mt-2 border-l-2 border-madder pl-3">
          {remove.error.message}
        </p>
      )}
      <div className="mt-3">
        <Button onClick={() => remove.mutate()} isDisabled={remove.isPending}>
          Remove for good
        </Button>
      </div>
    </Sheet>
  );
}

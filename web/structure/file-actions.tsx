import { useRef } from "react";
import { Button } from "../ui/form.tsx";
import type { ChangeSender } from "./use-change.ts";

/** A list as a CSV file, and a CSV file taken over into the list. */
export function FileActions({
  href,
  onFile,
  change,
}: {
  href: string;
  onFile: (file: File) => void;
  change: ChangeSender;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <a className="px-1 py-1 text-accent hover:underline" href={href} download>
        Export as CSV
      </a>
      <input
        ref={input}
        type="file"
        accept=".csv,text/csv"
        className="sr-only"
        aria-label="CSV file to import"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
      <Button isDisabled={change.isSending} onClick={() => input.current?.click()}>
        Import a CSV
      </Button>
    </>
  );
}

import { DRAFTS } from "#contract/operations/drafts.ts";
import { useQueryClient } from "@tanstack/react-query";
import { Upload } from "lucide-react";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { draftSchema } from "#contract/intake.ts";
import { sendFile } from "../client/api.ts";
import { Button } from "../ui/form.tsx";
import { answerKey } from "../client/answer.ts";

/** Where files are dropped, or chosen by dialog; shows how sending goes, and can break it off. */
export function DropZone() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const abort = useRef<AbortController>(null);
  const [isOver, setOver] = useState(false);
  const [sending, setSending] = useState<{ name: string; share: number } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const send = async (files: readonly File[]) => {
    setProblem(null);
    abort.current = new AbortController();
    try {
      for (const file of files) {
        setSending({ name: file.name, share: 0 });
        const draft = await sendFile(`/api/drafts?name=${encodeURIComponent(file.name)}`, draftSchema, {
          file,
          onProgress: (share) => setSending({ name: file.name, share }),
          signal: abort.current.signal,
        });
        client.setQueryData(answerKey(DRAFTS.draft, { params: { draft: draft.id } }), draft);
        await client.invalidateQueries({ queryKey: answerKey(DRAFTS.drafts) });
        // Of several files each becomes a draft; a single one is opened.
        if (files.length === 1) await navigate(`/loads/files/${draft.id}`);
      }
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setSending(null);
    }
  };
  return (
    <div
      className={`relative flex flex-wrap items-center gap-x-4 gap-y-1 rounded-md border border-dashed px-5 py-4 ${isOver ? "border-accent bg-chosen" : "border-slate/60"}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void send([...event.dataTransfer.files]);
      }}
    >
      <Upload size={20} className="text-accent" aria-hidden="true" />
      {sending ? (
        <p className="flex-1" role="status">
          Sending {sending.name}, {Math.round(sending.share * 100)}%{" "}
          <Button onClick={() => abort.current?.abort()}>Cancel</Button>
        </p>
      ) : (
        <p className="flex-1">
          <span className="font-serif text-[16px]">Drop a file here</span>
          <span className="text-slate">
            {" "}
            to load it: CSV or other delimited text, or an XLSX workbook. Nothing counts until you post it.
          </span>
        </p>
      )}
      <input
        ref={input}
        type="file"
        multiple
        accept=".csv,.tsv,.txt,.tab,.xlsx,text/csv"
        className="sr-only"
        aria-label="Files to load"
        tabIndex={-1}
        onChange={(event) => {
          void send([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <Button kind="main" onClick={() => input.current?.click()} isDisabled={sending !== null}>
        Choose a file
      </Button>
      {problem && (
        <p role="alert" className="w-full text-madder">
          {problem}
        </p>
      )}
    </div>
  );
}

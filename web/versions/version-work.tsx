import { FIGURES } from "#contract/operations/figures.ts";
import { KPIS } from "#contract/operations/kpis.ts";
import { VERSIONS } from "#contract/operations/versions.ts";
import { useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState, type ReactNode } from "react";
import { ADJUSTMENT_KINDS, type AdjustmentKind } from "#core/ahead/adjust.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { operationPath } from "#contract/operations/operation.ts";
import type { AdjustmentPost, Version } from "#contract/versions.ts";
import { call } from "../client/api.ts";
import { dateTimeWords } from "../ui/date-time-words.ts";
import { Button, Field, TextButton } from "../ui/form.tsx";
import { PostingState } from "./posting-state.tsx";
import { useVersionLines } from "./use-version-lines.ts";
import { useAnswer } from "../client/answer.ts";

/** What can be done with a version besides naming and freezing it: copied; and while it is open adjusted and fitted anew. */
export function VersionWork({ version }: { version: Version }) {
  const isWorkedOn = version.kind === "forecast" && version.isOpen && !version.isRetired;
  return (
    <>
      {isWorkedOn && version.made && <FitAnew version={version} />}
      {isWorkedOn && <Adjust version={version} />}
      <Copy version={version} />
    </>
  );
}

/** A small form that opens at its word. */
function Sheet({
  word,
  title,
  about,
  isOpen,
  setOpen,
  problem,
  children,
}: {
  word: string;
  title: string;
  about: string;
  isOpen: boolean;
  setOpen: (isOpen: boolean) => void;
  problem: string | null;
  children: ReactNode;
}) {
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className="min-h-[24px] text-[13px] text-accent hover:underline">{word}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="popover w-96 p-4 text-[13px]"
          aria-label={title}
        >
          <p className="font-serif text-[16px]">{title}</p>
          <p className="mt-1 text-slate">{about}</p>
          {children}
          {problem !== null && (
            <p role="alert" className="mt-2 text-madder">
              {problem}
            </p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A call that changes versions: it closes its sheet, or says why it was refused. */
function useVersionCall(close: () => void): {
  readonly problem: string | null;
  readonly run: (work: () => Promise<unknown>) => Promise<void>;
} {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const run = async (work: () => Promise<unknown>) => {
    setProblem(null);
    try {
      await work();
      close();
    } catch (error) {
      setProblem((error as Error).message);
      return;
    }
    await client.invalidateQueries();
  };
  return { problem, run };
}

function Copy({ version: { key, name: source } }: { version: Version }) {
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState("");
  const { problem, run } = useVersionCall(() => {
    setOpen(false);
    setName("");
  });
  return (
    <Sheet
      word="Copy"
      title={`Copy ${source}`}
      about="The copy is a forecast of its own, open to be adjusted: the same amounts by month, with its adjustments."
      {...{ isOpen, setOpen, problem }}
    >
      <form
        className="mt-3 grid gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void run(() => call(VERSIONS.copyVersion, { params: { version: key }, body: { name: name.trim() } }));
        }}
      >
        <Field label="Its name">
          <input className="field" value={name} maxLength={60} onChange={(event) => setName(event.target.value)} />
        </Field>
        <div>
          <Button kind="main" type="submit" isDisabled={name.trim() === ""}>
            Copy version
          </Button>
        </div>
      </form>
    </Sheet>
  );
}

function FitAnew({ version: { key, name, adjustments } }: { version: Version }) {
  const [isOpen, setOpen] = useState(false);
  const { posting, run, cancel } = useVersionLines();
  const kept = adjustments.length === 0 ? "" : " Its adjustments are applied to what comes out.";
  return (
    <Sheet
      word="Refit"
      title={`Refit ${name}`}
      about={`Models are selected and fitted again on current closed actuals, with the settings it was made with.${kept}`}
      problem={null}
      {...{ isOpen, setOpen }}
    >
      <div className="mt-3 flex items-center gap-3">
        <Button
          kind="main"
          isDisabled={posting.is === "under way"}
          onClick={() => void run(operationPath(VERSIONS.refitVersion, { params: { version: key } }), {})}
        >
          Refit version
        </Button>
        {posting.is === "under way" && <Button onClick={cancel}>Cancel</Button>}
      </div>
      <PostingState posting={posting} />
    </Sheet>
  );
}

const KIND_WORDS: Readonly<Record<AdjustmentKind, string>> = {
  percent: "by percent",
  add: "by an amount a month",
  set: "to an amount a month",
};

function Adjust({ version }: { version: Version }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Sheet
      word="Adjust"
      title={`Adjust ${version.name}`}
      about="The model's figures are kept beside it, and the adjustment is reapplied after a refit. Closed months do not change."
      problem={null}
      {...{ isOpen, setOpen }}
    >
      <AdjustForm version={version} onDone={() => setOpen(false)} />
    </Sheet>
  );
}

function AdjustForm({ version, onDone }: { version: Version; onDone: () => void }) {
  // What is computed of several amounts is adjusted by one of those.
  const kpis = (useAnswer(KPIS.kpis).data ?? []).filter(({ definition: { formula } }) => /^\w+$/.test(formula.trim()));
  const { dimensions = [] } = useAnswer(FIGURES.frameChoices).data ?? {};
  const openFrom = version.madeAfter ? monthAfter(version.madeAfter.month) : "";
  const [form, setForm] = useState({
    kpi: version.made?.kpi.key ?? "",
    part: "",
    from: openFrom,
    to: openFrom,
    kind: "percent" as AdjustmentKind,
    value: "",
    reason: "",
  });
  const { problem, run } = useVersionCall(onDone);
  const set = (change: Partial<typeof form>) => setForm({ ...form, ...change });
  const value = Number(form.value.replace(/[\s,]/g, "").replace("−", "-"));
  const isReady =
    form.kpi !== "" &&
    form.value.trim() !== "" &&
    Number.isFinite(value) &&
    form.reason.trim() !== "" &&
    form.to !== "";
  const submit = () => {
    const [dimension, member] = form.part.split(":");
    const body: AdjustmentPost = {
      kpi: form.kpi,
      ...(dimension && member ? { scope: formatScope({ [dimension]: [member] }) } : {}),
      from: form.from,
      to: form.to,
      kind: form.kind,
      value,
      reason: form.reason.trim(),
    };
    void run(() => call(VERSIONS.adjustVersion, { params: { version: version.key }, body }));
  };
  return (
    <>
      <form
        className="mt-3 grid grid-cols-2 gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <Field label="Of">
          <select className="field" value={form.kpi} onChange={(event) => set({ kpi: event.target.value })}>
            <option value="">choose a KPI</option>
            {kpis.map(({ definition: { key, name } }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </Field>
        <Field label="For">
          <select className="field" value={form.part} onChange={(event) => set({ part: event.target.value })}>
            <option value="">everything</option>
            {dimensions.map((dimension) => (
              <optgroup key={dimension.key} label={dimension.name}>
                {dimension.members.map(({ key, name }) => (
                  <option key={key} value={`${dimension.key}:${key}`}>
                    {name}
                  </option>
                ))}
              </optgroup>
            ))}
          </select>
        </Field>
        <Field label="From">
          <input
            className="field"
            type="month"
            value={form.from}
            onChange={(event) => set({ from: event.target.value })}
          />
        </Field>
        <Field label="To">
          <input className="field" type="month" value={form.to} onChange={(event) => set({ to: event.target.value })} />
        </Field>
        <Field label="Changed">
          <select
            className="field"
            value={form.kind}
            onChange={(event) => set({ kind: ADJUSTMENT_KINDS.find((kind) => kind === event.target.value)! })}
          >
            {ADJUSTMENT_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {KIND_WORDS[kind]}
              </option>
            ))}
          </select>
        </Field>
        <Field label={form.kind === "percent" ? "Percent, such as −5" : "Amount, unscaled"}>
          <input
            className="field"
            inputMode="decimal"
            value={form.value}
            onChange={(event) => set({ value: event.target.value })}
          />
        </Field>
        <div className="col-span-2">
          <Field label="The reason">
            <input
              className="field"
              value={form.reason}
              maxLength={300}
              placeholder="The charter contract is signed"
              onChange={(event) => set({ reason: event.target.value })}
            />
          </Field>
        </div>
        <div>
          <Button kind="main" type="submit" isDisabled={!isReady}>
            Adjust version
          </Button>
        </div>
      </form>
      {problem !== null && (
        <p role="alert" className="mt-2 text-madder">
          {problem}
        </p>
      )}
    </>
  );
}

/** What was changed by hand, each with its reason and the way back. */
export function Adjustments({
  version: { key, adjustments, isOpen },
  mayEdit,
}: {
  version: Version;
  mayEdit: boolean;
}) {
  const { problem, run } = useVersionCall(() => undefined);
  if (adjustments.length === 0) return null;
  return (
    <section aria-label="Adjustments" className="mt-1 text-[13px]">
      <h3 className="text-slate">Adjusted by hand</h3>
      <ul>
        {adjustments.map(({ id, words, reason, by, at }) => (
          <li key={id}>
            {words}.{" "}
            <span className="text-slate">
              “{reason}”, {by}, {dateTimeWords(at)}.{" "}
            </span>
            {mayEdit && isOpen && (
              <TextButton
                onClick={() =>
                  void run(() => call(VERSIONS.takeBackAdjustment, { params: { version: key, adjustment: id } }))
                }
              >
                Take back
              </TextButton>
            )}
          </li>
        ))}
      </ul>
      {problem !== null && (
        <p role="alert" className="text-madder">
          {problem}
        </p>
      )}
    </section>
  );
}

/** "2026-11" of "2026-10". */
function monthAfter(month: string): string {
  const [year = 0, of = 0] = month.split("-").map(Number);
  return of === 12 ? `${year + 1}-01` : `${year}-${String(of + 1).padStart(2, "0")}`;
}

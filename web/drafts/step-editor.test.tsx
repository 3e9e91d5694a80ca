import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { definitionSchema } from "#contract/intake.ts";
import type { TableSource } from "./look-up-settings.tsx";
import { StepEditor } from "./step-editor.tsx";
import { newStep, stepKind, TIDY_KINDS, type TidyKind, type TidyStep } from "#core/tidy/steps/index.ts";

const COLUMNS = ["Account", "Amount", "Note"];
const FILE = {
  id: 1,
  sheets: [],
  tables: [{ key: "names", name: "Names", columns: ["Account", "Name", "Class"], rows: 2 }],
  definition: { reading: { sheet: null } },
} as unknown as TableSource;
const edit = (kind: TidyKind, change: Partial<TidyStep> = {}) => {
  const onSave = vi.fn<(step: TidyStep) => void>();
  const onCancel = vi.fn();
  render(
    <StepEditor
      step={{ ...newStep(kind, { first: "Account", thisYear: 2026 }), ...change } as TidyStep}
      columns={COLUMNS}
      draft={FILE}
      {...{ onSave, onCancel }}
    />,
  );
  const user = userEvent.setup();
  return {
    user,
    onCancel,
    saved: async () => {
      await user.click(screen.getByRole("button", { name: "Use this step" }));
      return onSave.mock.lastCall?.[0];
    },
  };
};
const fill = async (user: ReturnType<typeof userEvent.setup>, label: string, text: string) => {
  const field = screen.getByLabelText(label);
  await user.clear(field);
  if (text) await user.type(field, text);
};

/** There is nothing to choose about these. */
const WITHOUT_SETTINGS: readonly TidyKind[] = ["skip-notes", "drop-doubles"];

describe("a tidy step being set up", () => {
  it.each(TIDY_KINDS.map((kind) => [kind, stepKind(kind).name] as const))(
    "of the kind %s has its name and settings, and is handed on as it began when nothing is changed",
    async (kind, name) => {
      const { saved } = edit(kind);
      expect(screen.getByRole("form", { name })).toBeTruthy();
      const form = within(screen.getByRole("form", { name }));
      const controls = (["checkbox", "textbox", "combobox"] as const).flatMap((role) => form.queryAllByRole(role));
      expect(controls.length > 0).toBe(!WITHOUT_SETTINGS.includes(kind));
      expect(await saved()).toEqual(newStep(kind, { first: "Account", thisYear: 2026 }));
    },
  );
  it("is left as it was when it is cancelled", async () => {
    const { user, onCancel } = edit("trim");
    await user.click(screen.getByRole("checkbox", { name: "Note" }));
    await user.click(screen.getByRole("button", { name: "Cancel" }));
    expect(onCancel).toHaveBeenCalledOnce();
  });
  it("takes columns in the order of the file, all, or none", async () => {
    const { user, saved } = edit("fill-down");
    await user.click(screen.getByRole("checkbox", { name: "Note" }));
    await user.click(screen.getByRole("checkbox", { name: "Account" }));
    expect(await saved()).toEqual({ kind: "fill-down", columns: ["Account", "Note"] });
    await user.click(screen.getByRole("button", { name: "all" }));
    expect(await saved()).toEqual({ kind: "fill-down", columns: COLUMNS });
    await user.click(screen.getByRole("button", { name: "none" }));
    expect(await saved()).toEqual({ kind: "fill-down", columns: [] });
  });
  it("shows a column that the file no longer has, so that it can be taken out", async () => {
    const { user, saved } = edit("trim", { columns: ["Gone"] });
    expect(screen.getByText("not there")).toBeTruthy();
    await user.click(screen.getByRole("checkbox", { name: /Gone/ }));
    expect(await saved()).toEqual({ kind: "trim", columns: [] });
  });
  it("keeps rows by a test, and asks for texts only where the test has some", async () => {
    const { user, saved } = edit("filter");
    await user.selectOptions(screen.getByLabelText("Column"), "Note");
    await user.selectOptions(screen.getByLabelText("Test"), "begins with");
    await user.selectOptions(screen.getByLabelText("Keep or drop"), "keep");
    await fill(user, "Texts, separated by commas", "a, b");
    expect(await saved()).toEqual({
      kind: "filter",
      column: "Note",
      test: "begins with",
      keep: true,
      values: ["a", "b"],
    });
    await user.selectOptions(screen.getByLabelText("Test"), "is empty");
    expect(screen.queryByLabelText("Texts, separated by commas")).toBeNull();
  });
  it("flips signs in all rows or in those with a text", async () => {
    const { user, saved } = edit("flip-sign", { columns: ["Amount"] });
    expect(screen.queryByLabelText("Texts, separated by commas")).toBeNull();
    await user.selectOptions(screen.getByLabelText("Which rows"), "Account");
    await fill(user, "Texts, separated by commas", "Fuel");
    expect(await saved()).toMatchObject({ where: { column: "Account", values: ["Fuel"] } });
    await user.selectOptions(screen.getByLabelText("Which rows"), "all rows");
    expect(await saved()).toMatchObject({ where: null });
  });
  it("keeps spaces where they count", async () => {
    const { user, saved } = edit("split", { column: "Note" });
    await fill(user, "Separator", " - ");
    await fill(user, "New columns, separated by commas", "Ship, Port");
    expect(await saved()).toMatchObject({ at: " - ", into: ["Ship", "Port"] });
  });
  it.each([
    ["3", 3],
    ["99", 9],
    ["-2", 0],
    ["much", 0],
    ["1.9", 1],
  ])("rounds to whole decimals between 0 and 9: %s is %d", async (text, decimals) => {
    const { user, saved } = edit("to-decimal");
    await fill(user, "Decimals", text);
    expect(await saved()).toMatchObject({ decimals });
  });
  it("makes of every kind what the contract takes", () => {
    for (const kind of TIDY_KINDS) {
      const rules = { steps: [newStep(kind, { first: "Account", thisYear: 2026 })] };
      const read = definitionSchema.safeParse({ rules });
      const faults = read.error?.issues.filter((issue) => issue.path.join(".").startsWith("rules.steps")) ?? [];
      expect([kind, faults]).toEqual([kind, []]);
    }
  });
  it("looks up in a table what it names, and takes its other columns under names of their own", async () => {
    const { user, saved } = edit("look-up");
    await user.selectOptions(screen.getByLabelText("Look up in"), "names");
    await user.click(screen.getByRole("checkbox", { name: "Class" }));
    expect(await saved()).toEqual({
      kind: "look-up",
      table: "names",
      named: "Names",
      column: "Account",
      by: "Account",
      take: [{ column: "Name", into: "Name" }],
    });
  });
  it("says what is wrong with a formula, and what columns are called in it", async () => {
    const { user, saved } = edit("compute");
    await fill(user, "Formula, such as quantity * unit_price", "amout * 2");
    await user.tab();
    expect(screen.getByText(/Do you mean amount\?/)).toBeTruthy();
    await fill(user, "Formula, such as quantity * unit_price", "2 *");
    await user.tab();
    await user.click(screen.getByRole("button", { name: "amount" }));
    expect(await saved()).toMatchObject({ formula: "2 * amount", decimals: 2 });
  });
});

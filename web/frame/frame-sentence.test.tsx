import { screen, within, type queries } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { renderPage } from "#testing/render-page.tsx";
import type { FrameAddress } from "#contract/frame-address.ts";
import { FrameSentence } from "./frame-sentence.tsx";

const member = (key: string, parent: string | null = null) => ({ key, name: key.toUpperCase(), parent });
const month = (key: string, fiscalYear: string) => ({
  month: key,
  name: key,
  fiscalYear,
  isClosed: true,
  note: null,
});
const STRUCTURE: FrameChoices = {
  frame: {
    asOf: "2026-10",
    span: "year-to-date",
    basis: "budget",
    basisCode: "budget",
    scope: {},
    unit: "thousand",
    words: {
      asOf: "October FY27",
      span: "year to date",
      spanMonths: "April–October FY27",
      isOpen: false,
      shown: "Actual",
      basis: "Budget",
      scope: "all routes",
    },
  },
  lastClosed: "2026-10",
  asOfChoices: [month("2026-10", "FY27"), month("2026-04", "FY27"), month("2026-03", "FY26")],
  spans: [
    { key: "month", name: "month", months: "October FY27" },
    { key: "year-to-date", name: "year to date", months: "April–October FY27" },
  ],
  shown: [{ key: "actual", name: "Actual", note: "" }],
  outlooks: [{ key: "latest", name: "Forecast 6+6", note: "" }],
  bases: [
    { key: "budget", name: "Budget", note: "Budget FY27" },
    { key: "prior-year", name: "Prior year", note: "April–October FY26" },
  ],
  dimensions: [
    {
      key: "route",
      name: "Route",
      plural: "routes",
      levels: ["Area", "Route"],
      members: [member("north"), member("osk", "north"), member("south")],
    },
    { key: "vessel", name: "Vessel", plural: "vessels", levels: ["Vessel"], members: [member("gannet")] },
  ],
  kpis: [],
  foot: "",
  confinedTo: null,
};

/** The sentence with a page around it that keeps what is chosen, as the address does. */
function Sentence({ start, told }: { start: FrameAddress; told: FrameAddress[] }) {
  const [frame, setFrame] = useState(start);
  return (
    <FrameSentence
      structure={STRUCTURE}
      frame={frame}
      setFrame={(change) => {
        told.push(change);
        setFrame({ ...frame, ...change });
      }}
    />
  );
}
const show = (start: FrameAddress = {}) => {
  const told: FrameAddress[] = [];
  return { ...renderPage(<Sentence start={start} told={told} />), told };
};

describe("the frame as a sentence", () => {
  it("reads as one, with each word a choice", async () => {
    show();
    const group = await screen.findByRole("group", { name: "Frame" });
    expect(group.textContent).toBe("October FY27, year to date, against Budget, for all routes, in € thousand");
    expect(
      within(group)
        .getAllByRole("button")
        .map((word) => word.getAttribute("aria-label")),
    ).toEqual([
      "As-of period: October FY27",
      "Span: year to date",
      "Basis: Budget",
      "Scope: all routes",
      "Unit: € thousand",
    ]);
  });

  it.each([
    ["As-of period", "2026-03", { asOf: "2026-03" }],
    ["Span", /^month/, { span: "month" }],
    ["Basis", /Prior year/, { basis: "prior-year" }],
    ["Unit", "€ million", { unit: "million" }],
  ] as const)("changes %s and nothing else", async (label, name, change) => {
    const page = show({ scope: "route:north" });
    await page.user.click(await screen.findByRole("button", { name: new RegExp(`^${label}:`) }));
    await page.user.click(await screen.findByRole("menuitemradio", { name }));
    expect(page.told).toEqual([change]);
  });

  it("says what each choice would be, and heads months by their fiscal year", async () => {
    const page = show();
    await page.user.click(await screen.findByRole("button", { name: /^Basis/ }));
    expect((await screen.findByRole("menuitemradio", { name: /Prior year/ })).textContent).toContain(
      "April–October FY26",
    );
    expect(screen.getByRole("menuitemradio", { name: /Budget/ }).getAttribute("aria-checked")).toBe("true");
    await page.user.keyboard("{Escape}");
    await page.user.click(await screen.findByRole("button", { name: /^As-of/ }));
    const menu = await screen.findByRole("menu");
    expect(menu.textContent.replaceAll("•", "")).toBe("FY272026-102026-04FY262026-03");
  });
});

describe("the scope", () => {
  const open = async (start: FrameAddress = {}) => {
    const page = show(start);
    await page.user.click(await screen.findByRole("button", { name: "Scope: all routes" }));
    return { ...page, panel: within(await screen.findByRole("dialog", { name: "Scope" })) };
  };
  const isTicked = (panel: ReturnType<typeof within<typeof queries>>, name: string) =>
    panel.getByRole<HTMLInputElement>("checkbox", { name }).checked;

  it("takes members in and out, and is everything again when the last is out", async () => {
    const { user, told, panel } = await open();
    expect(isTicked(panel, "All routes")).toBe(true);
    await user.click(panel.getByRole("checkbox", { name: "OSK" }));
    await user.click(panel.getByRole("checkbox", { name: "SOUTH" }));
    expect([isTicked(panel, "All routes"), isTicked(panel, "OSK"), isTicked(panel, "SOUTH")]).toEqual([
      false,
      true,
      true,
    ]);
    await user.click(panel.getByRole("checkbox", { name: "OSK" }));
    await user.click(panel.getByRole("checkbox", { name: "SOUTH" }));
    expect(isTicked(panel, "All routes")).toBe(true);
    expect(told).toEqual(["route:osk", "route:osk,south", "route:south", ""].map((scope) => ({ scope })));
  });

  it("keeps what other dimensions are narrowed to, and counts it beside their names", async () => {
    const { user, told, panel } = await open({ scope: "vessel:gannet" });
    expect(panel.getByRole("tab", { selected: true }).textContent).toBe("Vessel1");
    await user.click(panel.getByRole("tab", { name: "Route" }));
    await user.click(panel.getByRole("checkbox", { name: "NORTH" }));
    expect(told.at(-1)).toEqual({ scope: "route:north;vessel:gannet" });
    await user.click(panel.getByRole("tab", { name: /Vessel/ }));
    await user.click(panel.getByRole("checkbox", { name: "All vessels" }));
    expect(told.at(-1)).toEqual({ scope: "route:north" });
  });
});

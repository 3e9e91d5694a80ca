import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { expect, it } from "vitest";
import { dyeKey } from "./dyes.ts";
import { DyeMark, PageDyesProvider, useDyes, type ChosenDyes } from "./page-dyes.tsx";

const NORTH = dyeKey({ dimension: "region", member: "north" });

/** Two charts of one page that show the same member, one of them at another place among its like. */
function Page({ mayArrange, start }: { mayArrange: boolean; start?: ChosenDyes }) {
  const [chosen, setChosen] = useState<ChosenDyes | undefined>(start);
  return (
    <PageDyesProvider chosen={chosen} {...(mayArrange ? { onChange: setChosen } : {})}>
      <DyeMark of={NORTH} at={0} name="North" />
      <Bar at={1} />
      <output>{JSON.stringify(chosen ?? null)}</output>
    </PageDyesProvider>
  );
}
function Bar({ at }: { at: number }) {
  const colourOf = useDyes();
  return <i data-testid="bar" data-colour={colourOf(NORTH, at)} data-rest={colourOf(null, null)} />;
}
const colour = () => screen.getByTestId("bar").dataset["colour"];

it("gives a member the colour that the page has for it on every chart, and takes it back", async () => {
  const user = userEvent.setup();
  render(<Page mayArrange />);
  expect(colour()).toBe("var(--dye-2)");
  await user.click(screen.getByRole("button", { name: "Colour of North" }));
  await user.click(screen.getByRole("button", { name: "plum" }));
  expect(colour()).toBe("var(--dye-3)");
  expect(screen.getByRole("status").textContent).toBe('{"region/north":2}');
  await user.click(screen.getByRole("button", { name: "Colour of North" }));
  expect(screen.getByRole("button", { name: "plum", pressed: true })).toBeTruthy();
  await user.click(screen.getByRole("button", { name: "as the palette has it" }));
  expect(screen.getByRole("status").textContent).toBe("null");
});

it("shows readers the colour, and no way to change it; what is gathered has none", () => {
  render(<Page mayArrange={false} start={{ [NORTH]: 5 }} />);
  expect(colour()).toBe("var(--dye-6)");
  expect(screen.getByTestId("bar").dataset["rest"]).toBe("var(--thread)");
  expect(screen.queryByRole("button")).toBeNull();
});

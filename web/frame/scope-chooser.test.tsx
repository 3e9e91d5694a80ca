import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { ScopeChooser } from "./scope-chooser.tsx";

afterEach(cleanup);

const choicesOf = (count: number) =>
  ({
    dimensions: [
      {
        key: "customer",
        name: "Customer",
        plural: "customers",
        levels: ["Customer"],
        members: Array.from({ length: count }, (_, i) => ({
          key: `c-${i + 1}`,
          name: `Customer ${i + 1}`,
          parent: null,
        })),
      },
    ],
  }) as unknown as FrameChoices;

it("finds one of many members by a part of its name, and keeps what is chosen in sight", () => {
  const onChoose = vi.fn();
  render(<ScopeChooser structure={choicesOf(2400)} chosen="customer:c-2399" onChoose={onChoose} />);
  expect(screen.getAllByRole("checkbox")).toHaveLength(1 + 200 + 1);
  expect(screen.getByText("2,199 more: type a part of a name to find them.")).toBeTruthy();
  fireEvent.change(screen.getByRole("searchbox", { name: "Find a customer" }), { target: { value: "er 1234" } });
  fireEvent.click(screen.getByRole("checkbox", { name: "Customer 1234" }));
  expect(onChoose).toHaveBeenCalledWith("customer:c-1234,c-2399");
  fireEvent.change(screen.getByRole("searchbox"), { target: { value: "nobody" } });
  expect(screen.getByText("No match.")).toBeTruthy();
});

it("lists few members without a search", () => {
  render(<ScopeChooser structure={choicesOf(9)} chosen="" onChoose={() => {}} />);
  expect(screen.queryByRole("searchbox")).toBeNull();
  expect(screen.getAllByRole("checkbox")).toHaveLength(10);
});

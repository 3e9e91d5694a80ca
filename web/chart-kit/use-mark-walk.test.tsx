import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { useMarkWalk } from "./use-mark-walk.ts";

function Chart({ count, start, onTable }: { count: number; start: number; onTable: () => void }) {
  const { active, look, leave, keys } = useMarkWalk(count, start, { onTable });
  return (
    <>
      <button type="button" {...keys}>
        {active === null ? "none" : active}
      </button>
      <button type="button" onClick={() => look(2)} onDoubleClick={leave}>
        third
      </button>
    </>
  );
}
function Grid() {
  const { active, keys } = useMarkWalk(6, 0, { onTable: () => {}, perRow: 3 });
  return (
    <button type="button" {...keys}>
      {active ?? "none"}
    </button>
  );
}
const press = (...keys: string[]) => {
  for (const key of keys) fireEvent.keyDown(screen.getAllByRole("button")[0]!, { key });
  return screen.getAllByRole("button")[0]!.textContent;
};

describe("walking along the marks of a chart", () => {
  it("begins at the as-of month, goes by one, and stops at the ends", () => {
    render(<Chart count={5} start={3} onTable={vi.fn()} />);
    expect(press("ArrowRight", "ArrowRight", "ArrowRight")).toBe("4");
    expect(press("Home")).toBe("0");
    expect(press("ArrowLeft")).toBe("0");
    expect(press("End", "ArrowLeft")).toBe("3");
    expect(press("Escape")).toBe("none");
    expect(press("x")).toBe("none");
  });
  it("shows where it begins when the chart is reached, and nothing once it is left", () => {
    render(<Chart count={5} start={3} onTable={vi.fn()} />);
    const chart = screen.getAllByRole("button")[0]!;
    fireEvent.focus(chart);
    expect(chart.textContent).toBe("3");
    fireEvent.click(screen.getByText("third"));
    expect(chart.textContent).toBe("2");
    fireEvent.blur(chart);
    expect(chart.textContent).toBe("none");
  });
  it("walks rows of marks up and down, and stays inside", () => {
    render(<Grid />);
    expect(press("ArrowDown")).toBe("3");
    expect(press("ArrowDown")).toBe("3");
    expect(press("ArrowRight", "ArrowUp")).toBe("1");
    expect(press("ArrowUp")).toBe("1");
  });
  it("leaves Escape to the page once none is looked at", () => {
    render(<Chart count={5} start={3} onTable={vi.fn()} />);
    const chart = screen.getAllByRole("button")[0]!;
    press("ArrowLeft");
    // An event whose default is prevented answers false.
    expect(fireEvent.keyDown(chart, { key: "Escape" })).toBe(false);
    expect(fireEvent.keyDown(chart, { key: "Escape" })).toBe(true);
  });
  it("leads to the table of numbers", () => {
    const onTable = vi.fn();
    render(<Chart count={5} start={3} onTable={onTable} />);
    press("t");
    expect(onTable).toHaveBeenCalledOnce();
  });
});

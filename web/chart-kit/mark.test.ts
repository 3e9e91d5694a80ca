import type { MouseEvent } from "react";
import { describe, expect, it, vi } from "vitest";
import { enterMark, markHandlers } from "./mark.ts";

const member = { dimension: "route", member: "north", name: "North" };
const source = { figure: "revenue/actual", scope: "route:north" };
const press = (keys: Partial<MouseEvent> = {}) =>
  ({ detail: 1, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...keys }) as MouseEvent;
const plain = { adds: false, otherWay: false };

describe("a mark", () => {
  it("narrows by its member: added with Ctrl, the other way with Alt; with Shift its figure is asked for", () => {
    const [pick, ask] = [vi.fn(), vi.fn()];
    const { onClick } = markHandlers({ pick, ask }, { member, source });
    onClick!(press());
    onClick!(press({ ctrlKey: true }));
    onClick!(press({ altKey: true }));
    expect(pick.mock.calls).toEqual([
      [member, plain],
      [member, { adds: true, otherWay: false }],
      [member, { adds: false, otherWay: true }],
    ]);
    expect(ask).not.toHaveBeenCalled();
    onClick!(press({ shiftKey: true }));
    expect(ask.mock.calls).toEqual([["revenue/actual", "route:north"]]);
    expect(pick).toHaveBeenCalledTimes(3);
  });

  it("opens on a double click, of which the first click is taken back and the second picks nothing", () => {
    const [pick, ask, open] = [vi.fn(), vi.fn(), vi.fn()];
    const { onClick, onDoubleClick } = markHandlers({ pick, ask }, { member, open, source });
    onClick!(press());
    onClick!(press({ detail: 2 }));
    onDoubleClick!(press({ detail: 2 }));
    expect(pick).toHaveBeenCalledTimes(2);
    expect(open).toHaveBeenCalledTimes(1);
  });

  it("of no member opens, or else asks; of a panel that stands apart it asks", () => {
    const [ask, open] = [vi.fn(), vi.fn()];
    markHandlers({ pick: vi.fn(), ask }, { open, source }).onClick!(press());
    expect([open.mock.calls.length, ask.mock.calls.length]).toEqual([1, 0]);
    markHandlers({ pick: vi.fn(), ask }, { source }).onClick!(press());
    markHandlers({ pick: undefined, ask }, { member, source }).onClick!(press());
    expect(ask).toHaveBeenCalledTimes(2);
    expect(markHandlers({ pick: vi.fn(), ask }, {})).toEqual({});
  });

  it("does with Enter what a click does", () => {
    const [pick, ask] = [vi.fn(), vi.fn()];
    enterMark({ pick, ask }, { member, source }, press());
    expect(pick.mock.calls).toEqual([[member, plain]]);
    enterMark({ pick, ask }, { member, source }, press({ shiftKey: true }));
    enterMark({ pick, ask }, { source }, press());
    enterMark({ pick: undefined, ask }, { member, source }, press());
    expect(ask).toHaveBeenCalledTimes(3);
  });
});

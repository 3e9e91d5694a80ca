import { act, render, screen } from "@testing-library/react";
import { useEffect } from "react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { describe, expect, it } from "vitest";
import { useFrameParams, type FrameParams } from "./frame-params.ts";

let params: FrameParams;
function Probe() {
  const own = useFrameParams();
  useEffect(() => {
    params = own;
  });
  return <p>{JSON.stringify(own.picked)}</p>;
}

const open = (search: string) => {
  const router = createMemoryRouter([{ path: "/", element: <Probe /> }], { initialEntries: [`/${search}`] });
  render(<RouterProvider router={router} />);
  return router;
};
const toggle = (member: string) =>
  params.setPicked(({ narrow }) => ({ narrow: narrow === `route:${member}` ? "" : `route:${member}` }));

describe("changes of the address within one moment", () => {
  it("all hold, each standing on the one before, though nothing was drawn between", async () => {
    const router = open("?span=month&weigh=route:a");
    await act(async () => {
      params.setPicked(() => ({ weigh: undefined }));
      toggle("b");
      toggle("b");
      params.setChoice("areas", { below: "b" });
    });
    expect(router.state.location.search).toBe("?span=month&areas.below=b");
  });
  it("start from where Back returned to", async () => {
    const router = open("");
    await act(async () => toggle("b"));
    expect(screen.getByText(/route:b/)).toBeTruthy();
    await act(() => router.navigate(-1));
    await act(async () => toggle("c"));
    expect(router.state.location.search).toBe("?narrow=route%3Ac");
  });
});

import { useQuery } from "@tanstack/react-query";
import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ApiProblem } from "../client/api.ts";
import { renderPage } from "#testing/render-page.tsx";
import { AnswerSheet } from "./answer-sheet.tsx";

/** A panel over a question that is answered, refused, or never answered. */
function Sheet({ ask }: { ask: () => Promise<string> }) {
  const answer = useQuery({ queryKey: ["figures"], queryFn: ask });
  return (
    <>
      <button type="button" onClick={() => void answer.refetch()}>
        Again
      </button>
      <AnswerSheet label="Figures" answer={answer} skeleton={<p>Calculating</p>}>
        {(data) => <p>{data}</p>}
      </AnswerSheet>
    </>
  );
}
const region = () => screen.getByRole("region", { name: "Figures" });

describe("a panel's sheet", () => {
  it("shows that it waits, then what came", async () => {
    let answer = (_: string) => {};
    renderPage(<Sheet ask={() => new Promise((resolve) => (answer = resolve))} />);
    expect(region().textContent).toBe("Calculating");
    expect(region().getAttribute("aria-busy")).toBe("true");
    answer("42");
    expect(await screen.findByText("42")).toBeTruthy();
    expect(region().getAttribute("aria-busy")).toBe("false");
  });
  it("keeps the last figures when a later answer fails, and says that they are the last", async () => {
    let isAway = false;
    const { user } = renderPage(
      <Sheet
        ask={() =>
          isAway ? Promise.reject(new ApiProblem("database-unavailable", "It is away.")) : Promise.resolve("42")
        }
      />,
    );
    await screen.findByText("42");
    isAway = true;
    await user.click(screen.getByRole("button", { name: "Again" }));
    expect((await screen.findByRole("alert")).textContent).toBe(
      "It is away. The figures below are the last ones received.",
    );
    expect(screen.getByText("42")).toBeTruthy();
  });
  it("says why nothing can be shown: a refusal is not called a passing trouble", async () => {
    renderPage(<Sheet ask={() => Promise.reject(new ApiProblem("unknown-basis", 'Is "budget" meant?'))} />);
    expect(await screen.findByText("These figures cannot be shown")).toBeTruthy();
    expect(screen.getByText('Is "budget" meant?')).toBeTruthy();
  });
});

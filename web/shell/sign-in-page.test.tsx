import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { Refusal, renderPage } from "#testing/render-page.tsx";
import { SignInPage } from "./sign-in-page.tsx";

const MAREN = {
  email: "maren@x.example",
  name: "Maren Holt",
  title: "Analyst",
  role: "analyst" as const,
  opens: null,
  palette: "linen" as const,
  company: {
    name: "Quillhaven Ferries",
    isSample: true,
    currency: "EUR",
    numbers: "1,234.5" as const,
    dates: "30 November 2026" as const,
  },
  numbers: null,
  dates: null,
  mustChoosePassword: false,
};

describe("sign-in", () => {
  it("takes one click as a person of the sample company, and leads back to where the reader was", async () => {
    const page = renderPage(<SignInPage />, {
      at: "/sign-in?return=%2Fpacks%2Fa%2Fb%3Fspan%3Dmonth",
      path: "/sign-in",
      answers: { samplePeople: [{ ...MAREN, sees: "everything" }], signInSample: MAREN },
    });
    await page.user.click(await screen.findByRole("button", { name: /Maren Holt.*sees everything/ }));
    expect(page.asked.find(({ id }) => id === "signInSample")?.body).toEqual({ email: MAREN.email });
    expect(page.address()).toBe("/packs/a/b?span=month");
  });
  it("leads to no other site", async () => {
    const page = renderPage(<SignInPage />, {
      at: "/sign-in?return=%2F%2Felsewhere.example",
      path: "/sign-in",
      answers: { samplePeople: [{ ...MAREN, sees: "everything" }], signInSample: MAREN },
    });
    await page.user.click(await screen.findByRole("button", { name: /Maren Holt/ }));
    expect(page.address()).toBe("/");
  });
  it("asks for e-mail and password where one click is switched off, and says when they do not fit", async () => {
    const page = renderPage(<SignInPage />, {
      at: "/sign-in",
      path: "/sign-in",
      answers: {
        samplePeople: [],
        signIn: ({ body }) =>
          (body as { password: string }).password === "right"
            ? MAREN
            : new Refusal({ code: "wrong-password", detail: "Wrong e-mail address or password." }),
      },
    });
    expect(await screen.findByRole("heading", { name: "Sign in" })).toBeTruthy();
    expect(screen.queryByText("Continue as")).toBeNull();
    await page.user.type(screen.getByLabelText("E-mail"), MAREN.email);
    await page.user.type(screen.getByLabelText("Password"), "wrong");
    await page.user.click(screen.getByRole("button", { name: "Sign in" }));
    expect((await screen.findByRole("alert")).textContent).toBe("Wrong e-mail address or password.");
    await page.user.clear(screen.getByLabelText("Password"));
    await page.user.type(screen.getByLabelText("Password"), "right");
    await page.user.click(screen.getByRole("button", { name: "Sign in" }));
    expect(page.address()).toBe("/");
  });
});

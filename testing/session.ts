import type { Session } from "#contract/session.ts";

/** Somebody of the sample company who is signed in, for tests of pages. */
export function sessionOf(role: Session["role"] = "analyst"): Session {
  return {
    email: "m@x.example",
    name: "Maren",
    title: "",
    role,
    opens: null,
    palette: "linen",
    company: {
      name: "Quillhaven Ferries",
      isSample: true,
      currency: "EUR",
      numbers: "1,234.5",
      dates: "30 November 2026",
    },
    numbers: null,
    dates: null,
    mustChoosePassword: false,
  };
}

import { randomUUID } from "node:crypto";
import type { CompanyStart } from "#contract/companies.ts";
import type { ApiClient } from "./api.ts";

/** Starts a company of one's own, empty, and signs in as its administrator. */
export async function startCompany(api: ApiClient, change: Partial<CompanyStart> = {}): Promise<void> {
  const { status, body } = await api.send("POST", "/api/companies", {
    name: `Stranger ${randomUUID().slice(0, 8)}`,
    currency: "EUR",
    startMonth: 1,
    administrator: { name: "Ida Moor", email: "ida@stranger.example", password: "a long password" },
    ...change,
  } satisfies CompanyStart);
  if (status !== 200) throw new Error(JSON.stringify(body));
}

import { SAMPLE_COMPANY, type RegisteredCompany } from "#server/companies/registry.ts";

/** The cookie that names the company a browser has entered. */
export const COMPANY_COOKIE = "hackle_company";

/** The cookie that holds a company's session: each has its own, so that one can be left and come back to. */
export function sessionCookie({ key }: Pick<RegisteredCompany, "key">): string {
  return key === SAMPLE_COMPANY.key ? "hackle_session" : `hackle_session_${key}`;
}

/** How tokens for other programs begin, so that they are known for ones, and for those of their company. */
export function tokenPrefix({ key }: Pick<RegisteredCompany, "key">): string {
  return key === SAMPLE_COMPANY.key ? "hackle_" : `hackle_${key}.`;
}

/** The company that a token is of. */
export function spaceOfToken(token: string): string {
  return /^hackle_([a-z][a-z0-9-]*)\./.exec(token)?.[1] ?? SAMPLE_COMPANY.key;
}

import type { Page, Request, Route } from "@playwright/test";

/** So long nothing further was asked for: a round is whole. */
const QUIET_MS = 1000;

/**
 * Opens an address with nothing cached, answers held back until everything that can be asked for has been: each time
 * they are let go is a round trip that a distant reader waits for, whatever this machine's pace.
 */
export async function openInRounds(
  page: Page,
  address: string,
  isReadable: () => Promise<boolean>,
): Promise<{ readonly requests: string[]; readonly rounds: number }> {
  let held: Route[] = [];
  let lastAsked = Date.now();
  const requests: string[] = [];
  let isIdle = false;
  const hold = (route: Route, request: Request) => {
    const { pathname, search } = new URL(request.url());
    // From here on it is other views' code that is fetched, while nobody waits for anything.
    isIdle ||= pathname === "/pieces.json";
    if (isIdle) return route.continue();
    requests.push(pathname + search);
    held.push(route);
    lastAsked = Date.now();
    return undefined;
  };
  await page.route("**/*", hold);
  const opened = page.goto(address, { waitUntil: "commit" });
  let rounds = 0;
  for (;;) {
    await page.waitForTimeout(50);
    if (rounds > 0 && held.length === 0 && (await isReadable())) break;
    if (held.length === 0 || Date.now() - lastAsked < QUIET_MS) continue;
    const released = held;
    held = [];
    // The font of a rare letter may follow: the text can be read without it.
    if (released.some((route) => route.request().resourceType() !== "font")) rounds += 1;
    await Promise.all(released.map((route) => route.continue()));
  }
  await opened;
  await page.unroute("**/*", hold);
  return { requests, rounds };
}

/** What is opened from any view, or stands on many: other code is fetched when it is needed. */
const LIKELY = /-page\.tsx$|\/panel\.tsx$/;
/** So long after the first view the browser is left to it. */
const REST_MS = 2000;

/**
 * Has the browser fetch the code of other views while nobody waits for anything, so that they open at once. `isBusy`
 * says whether answers are on their way.
 */
export function fetchCodeWhenIdle(isBusy: () => boolean): void {
  const { connection } = navigator as { connection?: { saveData?: boolean } };
  if (connection?.saveData === true) return;
  setTimeout(() => {
    if (isBusy()) fetchCodeWhenIdle(isBusy);
    else if ("requestIdleCallback" in window) requestIdleCallback(() => void fetchCode());
    else void fetchCode();
  }, REST_MS);
}

async function fetchCode(): Promise<void> {
  const answer = await fetch("/pieces.json").catch(() => undefined);
  if (!answer?.ok) return;
  const { pieces } = (await answer.json()) as { pieces: Readonly<Record<string, readonly string[]>> };
  const here = new Set(performance.getEntriesByType("resource").map(({ name }) => new URL(name).pathname));
  const likely = Object.keys(pieces).filter((code) => LIKELY.test(code));
  for (const file of new Set(likely.flatMap((code) => pieces[code] ?? [])))
    if (!here.has(`/${file}`))
      document.head.append(Object.assign(document.createElement("link"), prefetchOf(`/${file}`)));
}

function prefetchOf(href: string): Partial<HTMLLinkElement> {
  return { rel: "prefetch", as: "script", crossOrigin: "anonymous", href };
}

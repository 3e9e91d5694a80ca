import { operationPath } from "#contract/operation-path.ts";
import { choiceName, pageLineSchema, type PageLine } from "#contract/page-answers.ts";
import type { PanelAnswer } from "#contract/panels/index.ts";
import { ApiProblem, fetchAnswer, problemFrom } from "./api.ts";

/** One panel's figures, as a panel asks for them. */
export interface PanelRequest {
  readonly place: { readonly pack: string; readonly page: string; readonly panel: string };
  readonly frame: Readonly<Record<string, string | undefined>>;
  readonly choice: Readonly<Record<string, string | undefined>>;
  readonly signal: AbortSignal;
}

interface Waiting extends PanelRequest {
  readonly resolve: (answer: PanelAnswer) => void;
  readonly reject: (error: unknown) => void;
}

let waiting: Waiting[] = [];

/**
 * Asks for a panel's figures. Panels of one page that ask in the same breath are asked for in one request, and each
 * is answered as soon as its line comes. The request ends when none of its panels waits any more.
 */
export function askPanel(request: PanelRequest): Promise<PanelAnswer> {
  return new Promise((resolve, reject) => {
    if (waiting.length === 0) queueMicrotask(() => setTimeout(askWaiting));
    waiting.push({ ...request, resolve, reject });
  });
}

function askWaiting(): void {
  const groups = new Map<string, Waiting[]>();
  for (const request of waiting) {
    if (request.signal.aborted) {
      request.reject(request.signal.reason);
      continue;
    }
    const { pack, page, panel } = request.place;
    const key = JSON.stringify([pack, page, request.frame]);
    const group = groups.get(key) ?? [];
    // The same panel with two choices, such as before and after one, is two questions.
    const isTwice = group.some(({ place }) => place.panel === panel);
    groups.set(isTwice ? `${key} ${JSON.stringify(request.choice)}` : key, isTwice ? [request] : [...group, request]);
  }
  waiting = [];
  for (const group of groups.values()) void askGroup(group);
}

async function askGroup(group: readonly Waiting[]): Promise<void> {
  const open = new Map(group.map((request) => [request.place.panel, request]));
  const controller = new AbortController();
  for (const { place, signal, reject } of group)
    signal.addEventListener("abort", () => {
      reject(signal.reason);
      open.delete(place.panel);
      if (open.size === 0) controller.abort();
    });
  try {
    const response = await fetchAnswer(addressOf(group), { signal: controller.signal });
    for await (const line of readLines(response)) {
      const asked = open.get(line.panel);
      open.delete(line.panel);
      if ("answer" in line) asked?.resolve(line.answer);
      else asked?.reject(problemFrom(line.problem));
    }
    throw new ApiProblem(
      "unreachable",
      "The connection broke off before all figures were there. The page tries again by itself.",
    );
  } catch (error) {
    for (const { reject } of open.values()) reject(error);
  }
}

function addressOf(group: readonly Waiting[]): string {
  const { place, frame } = group[0]!;
  const choices = group.flatMap(({ place: { panel }, choice }) =>
    Object.entries(choice).map(([part, value]) => [choiceName(panel, part), value] as const),
  );
  const panels = group.map((request) => request.place.panel).join(",");
  return operationPath("pageAnswers", {
    params: { pack: place.pack, page: place.page },
    query: { ...frame, panels, ...Object.fromEntries(choices) },
  });
}

async function* readLines(response: Response): AsyncGenerator<PageLine> {
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (text + value).split("\n");
    text = lines.pop()!;
    for (const line of lines) yield pageLineSchema.parse(JSON.parse(line));
  }
}

import { FIGURES } from "#contract/operations/figures.ts";
import { readLines } from "./read-lines.ts";
import { operationPath } from "#contract/operations/operation.ts";
import { choiceName, pageLineSchema } from "#contract/page-answers.ts";
import { pageAnswersPath } from "#contract/views.ts";
import type { PanelAnswer } from "#core/panels/schemas.ts";
import { isSame } from "#core/history/records-diff.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { panelFrame } from "#core/panels/panel-frame.ts";
import { ApiProblem, fetchAnswer, problemFrom } from "./api.ts";
import type { FrameAddress } from "#contract/frame-address.ts";
import type { AskedPanel } from "./asked-panel.ts";

/** One panel's figures, as a panel asks for them. */
export interface PanelRequest extends AskedPanel {
  readonly signal: AbortSignal;
  /** Hears of the whole answer, where the first one was without what takes long. */
  readonly onWhole?: (answer: PanelAnswer) => void;
  /** Hears that the whole will not come: the connection broke off before. */
  readonly onLost?: () => void;
}

interface Waiting extends PanelRequest {
  readonly resolve: (answer: PanelAnswer) => void;
  readonly reject: (error: unknown) => void;
}

let waiting: Waiting[] = [];

/**
 * Asks for a panel's figures. Panels of one page that ask in the same breath are asked for in one request, and each
 * is answered as soon as its line comes; one that comes in part at first is told its whole later. The request ends when
 * none of its panels waits any more.
 */
export function askPanel(request: PanelRequest): Promise<PanelAnswer> {
  return new Promise((resolve, reject) => {
    if (waiting.length === 0) queueMicrotask(() => setTimeout(askAtOnce));
    waiting.push({ ...request, resolve, reject });
  });
}

/** Asks for the panels that wait, without waiting for others. */
export function askAtOnce(): void {
  const groups = new Map<string, Waiting[]>();
  for (const request of waiting) {
    if (request.signal.aborted) {
      request.reject(request.signal.reason);
      continue;
    }
    const { pack, page, panel } = request.place;
    const key = JSON.stringify([request.storedAmong, pack, page, togetherFrame(request)]);
    const group = groups.get(key) ?? [];
    // The same panel with two choices, such as before and after one, is two questions.
    const isTwice = group.some(({ place }) => place.panel === panel);
    groups.set(isTwice ? `${key} ${JSON.stringify(request.choice)}` : key, isTwice ? [request] : [...group, request]);
  }
  waiting = [];
  for (const group of groups.values()) void askGroup(group);
}

async function askGroup(group: readonly Waiting[], isNamed = false): Promise<void> {
  const open = new Map(group.map((request) => [request.panel.key, request]));
  const partial = new Set<Waiting>();
  const controller = new AbortController();
  const isAsStood = !isNamed && isWholePage(group);
  for (const { panel, signal, reject } of group)
    signal.addEventListener("abort", () => {
      reject(signal.reason);
      open.delete(panel.key);
      if (open.size === 0) controller.abort();
    });
  try {
    const { signal } = controller;
    const response = await (group[0]!.storedAmong !== null
      ? fetchAnswer(addressOf(group, isNamed), { signal })
      : fetchAnswer(operationPath(FIGURES.tryPanels, {}), { ...postOf(group), signal }));
    for await (const line of readLines(response, pageLineSchema)) {
      const asked = open.get(line.panel);
      if ("answer" in line && line.isPartial) {
        asked?.resolve(line.answer);
        if (asked) partial.add(asked);
        continue;
      }
      open.delete(line.panel);
      if ("answer" in line) {
        asked?.resolve(line.answer);
        // After whoever waited for the first one has taken it.
        if (asked) setTimeout(() => asked.onWhole?.(line.answer));
      } else asked?.reject(problemFrom(line.problem));
    }
    if (open.size === 0) return;
    // The page has other panels by now: asked for by name, each of these is told what became of it.
    if (isAsStood) return void askGroup([...open.values()], true);
    throw new ApiProblem(
      "unreachable",
      "The connection broke off before all figures were there. The page tries again by itself.",
    );
  } catch (error) {
    for (const request of open.values()) {
      request.reject(error);
      if (partial.has(request)) setTimeout(() => request.onLost?.());
    }
  }
}

/** The frame that a panel is asked in with others of its page: the page's, where that leads to the panel's own. */
function togetherFrame({ panel, pageFrame, frame, choice }: PanelRequest): FrameAddress {
  return isSame(panelFrame(panel, pageFrame, choice), frame) ? pageFrame : frame;
}

/** Panels that the server does not have like this are sent along. */
function postOf(group: readonly Waiting[]): RequestInit {
  const [first] = group as [Waiting];
  const frame = { scope: formatScope(first.pageScope), ...togetherFrame(first), pack: first.place.pack };
  const body = { frame, panels: group.map(({ panel, choice }) => ({ panel, choice })) };
  return { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) };
}

function addressOf(group: readonly Waiting[], isNamed: boolean): string {
  const { place } = group[0]!;
  const frame = togetherFrame(group[0]!);
  const choices = group.flatMap(({ place: { panel }, choice }) =>
    Object.entries(choice).map(([part, value]) => [choiceName(panel, part), value] as const),
  );
  const { pack, page } = place;
  if (!isNamed && isWholePage(group)) return pageAnswersPath({ pack, page }, frame);
  const panels = group.map((request) => request.place.panel).join(",");
  return operationPath(FIGURES.pageAnswers, {
    params: { pack, page },
    query: { ...frame, panels, ...Object.fromEntries(choices) },
  });
}

/** Whether a page is asked for as it stands: the browser may have asked so already, with the document. */
function isWholePage(group: readonly Waiting[]): boolean {
  return group.length === group[0]!.storedAmong && group.every(({ choice }) => Object.keys(choice).length === 0);
}

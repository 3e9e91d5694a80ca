import { hasEnded } from "#core/checks/job-state.ts";
import { keepPreviousData, useQueries, useQuery, type QueryClient, type UseQueryResult } from "@tanstack/react-query";
import { getOrCreate } from "#core/keyed.ts";
import type { FrameAddress } from "#contract/frame-address.ts";
import type { OperationAnswer, OperationArguments, OperationId } from "#contract/operation-types.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import {
  answeredChoice,
  type ChoiceOf,
  type DetailOf,
  type PanelAnswer,
  type PanelDefinition,
  type PanelKind,
} from "#contract/panels/index.ts";
import type { ProvenanceSide } from "#contract/provenance.ts";
import type { PanelPlace } from "../panels/panel-place.ts";
import { askAtOnce, askPanel } from "./panel-requests.ts";
import { call, type CallArguments } from "./api.ts";

interface Asking<Id extends OperationId> {
  readonly enabled?: boolean;
  readonly placeholderData?: typeof keepPreviousData;
  readonly refetchInterval?: (query: { state: { data: OperationAnswer<Id> | undefined } }) => number | false;
}

/** The key under which an operation's answer is kept. */
export function answerKey<Id extends OperationId>(id: Id, ...[args]: CallArguments<Id>): readonly unknown[] {
  return args === undefined ? [id] : [id, args];
}

/** How an operation of the API is asked; what is answered is kept under the operation and its arguments. */
export function answerQuery<Id extends OperationId>(id: Id, args: OperationArguments<Id>) {
  const isBare = Object.values(args).every((part) => part === undefined);
  return {
    queryKey: isBare ? [id] : [id, args],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      (call as (...given: unknown[]) => Promise<OperationAnswer<Id>>)(id, args, { signal }),
  };
}

/** Asks an operation of the API. */
function useAnswer<Id extends OperationId>(
  id: Id,
  args: OperationArguments<Id>,
  asking: Asking<Id> = {},
): UseQueryResult<OperationAnswer<Id>> {
  return useQuery({ ...answerQuery(id, args), ...(asking as object) });
}

export const usePerson = () => useAnswer("session", {});
export const useCompanies = () => useAnswer("companies", {});
export const useCompany = () => useAnswer("company", {});
export const usePeople = () => useAnswer("people", {});
export const useSamplePeople = () => useAnswer("samplePeople", {});
export const usePacks = () => useAnswer("packs", {});
export const usePack = (
  pack: string,
  { enabled = true, refetchEvery }: { enabled?: boolean; refetchEvery?: number } = {},
) =>
  useAnswer(
    "pack",
    { params: { pack } },
    { enabled, ...(refetchEvery === undefined ? {} : { refetchInterval: () => refetchEvery }) },
  );
export const usePageHistory = (pack: string, page: string) => useAnswer("pageHistory", { params: { pack, page } });
export const useLoads = () => useAnswer("loads", {});
const JOB_MS = 350;

/** A load; while what follows from it is worked out it is asked again until that is there. */
export const useLoad = (load: number) =>
  useAnswer(
    "load",
    { params: { load } },
    { refetchInterval: ({ state }) => (state.data?.isFollowedUp === false ? JOB_MS : false) },
  );
export const useDifference = (from: number, to: number) =>
  useAnswer("loadDifference", { params: { load: from }, query: { to } });
export const useDrafts = (enabled = true) => useAnswer("drafts", {}, { enabled });

const SCHEDULED_MS = 5000;

/** A draft; while a check or posting goes on it is asked again until that ends. */
export const useDraft = (draft: number) =>
  useAnswer(
    "draft",
    { params: { draft } },
    { refetchInterval: ({ state }) => (state.data?.job && !hasEnded(state.data.job) ? JOB_MS : false) },
  );

export const useIntakes = () => useAnswer("intakes", {});

/** The feeds; while a pull goes on they are asked again until it ends. */
export const useFeeds = () =>
  useAnswer(
    "feeds",
    {},
    {
      refetchInterval: ({ state: { data } }) => {
        if (data?.some((feed) => feed.pulls.some((pull) => pull.state === "running"))) return JOB_MS;
        return data?.some((feed) => feed.schedule !== "never") ? SCHEDULED_MS : false;
      },
    },
  );

export const useExportable = () => useAnswer("exportable", {});
/** The structure as it is edited; only for those who may. */
export const useEditableStructure = () => useAnswer("structure", {});
/** One's own tokens for other programs. */
export const useTokens = () => useAnswer("tokens", {});
/** KPIs whose status the last load changed. */
export const useAlerts = () => useAnswer("alerts", {});
/** The open month, and what is off plan. */
export const useHome = () => useAnswer("home", {});
export const useVersions = () => useAnswer("versions", {});
export const useKpis = () => useAnswer("kpis", {});
export const useKpiHistory = (kpi: string, enabled: boolean) =>
  useAnswer("kpiHistory", { params: { kpi } }, { enabled });
/** The formula language with all names it may use. */
export const useLanguage = () => useAnswer("language", {});

/** What a formula gives; while the next one is asked, the last answer stays. */
export const useFormula = (formula: string, self: string | null) =>
  useAnswer(
    "tryFormula",
    { body: { formula, self } },
    { placeholderData: keepPreviousData, enabled: formula.trim() !== "" },
  );

/** Whether the person may bring data and edit the structure. */
export function useMayEdit(): boolean {
  const role = usePerson().data?.role;
  return role === "analyst" || role === "administrator";
}

/** What the frame sentence can be made of; while a new frame is asked, the former answer stays. */
export const useFrameChoices = (frame: FrameAddress, enabled = true) =>
  useAnswer("frameChoices", { query: frame }, { placeholderData: keepPreviousData, enabled });

/** What was chosen of a panel, as its address has it. */
export type PanelChoice = Readonly<Record<string, string | undefined>>;
/** The choices of one kind of panel. */
export type Choices<K extends PanelKind> = { readonly [P in keyof ChoiceOf<K>]?: ChoiceOf<K>[P] | undefined };

/** A panel as it is asked for its figures. */
export interface AskedPanel {
  readonly place: PanelPlace;
  readonly panel: PanelDefinition;
  /** The frame that it is asked in. */
  readonly frame: FrameAddress;
  /** The frame of the page, in which panels are asked together: what a panel makes of it follows from its definition. */
  readonly pageFrame: FrameAddress;
  /** What was chosen of it. */
  readonly choice: PanelChoice;
  /** The page's own scope, which holds until another one is chosen. */
  readonly pageScope: Scope;
  /** How many panels the server has of the page, where it has this one as it is here; `null` where it has not. */
  readonly storedAmong: number | null;
}

const texts = new WeakMap<object, string>();

/** What is the same for long, written once: keys are compared with every look at the page. */
function textOf(part: object): string {
  return getOrCreate(texts, part, () => JSON.stringify(part));
}

const panelQuery = (asked: AskedPanel) => {
  const { place, panel, frame, pageScope } = asked;
  const choice = answeredChoice(panel.kind, asked.choice);
  const queryKey = ["panel", { ...place }, textOf(panel), textOf(pageScope), frame, choice] as const;
  return {
    queryKey,
    queryFn: ({ signal, client }: { signal: AbortSignal; client: QueryClient }) =>
      askPanel({
        ...asked,
        choice,
        signal,
        onWhole: (answer) => client.setQueryData(queryKey, answer),
        onLost: () => void client.invalidateQueries({ queryKey }),
      }),
  };
};

/** A panel's figures in a frame; while a new frame is asked, the former figures stay, marked as such. */
export function usePanel(asked: AskedPanel, enabled = true): UseQueryResult<PanelAnswer> {
  return useQuery({
    ...panelQuery(asked),
    enabled,
    placeholderData: (previous, query) =>
      isSamePlace(query?.queryKey[1], asked.place) && previous?.kind === asked.panel.kind ? previous : undefined,
  });
}

/** Asks for all of a page's panels in one breath, whatever code is still on its way to draw them. */
export function useWholePage(questions: readonly AskedPanel[]): void {
  // The panels themselves say what came; the page is not drawn anew for that.
  useQueries({ queries: questions.map((question) => ({ ...panelQuery(question), notifyOnChangeProps: [] })) });
}

/**
 * Asks for a page's panels before the page is drawn anew; what is at hand or on its way is not asked again. Resolves
 * once all are there or have failed.
 */
export async function askPageAhead(client: QueryClient, questions: readonly AskedPanel[]): Promise<void> {
  const asked = questions.map((question) => client.prefetchQuery(panelQuery(question)));
  askAtOnce();
  await Promise.all(asked);
}

function isSamePlace(other: unknown, { pack, page, panel }: PanelPlace): boolean {
  const of = other as PanelPlace | undefined;
  return of?.pack === pack && of.page === page && of.panel === panel;
}

/** A further question to a panel, such as a row by its members. */
export function usePanelDetail<K extends PanelKind>(
  { place, frame }: Pick<AskedPanel, "place" | "frame">,
  query: Readonly<Record<string, string | undefined>>,
): UseQueryResult<DetailOf<K>> {
  return useQuery({
    queryKey: ["panelDetail", { ...place }, frame, query],
    queryFn: ({ signal }) => call("panelDetail", { params: { ...place }, query: { ...frame, ...query } }, { signal }),
    placeholderData: keepPreviousData,
  });
}

export const useProvenance = (frame: FrameAddress, kpi: string, side: ProvenanceSide) =>
  useAnswer("provenance", { query: { ...frame, kpi, side } });

export const useSourceLines = (frame: FrameAddress, kpi: string, side: ProvenanceSide, input: number, limit: number) =>
  useAnswer("sourceLines", { query: { ...frame, kpi, side, input, limit } }, { placeholderData: keepPreviousData });

import { keepPreviousData, useQuery, type UseQueryResult } from "@tanstack/react-query";
import { z } from "zod";
import { alertsSchema } from "#contract/alerts.ts";
import { chartSchema } from "#contract/chart.ts";
import { feedListSchema } from "#contract/feeds.ts";
import { draftHeadSchema, draftSchema, intakeListSchema } from "#contract/intake.ts";
import { differenceSchema, loadDetailSchema, loadListSchema } from "#contract/loads.ts";
import { exportableSchema } from "#contract/operations.ts";
import { formulaTriedSchema, kpiHistorySchema, kpiLibrarySchema, languageSchema } from "#contract/kpis.ts";
import { packListSchema, packSchema } from "#contract/pack.ts";
import { memberRowsSchema, panelAnswerSchema, type PanelAnswer } from "#contract/panels.ts";
import { provenanceSchema, sourceLinesSchema, type ProvenanceSide } from "#contract/provenance.ts";
import { personSchema, samplePeopleSchema } from "#contract/session.ts";
import { tokenListSchema } from "#contract/tokens.ts";
import { structureSchema, type StructureAnswer } from "#contract/structure.ts";
import { panelPath, type PanelPlace } from "../panels/panel-place.ts";
import { callApi, withQuery } from "./api.ts";

/** A frame as the address has it. */
export type FrameParams = Readonly<Partial<Record<"asOf" | "span" | "basis" | "scope" | "unit" | "pack", string>>>;

export const usePerson = () =>
  useQuery({ queryKey: ["person"], queryFn: ({ signal }) => callApi("/api/session", personSchema, { signal }) });

export const useSamplePeople = () =>
  useQuery({
    queryKey: ["sample-people"],
    queryFn: ({ signal }) => callApi("/api/sample-people", samplePeopleSchema, { signal }),
  });

export const usePacks = () =>
  useQuery({ queryKey: ["packs"], queryFn: ({ signal }) => callApi("/api/packs", packListSchema, { signal }) });

export const usePack = (key: string) =>
  useQuery({
    queryKey: ["pack", key],
    queryFn: ({ signal }) => callApi(`/api/packs/${encodeURIComponent(key)}`, packSchema, { signal }),
  });

export const useLoads = () =>
  useQuery({ queryKey: ["loads"], queryFn: ({ signal }) => callApi("/api/loads", loadListSchema, { signal }) });

export const useLoad = (id: number) =>
  useQuery({
    queryKey: ["load", id],
    queryFn: ({ signal }) => callApi(`/api/loads/${id}`, loadDetailSchema, { signal }),
  });

export const useDifference = (from: number, to: number) =>
  useQuery({
    queryKey: ["difference", from, to],
    queryFn: ({ signal }) => callApi(`/api/loads/${from}/difference?to=${to}`, differenceSchema, { signal }),
  });

export const useDrafts = (enabled = true) =>
  useQuery({
    queryKey: ["drafts"],
    queryFn: ({ signal }) => callApi("/api/drafts", z.array(draftHeadSchema), { signal }),
    enabled,
  });

/** A draft; while a check or posting goes on it is asked again until that ends. */
export const useDraft = (id: number) =>
  useQuery({
    queryKey: ["draft", id],
    queryFn: ({ signal }) => callApi(`/api/drafts/${id}`, draftSchema, { signal }),
    refetchInterval: (query) => (query.state.data?.job?.state === "running" ? JOB_MS : false),
  });

const JOB_MS = 350;

export const useIntakes = () =>
  useQuery({ queryKey: ["intakes"], queryFn: ({ signal }) => callApi("/api/intakes", intakeListSchema, { signal }) });

/** The feeds; while a pull goes on they are asked again until it ends. */
export const useFeeds = () =>
  useQuery({
    queryKey: ["feeds"],
    queryFn: ({ signal }) => callApi("/api/feeds", feedListSchema, { signal }),
    refetchInterval: (query) =>
      query.state.data?.some((f) => f.pulls.some((p) => p.state === "running"))
        ? JOB_MS
        : query.state.data?.some((f) => f.schedule !== "never")
          ? SCHEDULED_MS
          : false,
  });

const SCHEDULED_MS = 5000;

export const useExportable = () =>
  useQuery({
    queryKey: ["exportable"],
    queryFn: ({ signal }) => callApi("/api/datasets", exportableSchema, { signal }),
  });

/** The structure as it is edited; only for those who may. */
export const useChart = () =>
  useQuery({ queryKey: ["chart"], queryFn: ({ signal }) => callApi("/api/chart", chartSchema, { signal }) });

/** One row of a scorecard by the members of a dimension. */
export const useMemberRows = (place: PanelPlace, frame: FrameParams, kpi: string, parent: string | null) =>
  useQuery({
    queryKey: ["member-rows", place, frame, kpi, parent],
    queryFn: ({ signal }) =>
      callApi(
        withQuery(`${panelPath(place)}/rows`, {
          ...frame,
          kpi,
          parent: parent ?? undefined,
        }),
        memberRowsSchema,
        { signal },
      ),
    placeholderData: keepPreviousData,
  });

/** One's own tokens for other programs. */
export const useTokens = () =>
  useQuery({ queryKey: ["tokens"], queryFn: ({ signal }) => callApi("/api/tokens", tokenListSchema, { signal }) });

/** KPIs whose status the last load turned. */
export const useAlerts = () =>
  useQuery({ queryKey: ["alerts"], queryFn: ({ signal }) => callApi("/api/alerts", alertsSchema, { signal }) });

export const useKpis = () =>
  useQuery({ queryKey: ["kpis"], queryFn: ({ signal }) => callApi("/api/kpis", kpiLibrarySchema, { signal }) });

export const useKpiHistory = (key: string, enabled: boolean) =>
  useQuery({
    queryKey: ["kpi-history", key],
    queryFn: ({ signal }) => callApi(`/api/kpis/${key}/history`, kpiHistorySchema, { signal }),
    enabled,
  });

/** The formula language with all names it may use. */
export const useLanguage = () =>
  useQuery({
    queryKey: ["language"],
    queryFn: ({ signal }) => callApi("/api/formula/language", languageSchema, { signal }),
  });

/** What a formula gives; while the next one is asked, the last answer stays. */
export const useFormula = (formula: string, self: string | null) =>
  useQuery({
    queryKey: ["formula", formula, self],
    queryFn: ({ signal }) =>
      callApi("/api/formula/try", formulaTriedSchema, { method: "POST", body: { formula, self }, signal }),
    placeholderData: keepPreviousData,
    enabled: formula.trim() !== "",
  });

/** Whether the person may bring data and edit the structure. */
export function useMayEdit(): boolean {
  const role = usePerson().data?.role;
  return role === "analyst" || role === "administrator";
}

/** What the frame sentence can be made of; while a new frame is asked, the former answer stays. */
export function useStructure(frame: FrameParams, enabled = true): UseQueryResult<StructureAnswer> {
  return useQuery({
    queryKey: ["structure", frame],
    queryFn: ({ signal }) => callApi(withQuery("/api/structure", frame), structureSchema, { signal }),
    placeholderData: keepPreviousData,
    enabled,
  });
}

/** What a reader chose of a panel besides its frame, as its address has it. */
export type PanelChoice = Readonly<Partial<Record<(typeof PANEL_CHOICES)[number], string | undefined>>>;
export const PANEL_CHOICES = ["kpi", "order", "reversed", "top", "below"] as const;

/** A panel's figures in a frame; while a new frame is asked, the former figures stay, marked as such. */
export function usePanel(place: PanelPlace, frame: FrameParams, choice: PanelChoice = {}): UseQueryResult<PanelAnswer> {
  const path = panelPath(place);
  return useQuery({
    queryKey: ["panel", path, frame, choice],
    queryFn: ({ signal }) => callApi(withQuery(path, { ...frame, ...choice }), panelAnswerSchema, { signal }),
    placeholderData: (previous, query) => (query?.queryKey[1] === path ? previous : undefined),
  });
}

export const useProvenance = (frame: FrameParams, kpi: string, side: ProvenanceSide) =>
  useQuery({
    queryKey: ["provenance", frame, kpi, side],
    queryFn: ({ signal }) =>
      callApi(withQuery("/api/provenance", { ...frame, kpi, side }), provenanceSchema, { signal }),
  });

export const useSourceLines = (frame: FrameParams, kpi: string, side: ProvenanceSide, input: number, limit: number) =>
  useQuery({
    queryKey: ["lines", frame, kpi, side, input, limit],
    queryFn: ({ signal }) =>
      callApi(withQuery("/api/provenance/lines", { ...frame, kpi, side, input, limit }), sourceLinesSchema, { signal }),
    placeholderData: keepPreviousData,
  });

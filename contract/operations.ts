import { z } from "zod";
import { alertsSchema } from "./alerts.ts";
import { homeSchema } from "./home.ts";
import {
  accountCommandSchema,
  calendarChangeSchema,
  editableStructureSchema,
  datasetChangeSchema,
  dimensionChangeSchema,
  memberCommandSchema,
  newDimensionSchema,
  scenarioItemSchema,
} from "./structure.ts";
import { eventKeptSchema, eventSaySchema } from "./events.ts";
import {
  companyChangeSchema,
  companyEnterSchema,
  companyListSchema,
  companyRemoveSchema,
  companySchema,
  companyStartSchema,
  passwordChangeSchema,
  personAddSchema,
  personChangeSchema,
  personListSchema,
} from "./companies.ts";
import { feedChangeSchema, feedListSchema } from "./feeds.ts";
import { frameQuerySchema } from "./frame.ts";
import { healthSchema } from "./health.ts";
import {
  draftChangeSchema,
  draftHeadSchema,
  draftSchema,
  broughtTableSchema,
  sheetTableSchema,
  draftVersionSchema,
  intakeListSchema,
  jobSchema,
  uploadQuerySchema,
} from "./intake.ts";
import {
  differenceQuerySchema,
  differenceSchema,
  loadDetailSchema,
  loadListSchema,
  loadRemovedSchema,
  loadRemoveSchema,
} from "./loads.ts";
import {
  formulaTriedSchema,
  formulaTrySchema,
  kpiHistorySchema,
  kpiLibrarySchema,
  kpiSaveSchema,
  languageSchema,
} from "./kpis.ts";
import { changeListSchema } from "./changes.ts";
import { packChangedSchema, packEditSchema, packListSchema, packSchema, restoreSchema } from "./pack.ts";
import { pageQuerySchema, tryPanelsSchema } from "./page-answers.ts";
import { panelAnswerSchema, panelDetailSchema, panelQuerySchema } from "./panels/index.ts";
import { provenanceSchema, sideSchema, sourceLinesSchema } from "./provenance.ts";
import {
  companyLookSchema,
  opensSchema,
  ownWritingSchema,
  samplePeopleSchema,
  sampleSignInSchema,
  sessionSchema,
  signInSchema,
} from "./session.ts";
import { frameChoicesSchema } from "./frame-choices.ts";
import {
  adjustmentSchema,
  versionChangeSchema,
  versionCopySchema,
  versionListSchema,
  versionPostSchema,
} from "./versions.ts";
import { newTokenSchema, tokenCreateSchema, tokenListSchema } from "./tokens.ts";

export const provenanceQuerySchema = frameQuerySchema.extend({ kpi: z.string().max(100), side: sideSchema });
export const sourceLinesQuerySchema = provenanceQuerySchema.extend({
  input: z.coerce.number().int().min(0).max(1000).default(0),
  offset: z.coerce.number().int().min(0).max(1_000_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(50),
});

export const exportQuerySchema = z.object({
  format: z.enum(["csv", "parquet"]).default("csv"),
  scenario: z.string().max(500).optional(),
  from: z.string().max(20).optional(),
  to: z.string().max(20).optional(),
  scope: z.string().max(4000).optional(),
});

const named = z.object({ key: z.string(), name: z.string() });
export const exportableSchema = z.object({
  datasets: z.array(named),
  scenarios: z.array(named),
  dimensions: z.array(named.extend({ members: z.array(named) })),
});

/** One operation of the API, as the server offers it and the OpenAPI document describes it. */
export interface Operation {
  readonly method: "get" | "post" | "put" | "delete";
  readonly path: string;
  readonly summary: string;
  readonly isOpen?: boolean;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** The answer's schema; a media type where it is a file; `null` where there is none. */
  readonly answer: z.ZodType | string | null;
  /** The media type of a body that is a file. */
  readonly upload?: string;
}

/** Every operation of the API. */
export const OPERATIONS = {
  health: {
    method: "get",
    path: "/api/health",
    summary: "Whether the server and its database are ready",
    isOpen: true,
    answer: healthSchema,
  },
  samplePeople: {
    method: "get",
    path: "/api/sample-people",
    summary: "The sample company's people, for signing in with one click",
    isOpen: true,
    answer: samplePeopleSchema,
  },
  signIn: {
    method: "post",
    path: "/api/session",
    summary: "Sign in with e-mail address and password",
    isOpen: true,
    body: signInSchema,
    answer: sessionSchema,
  },
  signInSample: {
    method: "post",
    path: "/api/session/sample",
    summary: "Sign in as a person of the sample company",
    isOpen: true,
    body: sampleSignInSchema,
    answer: sessionSchema,
  },
  session: { method: "get", path: "/api/session", summary: "Who is signed in", answer: sessionSchema },
  setOpens: {
    method: "put",
    path: "/api/session/opens",
    summary: "Choose which pack is opened at sign-in",
    body: opensSchema,
    answer: sessionSchema,
  },
  setWriting: {
    method: "put",
    path: "/api/session/writing",
    summary: "Choose how numbers are written for oneself",
    body: ownWritingSchema,
    answer: sessionSchema,
  },
  setCompanyLook: {
    method: "put",
    path: "/api/company/look",
    summary: "Choose how the company looks",
    body: companyLookSchema,
    answer: sessionSchema,
  },
  setPassword: {
    method: "put",
    path: "/api/session/password",
    summary: "Choose a password of one's own",
    body: passwordChangeSchema,
    answer: sessionSchema,
  },
  companies: {
    method: "get",
    path: "/api/companies",
    summary: "The companies of this installation",
    isOpen: true,
    answer: companyListSchema,
  },
  startCompany: {
    method: "post",
    path: "/api/companies",
    summary: "Start a company of one's own, empty, and sign in as its administrator",
    isOpen: true,
    body: companyStartSchema,
    answer: sessionSchema,
  },
  enterCompany: {
    method: "put",
    path: "/api/companies/entered",
    summary: "Choose the company that this browser looks at; who has a session there is signed in at once",
    isOpen: true,
    body: companyEnterSchema,
    answer: companyListSchema,
  },
  company: { method: "get", path: "/api/company", summary: "What the company says of itself", answer: companySchema },
  changeCompany: {
    method: "put",
    path: "/api/company",
    summary: "Change the company's name or currency",
    body: companyChangeSchema,
    answer: companySchema,
  },
  companyFile: {
    method: "get",
    path: "/api/company/export.zip",
    summary: "All of the company: its tables as CSV, and the files that were brought",
    answer: "application/zip",
  },
  removeCompany: {
    method: "post",
    path: "/api/company/remove",
    summary: "Remove the company whole; its name is written to say that it is meant",
    body: companyRemoveSchema,
    answer: null,
  },
  people: { method: "get", path: "/api/people", summary: "The company's people", answer: personListSchema },
  addPerson: {
    method: "post",
    path: "/api/people",
    summary: "Add a person with a first password",
    body: personAddSchema,
    answer: personListSchema,
  },
  changePerson: {
    method: "put",
    path: "/api/people/:person",
    summary: "Change a person, or give them a first password again",
    body: personChangeSchema,
    answer: personListSchema,
  },
  removePerson: {
    method: "delete",
    path: "/api/people/:person",
    summary: "Remove a person; what they posted stays",
    answer: personListSchema,
  },
  signOut: { method: "delete", path: "/api/session", summary: "Sign out", isOpen: true, answer: null },
  frameChoices: {
    method: "get",
    path: "/api/frame",
    summary: "What a frame can be made of",
    query: frameQuerySchema,
    answer: frameChoicesSchema,
  },
  packs: { method: "get", path: "/api/packs", summary: "All packs with their pages", answer: packListSchema },
  pack: { method: "get", path: "/api/packs/:pack", summary: "One pack with its pages and panels", answer: packSchema },
  panel: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/panels/:panel",
    summary: "The figures of one panel in a frame",
    query: panelQuerySchema,
    answer: panelAnswerSchema,
  },
  pageAnswers: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/answers",
    summary:
      "The figures of a page's panels in a frame, read together; one JSON document a line, each as soon as it is ready. What is chosen of a panel stands behind its key: `tiles.top=5`",
    query: pageQuerySchema,
    answer: "application/x-ndjson",
  },
  panelFile: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/panels/:panel.csv",
    summary: "The numbers behind a panel, as CSV",
    query: panelQuerySchema,
    answer: "text/csv",
  },
  panelDetail: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/panels/:panel/detail",
    summary: "A further question to a panel, such as one row of a scorecard by the members of a dimension",
    query: frameQuerySchema.loose(),
    answer: panelDetailSchema,
  },
  tryPanels: {
    method: "post",
    path: "/api/answers",
    summary:
      "The figures of panels that stand on no page, as they are given, in a frame; one JSON document a line, each as soon as it is ready",
    body: tryPanelsSchema,
    answer: "application/x-ndjson",
  },
  editPack: {
    method: "post",
    path: "/api/packs/:pack/edits",
    summary:
      "Change a pack, its pages and panels, record by record: what others changed elsewhere meanwhile stays, what both changed is told",
    body: packEditSchema,
    answer: packChangedSchema,
  },
  restorePage: {
    method: "post",
    path: "/api/packs/:pack/pages/:page/restore",
    summary: "Put a page back to as it was after one of its changes",
    body: restoreSchema,
    answer: packChangedSchema,
  },
  pageHistory: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/changes",
    summary: "What was done to a page and its panels, newest first",
    answer: changeListSchema,
  },
  undoPackChange: {
    method: "post",
    path: "/api/packs/:pack/changes/:change/undo",
    summary: "Take a change of a pack back; one that took another back is so made again",
    answer: packChangedSchema,
  },
  provenance: {
    method: "get",
    path: "/api/provenance",
    summary: "How a figure was made",
    query: provenanceQuerySchema,
    answer: provenanceSchema,
  },
  sourceLines: {
    method: "get",
    path: "/api/provenance/lines",
    summary: "The source lines behind one input of a figure",
    query: sourceLinesQuerySchema,
    answer: sourceLinesSchema,
  },
  versions: {
    method: "get",
    path: "/api/versions",
    summary: "Versions of budget, forecast and target, with how they came to be",
    answer: versionListSchema,
  },
  postVersion: {
    method: "post",
    path: "/api/versions",
    summary: "Forecast a KPI's accounts and keep them as a version; answered in lines of JSON, with progress",
    body: versionPostSchema,
    answer: "application/x-ndjson",
  },
  changeVersion: {
    method: "post",
    path: "/api/versions/:version",
    summary: "Name, freeze, open again, retire or bring back a version",
    body: versionChangeSchema,
    answer: versionListSchema,
  },
  copyVersion: {
    method: "post",
    path: "/api/versions/:version/copy",
    summary: "Copy a version as an open forecast",
    body: versionCopySchema,
    answer: versionListSchema,
  },
  refitVersion: {
    method: "post",
    path: "/api/versions/:version/refit",
    summary: "Fit an open version anew to the actuals there are now; answered in lines of JSON, with progress",
    answer: "application/x-ndjson",
  },
  adjustVersion: {
    method: "post",
    path: "/api/versions/:version/adjustments",
    summary: "Change an open version by hand, with a reason; what its models say is kept apart",
    body: adjustmentSchema,
    answer: versionListSchema,
  },
  takeBackAdjustment: {
    method: "delete",
    path: "/api/versions/:version/adjustments/:adjustment",
    summary: "Take a change of a version by hand back",
    answer: versionListSchema,
  },
  sayEvent: {
    method: "post",
    path: "/api/events",
    summary: "Confirm or dismiss something out of the ordinary, with a reason; ranges and forecasts know of it then",
    body: eventSaySchema,
    answer: eventKeptSchema,
  },
  unsayEvent: {
    method: "delete",
    path: "/api/events/:event",
    summary: "Take back what was said of an event",
    answer: null,
  },
  loads: { method: "get", path: "/api/loads", summary: "Everything that was posted", answer: loadListSchema },
  load: { method: "get", path: "/api/loads/:load", summary: "One load, with what it moved", answer: loadDetailSchema },
  undoLoad: { method: "post", path: "/api/loads/:load/undo", summary: "Undo a load", answer: loadDetailSchema },
  redoLoad: {
    method: "post",
    path: "/api/loads/:load/redo",
    summary: "Bring an undone load back",
    answer: loadDetailSchema,
  },
  removeLoad: {
    method: "post",
    path: "/api/loads/:load/remove",
    summary: "Remove an undone load for good, and what it alone brought",
    body: loadRemoveSchema,
    answer: loadRemovedSchema,
  },
  loadDifference: {
    method: "get",
    path: "/api/loads/:load/difference",
    summary: "The lines in which another load differs from this one",
    query: differenceQuerySchema,
    answer: differenceSchema,
  },
  loadRejected: {
    method: "get",
    path: "/api/loads/:load/rejected.csv",
    summary: "The lines a load left out, with line number and reason",
    answer: "text/csv",
  },
  loadFile: {
    method: "get",
    path: "/api/loads/:load/file",
    summary: "The file as it was posted",
    answer: "application/octet-stream",
  },
  drafts: { method: "get", path: "/api/drafts", summary: "Files on their way in", answer: z.array(draftHeadSchema) },
  openDraft: {
    method: "post",
    path: "/api/drafts",
    summary: "Bring a file: CSV or other delimited text, or an XLSX workbook",
    query: uploadQuerySchema,
    upload: "application/octet-stream",
    answer: draftSchema,
  },
  draft: {
    method: "get",
    path: "/api/drafts/:draft",
    summary: "A file on its way in, with its last check",
    answer: draftSchema,
  },
  changeDraft: {
    method: "put",
    path: "/api/drafts/:draft",
    summary: "Change how a file is read, tidied, mapped and checked",
    body: draftChangeSchema,
    answer: draftSchema,
  },
  bringTable: {
    method: "post",
    path: "/api/drafts/:draft/tables",
    summary: "Bring a file of its own that a draft can look up in",
    query: uploadQuerySchema,
    upload: "application/octet-stream",
    answer: broughtTableSchema,
  },
  bringSheet: {
    method: "post",
    path: "/api/drafts/:draft/tables/sheet",
    summary: "Take another sheet of a draft's workbook as a table that it can look up in",
    body: sheetTableSchema,
    answer: broughtTableSchema,
  },
  discardDraft: {
    method: "delete",
    path: "/api/drafts/:draft",
    summary: "Throw a draft away with its file",
    answer: null,
  },
  checkDraft: {
    method: "post",
    path: "/api/drafts/:draft/check",
    summary: "Check the whole file once more",
    answer: jobSchema,
  },
  postDraft: {
    method: "post",
    path: "/api/drafts/:draft/post",
    summary: "Post a draft that was checked",
    body: draftVersionSchema,
    answer: jobSchema,
  },
  draftRejected: {
    method: "get",
    path: "/api/drafts/:draft/rejected.csv",
    summary: "The lines that would be left out, with line number and reason",
    answer: "text/csv",
  },
  structure: {
    method: "get",
    path: "/api/structure",
    summary: "Accounts, dimensions, calendar, datasets and scenarios, as they are edited",
    answer: editableStructureSchema,
  },
  changeAccounts: {
    method: "post",
    path: "/api/structure/accounts",
    summary: "Add, change, move or remove an account",
    body: accountCommandSchema,
    answer: editableStructureSchema,
  },
  accountsFile: {
    method: "get",
    path: "/api/structure/accounts.csv",
    summary: "The chart of accounts as CSV",
    answer: "text/csv",
  },
  importAccounts: {
    method: "put",
    path: "/api/structure/accounts.csv",
    summary: "Take accounts over from CSV; what the file does not name stays",
    upload: "text/csv",
    answer: editableStructureSchema,
  },
  addDimension: {
    method: "post",
    path: "/api/structure/dimensions",
    summary: "Add a dimension",
    body: newDimensionSchema,
    answer: editableStructureSchema,
  },
  changeDimension: {
    method: "put",
    path: "/api/structure/dimensions/:dimension",
    summary: "Change a dimension's name or levels",
    body: dimensionChangeSchema,
    answer: editableStructureSchema,
  },
  changeMembers: {
    method: "post",
    path: "/api/structure/dimensions/:dimension/members",
    summary: "Add, change, move or remove a member",
    body: memberCommandSchema,
    answer: editableStructureSchema,
  },
  membersFile: {
    method: "get",
    path: "/api/structure/dimensions/:dimension/members.csv",
    summary: "A dimension's members as CSV",
    answer: "text/csv",
  },
  importMembers: {
    method: "put",
    path: "/api/structure/dimensions/:dimension/members.csv",
    summary: "Take members over from CSV; what the file does not name stays",
    upload: "text/csv",
    answer: editableStructureSchema,
  },
  changeCalendar: {
    method: "put",
    path: "/api/structure/calendar",
    summary: "Change the company's name or the month its fiscal year opens in",
    body: calendarChangeSchema,
    answer: editableStructureSchema,
  },
  changeDataset: {
    method: "put",
    path: "/api/structure/datasets/:dataset",
    summary: "Change a dataset's name, dimensions, and whether it closes months",
    body: datasetChangeSchema,
    answer: editableStructureSchema,
  },
  addScenario: {
    method: "post",
    path: "/api/structure/scenarios",
    summary: "Add a version of budget, forecast or target",
    body: scenarioItemSchema,
    answer: editableStructureSchema,
  },
  removePart: {
    method: "delete",
    path: "/api/structure/parts/:table/:key",
    summary: "Remove a dimension, dataset or scenario that nothing uses",
    answer: editableStructureSchema,
  },
  undoChange: {
    method: "post",
    path: "/api/structure/changes/:change/undo",
    summary: "Take a change of the structure back",
    answer: editableStructureSchema,
  },
  home: {
    method: "get",
    path: "/api/home",
    summary: "The open month and what it lacks, and the KPIs that are off plan",
    answer: homeSchema,
  },
  alerts: {
    method: "get",
    path: "/api/alerts",
    summary: "KPIs whose status the last load changed",
    answer: alertsSchema,
  },
  kpis: { method: "get", path: "/api/kpis", summary: "The KPI library", answer: kpiLibrarySchema },
  saveKpi: {
    method: "post",
    path: "/api/kpis",
    summary: "Add a KPI, or change one",
    body: kpiSaveSchema,
    answer: kpiLibrarySchema,
  },
  removeKpi: {
    method: "delete",
    path: "/api/kpis/:kpi",
    summary: "Remove a KPI that nothing uses",
    answer: kpiLibrarySchema,
  },
  kpiHistory: {
    method: "get",
    path: "/api/kpis/:kpi/history",
    summary: "What was done to a KPI",
    answer: kpiHistorySchema,
  },
  undoKpiChange: {
    method: "post",
    path: "/api/kpis/changes/:change/undo",
    summary: "Take a KPI's last change back",
    answer: kpiLibrarySchema,
  },
  tryFormula: {
    method: "post",
    path: "/api/formula/try",
    summary: "What a formula gives, or where it is wrong",
    body: formulaTrySchema,
    answer: formulaTriedSchema,
  },
  language: {
    method: "get",
    path: "/api/formula/language",
    summary: "The formula language: functions and names",
    answer: languageSchema,
  },
  tokens: {
    method: "get",
    path: "/api/tokens",
    summary: "One's own tokens for other programs",
    answer: tokenListSchema,
  },
  createToken: {
    method: "post",
    path: "/api/tokens",
    summary: "Make a token; it is told once",
    body: tokenCreateSchema,
    answer: newTokenSchema,
  },
  revokeToken: { method: "delete", path: "/api/tokens/:token", summary: "End a token", answer: null },
  exportable: {
    method: "get",
    path: "/api/datasets",
    summary: "Datasets, scenarios and members an export can be made of",
    answer: exportableSchema,
  },
  exportDataset: {
    method: "get",
    path: "/api/datasets/:dataset/export",
    summary: "A dataset's facts as CSV or Parquet, filtered by scenario, months and scope",
    query: exportQuerySchema,
    answer: "text/csv",
  },
  feeds: {
    method: "get",
    path: "/api/feeds",
    summary: "Sources that are pulled, with their logs",
    answer: feedListSchema,
  },
  changeFeed: {
    method: "put",
    path: "/api/feeds/:feed",
    summary: "Set when a feed is pulled by itself, and how the simulated service behaves",
    body: feedChangeSchema,
    answer: feedListSchema,
  },
  pullFeed: {
    method: "post",
    path: "/api/feeds/:feed/pull",
    summary: "Pull the next extract now",
    answer: feedListSchema,
  },
  job: { method: "get", path: "/api/jobs/:job", summary: "How a check or posting goes on", answer: jobSchema },
  cancelJob: { method: "delete", path: "/api/jobs/:job", summary: "Break a check or posting off", answer: jobSchema },
  intakes: { method: "get", path: "/api/intakes", summary: "Remembered ways to load files", answer: intakeListSchema },
  forgetIntake: { method: "delete", path: "/api/intakes/:intake", summary: "Forget a way to load files", answer: null },
} as const satisfies Record<string, Operation>;

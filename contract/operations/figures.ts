import { frameChoicesSchema } from "../frame-choices.ts";
import { frameQuerySchema } from "#core/frame/schema.ts";
import { pageQuerySchema, tryPanelsSchema } from "../page-answers.ts";
import { panelAnswerSchema, panelDetailSchema, panelQuerySchema } from "#core/panels/schemas.ts";
import { provenanceQuerySchema, provenanceSchema, sourceLinesQuerySchema, sourceLinesSchema } from "../provenance.ts";
import { operations } from "./operation.ts";

/** Panels' figures, and where figures come from. */
export const FIGURES = operations({
  frameChoices: {
    method: "get",
    path: "/api/frame",
    access: "reader",
    summary: "The choices a frame offers",
    query: frameQuerySchema,
    answer: frameChoicesSchema,
  },
  pageAnswers: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/answers",
    access: "reader",
    summary:
      "The answers of all panels of a page in a frame, one JSON document per line, each as soon as it is ready. A panel's choices are prefixed with its key: `tiles.top=5`",
    query: pageQuerySchema,
    answer: "application/x-ndjson",
  },
  panelFile: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/panels/:panel.csv",
    access: "reader",
    summary: "The numbers behind a panel, as CSV",
    query: panelQuerySchema,
    answer: "text/csv",
  },
  panel: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/panels/:panel",
    access: "reader",
    summary: "One panel's answer in a frame",
    query: panelQuerySchema,
    answer: panelAnswerSchema,
  },
  panelDetail: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/panels/:panel/detail",
    access: "reader",
    summary: "A panel's detail, such as one row of a scorecard by the members of a dimension",
    query: frameQuerySchema.loose(),
    answer: panelDetailSchema,
  },
  tryPanels: {
    method: "post",
    path: "/api/answers",
    access: "reader",
    summary:
      "The answers of panels given in the request, in a frame; one JSON document per line, each as soon as it is ready",
    body: tryPanelsSchema,
    answer: "application/x-ndjson",
  },
  provenance: {
    method: "get",
    path: "/api/provenance",
    access: "reader",
    summary: "How a figure was made",
    query: provenanceQuerySchema,
    answer: provenanceSchema,
  },
  sourceLines: {
    method: "get",
    path: "/api/provenance/lines",
    access: "reader",
    summary: "The source lines behind one input of a figure",
    query: sourceLinesQuerySchema,
    answer: sourceLinesSchema,
  },
});

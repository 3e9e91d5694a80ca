import {
  differenceQuerySchema,
  differenceSchema,
  loadDetailSchema,
  loadListSchema,
  loadRemoveSchema,
  loadRemovedSchema,
} from "../loads.ts";
import { idSchema, operations } from "./operation.ts";

/** What was posted, and what can be done with it. */
export const LOADS = operations({
  loads: {
    method: "get",
    path: "/api/loads",
    access: "reader",
    summary: "All loads",
    answer: loadListSchema,
  },
  load: {
    method: "get",
    path: "/api/loads/:load",
    access: "editor",
    params: { load: idSchema },
    summary: "One load, with the figures it moved",
    answer: loadDetailSchema,
  },
  undoLoad: {
    method: "post",
    path: "/api/loads/:load/undo",
    access: "editor",
    params: { load: idSchema },
    summary: "Undo a load",
    answer: loadDetailSchema,
  },
  redoLoad: {
    method: "post",
    path: "/api/loads/:load/redo",
    access: "editor",
    params: { load: idSchema },
    summary: "Redo an undone load",
    answer: loadDetailSchema,
  },
  removeLoad: {
    method: "post",
    path: "/api/loads/:load/remove",
    access: "editor",
    params: { load: idSchema },
    summary: "Delete an undone load for good, and on request the structure only it added",
    body: loadRemoveSchema,
    answer: loadRemovedSchema,
  },
  loadDifference: {
    method: "get",
    path: "/api/loads/:load/difference",
    access: "editor",
    params: { load: idSchema },
    summary: "Lines in which another load differs from this one",
    query: differenceQuerySchema,
    answer: differenceSchema,
  },
  loadRejected: {
    method: "get",
    path: "/api/loads/:load/rejected.csv",
    access: "editor",
    params: { load: idSchema },
    summary: "Rejected lines of a load, with line number and reason",
    answer: "text/csv",
  },
  loadFile: {
    method: "get",
    path: "/api/loads/:load/file",
    access: "editor",
    params: { load: idSchema },
    summary: "The file as it was posted",
    answer: "application/octet-stream",
  },
});

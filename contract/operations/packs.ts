import { changeListSchema } from "../changes.ts";
import { packChangedSchema, packEditSchema, packListSchema, packSchema, restoreSchema } from "../pack.ts";
import { idSchema, operations } from "./operation.ts";

/** Packs with their pages, how they are changed, and what was done to them. */
export const PACKS = operations({
  packs: {
    method: "get",
    path: "/api/packs",
    access: "reader",
    summary: "All packs with their pages",
    answer: packListSchema,
  },
  pack: {
    method: "get",
    path: "/api/packs/:pack",
    access: "reader",
    summary: "One pack with its pages and panels",
    answer: packSchema,
  },
  editPack: {
    method: "post",
    path: "/api/packs/:pack/edits",
    access: "editor",
    summary:
      "Edit a pack, its pages and panels record by record; merged with others' changes, or 409 with both versions",
    body: packEditSchema,
    answer: packChangedSchema,
  },
  restorePage: {
    method: "post",
    path: "/api/packs/:pack/pages/:page/restore",
    access: "editor",
    summary: "Restore a page to the state after one of its changes",
    body: restoreSchema,
    answer: packChangedSchema,
  },
  pageHistory: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/changes",
    access: "editor",
    summary: "A page's history, newest first",
    answer: changeListSchema,
  },
  undoPackChange: {
    method: "post",
    path: "/api/packs/:pack/changes/:change/undo",
    access: "editor",
    params: { change: idSchema },
    summary: "Undo a change of a pack; undoing an undo redoes it",
    answer: packChangedSchema,
  },
});

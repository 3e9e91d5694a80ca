import {
  adjustmentSchema,
  versionChangeSchema,
  versionCopySchema,
  versionListSchema,
  versionPostSchema,
} from "../versions.ts";
import { idSchema, operations } from "./operation.ts";

/** Versions of budget, forecast and target. */
export const VERSIONS = operations({
  versions: {
    method: "get",
    path: "/api/versions",
    access: "reader",
    summary: "Versions of budget, forecast and target, with their origin",
    answer: versionListSchema,
  },
  postVersion: {
    method: "post",
    path: "/api/versions",
    access: "editor",
    summary: "Post a KPI's forecast as a version; progress and result as lines of JSON",
    body: versionPostSchema,
    answer: "application/x-ndjson",
  },
  changeVersion: {
    method: "post",
    path: "/api/versions/:version",
    access: "editor",
    summary: "Rename, freeze, reopen, retire or restore a version",
    body: versionChangeSchema,
    answer: versionListSchema,
  },
  copyVersion: {
    method: "post",
    path: "/api/versions/:version/copy",
    access: "editor",
    summary: "Copy a version to an open forecast",
    body: versionCopySchema,
    answer: versionListSchema,
  },
  refitVersion: {
    method: "post",
    path: "/api/versions/:version/refit",
    access: "editor",
    summary: "Refit an open version to current actuals; progress and result as lines of JSON",
    answer: "application/x-ndjson",
  },
  adjustVersion: {
    method: "post",
    path: "/api/versions/:version/adjustments",
    access: "editor",
    summary: "Adjust an open version by hand, with a reason; the model's figures are kept beside it",
    body: adjustmentSchema,
    answer: versionListSchema,
  },
  takeBackAdjustment: {
    method: "delete",
    path: "/api/versions/:version/adjustments/:adjustment",
    access: "editor",
    params: { adjustment: idSchema },
    summary: "Withdraw an adjustment",
    answer: versionListSchema,
  },
});

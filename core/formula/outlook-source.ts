/** Ways to estimate the months that are not closed, besides the scenarios that plan them. */
export const OUTLOOK_ESTIMATES = ["model", "run-rate", "prior-year"] as const;
export type OutlookEstimate = (typeof OUTLOOK_ESTIMATES)[number];

/**
 * Where the months come from that are not closed: "latest" for the latest forecast known then, else the budget; an
 * estimate; or a scenario by its key.
 */
export type OutlookSource = string;

export const LATEST = "latest";

/** What estimates are called, after "then". */
export const ESTIMATE_NAMES: Readonly<Record<OutlookEstimate, string>> = {
  model: "the forecast by model",
  "run-rate": "the run rate with its season",
  "prior-year": "the prior year grown",
};

/** Whether a source estimates, rather than is a scenario that plans. */
export function isEstimate(source: OutlookSource): source is OutlookEstimate {
  return (OUTLOOK_ESTIMATES as readonly string[]).includes(source);
}

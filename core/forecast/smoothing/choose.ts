import { fitSmoothing, type SmoothingFit } from "./fit.ts";
import { stableForms, type SmoothingForm } from "./form.ts";

/** A form this much worse is not made better by a trend, or by another kind of season. */
const HOPELESS = 12;
/** Searches among many forms end where little is gained. */
const QUICK = { leastGain: 1e-2, mostEvaluations: 30 };

/**
 * The form of the lowest AICc, fitted; `null` where none can be. Forms without a trend are fitted first: a trend is
 * tried where the season and the errors have proved to suit the series.
 */
export function chooseSmoothing(
  y: Float64Array,
  season: number,
  isAllowed: (form: SmoothingForm) => boolean = () => true,
): { readonly chosen: SmoothingFit; readonly tried: readonly SmoothingFit[] } | null {
  const isPositive = y.every((value) => !(value <= 0));
  const forms = stableForms(season > 1, isPositive).filter(isAllowed);
  const quick = (wanted: readonly SmoothingForm[]) =>
    wanted.flatMap((form) => fitSmoothing(form, y, season, { limits: QUICK, searches: 1 }) ?? []);
  const flat = quick(forms.filter(({ trend }) => trend === "none"));
  const least = (fits: readonly SmoothingFit[]) => Math.min(...fits.map(({ aicc }) => aicc));
  const limit = least(flat) + HOPELESS;
  const isPromising = ({ error, season: kind }: SmoothingForm) =>
    flat.length === 0 || flat.some(({ form, aicc }) => form.error === error && form.season === kind && aicc <= limit);
  const trended = quick(forms.filter((form) => form.trend !== "none" && isPromising(form)));
  const tried = [...flat, ...trended].sort((a, b) => a.aicc - b.aicc);
  const best = tried.filter(({ aicc }) => Number.isFinite(aicc)).slice(0, 2);
  const polished = best.map((fit) => better(fit, fitSmoothing(fit.form, y, season)));
  const [chosen] = polished.sort((a, b) => a.aicc - b.aicc);
  return chosen ? { chosen, tried: [chosen, ...tried.filter(({ name }) => name !== chosen.name)] } : null;
}

function better(a: SmoothingFit, b: SmoothingFit | null): SmoothingFit {
  return b && b.aicc < a.aicc ? b : a;
}

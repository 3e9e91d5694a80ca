import type { Objective } from "../numerics/minimise.ts";
import type { SmoothingForm } from "./form.ts";
import { parameterMap, ratesAt, type ParameterMap } from "./parameters.ts";

/** A forecast this near to nothing cannot be divided by. */
const NEAR_ZERO = 1e-8;

/**
 * Minus twice the logarithm of a form's likelihood over a series, up to a constant of the series' length, with its
 * exact gradient and the curvature that its first derivatives give: n · ln Σe² for additive errors, and n · ln Σ(e/μ)² + 2 Σ ln |μ| for multiplicative ones (Hyndman
 * and others 2008, eq. 5.3). Derivatives are carried along the recursion. Missing values (NaN) move the states on
 * without teaching them anything, and do not count. Infinite where a forecast cannot be divided by.
 */
export function minusTwoLogLikelihood(
  form: SmoothingForm,
  y: Float64Array,
  length: number,
): { readonly map: ParameterMap; readonly objective: Objective } {
  const map = parameterMap(form, length);
  const p = map.dimension;
  const isMultiplied = form.season === "multiplicative";
  const isRelative = form.error === "multiplicative";
  const { hasTrend, hasSeason, at } = map;
  const observed = y.reduce((count, value) => (Number.isNaN(value) ? count : count + 1), 0);
  const total = isMultiplied ? length : 0;
  const s = new Float64Array(Math.max(1, length));
  const ds = new Float64Array(Math.max(1, length) * p);
  const [dl, db, dMu] = [new Float64Array(p), new Float64Array(p), new Float64Array(p)];
  const [sumBy, logBy] = [new Float64Array(p), new Float64Array(p)];

  /** Lays out the season at the beginning, the last effect by the others. */
  const begin = (x: Float64Array) => {
    dl.fill(0);
    db.fill(0);
    ds.fill(0);
    sumBy.fill(0);
    logBy.fill(0);
    dl[at.level] = 1;
    if (hasTrend) db[at.slope] = 1;
    if (!hasSeason) return;
    let last = total;
    for (let i = 0; i < length - 1; i += 1) {
      s[i] = x[at.seasonal + i]!;
      last -= s[i]!;
      ds[i * p + at.seasonal + i] = 1;
      ds[(length - 1) * p + at.seasonal + i] = -1;
    }
    s[length - 1] = last;
  };

  const objective: Objective = (x, gradient, curvature) => {
    const r = ratesAt(map, x);
    const { alpha, beta, gamma, phi } = r;
    let level = x[at.level]!;
    let slope = hasTrend ? x[at.slope]! : 0;
    begin(x);
    curvature?.fill(0);
    let [sum, logs] = [0, 0];
    for (let t = 0, place = 0; t < y.length; t += 1, place = place + 1 === length ? 0 : place + 1) {
      const q = level + phi * slope;
      const row = place * p;
      const season = hasSeason ? s[place]! : isMultiplied ? 1 : 0;
      const mu = isMultiplied ? q * season : q + season;
      const value = y[t]!;
      const isMissing = Number.isNaN(value);
      const e = isMissing ? 0 : value - mu;
      // How the sum and the logarithms change with the forecast.
      let [sumByMu, logByMu, weight] = [0, 0, 0];
      if (!isMissing) {
        if (isRelative) {
          if (!(mu > NEAR_ZERO)) return Infinity;
          const relative = e / mu;
          sum += relative * relative;
          logs += Math.log(mu);
          // d(e/μ) = −dμ (1 + e/μ) / μ
          sumByMu = (-2 * relative * (1 + relative)) / mu;
          logByMu = 1 / mu;
          weight = 1 / (mu * mu);
        } else {
          sum += e * e;
          sumByMu = -2 * e;
          weight = 1;
        }
      }
      // What the states learn: u the level and slope, v the season; both are e where effects are added.
      let [u, v] = [e, e];
      if (isMultiplied) {
        if (!(Math.abs(season) > NEAR_ZERO) || !(Math.abs(q) > NEAR_ZERO)) return Infinity;
        u = e / season;
        v = e / q;
      }
      if (curvature) {
        const learns = isMissing ? 0 : 1;
        for (let j = 0; j < p; j += 1) {
          const slopeBy = phi * db[j]! + (j === at.phi ? r.phiByPhi * slope : 0);
          const qBy = dl[j]! + slopeBy;
          let du: number;
          if (isMultiplied) {
            const seasonBy = ds[row + j]!;
            const muBy = qBy * season + q * seasonBy;
            dMu[j] = muBy;
            du = (learns * -(muBy + u * seasonBy)) / season;
            ds[row + j] = seasonBy + (gamma * learns * -(muBy + v * qBy)) / q;
          } else if (hasSeason) {
            const seasonBy = ds[row + j]!;
            const muBy = qBy + seasonBy;
            dMu[j] = muBy;
            du = learns * -muBy;
            ds[row + j] = seasonBy + gamma * du;
          } else {
            dMu[j] = qBy;
            du = learns * -qBy;
          }
          sumBy[j]! += sumByMu * dMu[j]!;
          logBy[j]! += logByMu * dMu[j]!;
          dl[j] = qBy + alpha * du;
          if (hasTrend) db[j] = slopeBy + beta * du;
        }
        dl[at.alpha]! += r.alphaByAlpha * u;
        if (hasTrend) {
          db[at.alpha]! += r.betaByAlpha * u;
          db[at.beta]! += r.betaByBeta * u;
        }
        if (hasSeason) {
          ds[row + at.alpha]! += r.gammaByAlpha * v;
          ds[row + at.gamma]! += r.gammaByGamma * v;
        }
        if (weight > 0)
          for (let i = 0; i < p; i += 1) {
            const by = weight * dMu[i]!;
            const line = i * p;
            if (by !== 0) for (let j = 0; j <= i; j += 1) curvature[line + j]! += by * dMu[j]!;
          }
      }
      if (hasSeason) s[place] = season + gamma * v;
      level = q + alpha * u;
      slope = hasTrend ? phi * slope + beta * u : 0;
    }
    if (!(sum > 0)) return -Infinity;
    if (curvature && gradient) {
      const scale = (2 * observed) / sum;
      for (let i = 0; i < curvature.length; i += 1) curvature[i]! *= scale;
      for (let j = 0; j < p; j += 1) gradient[j] = (observed * sumBy[j]!) / sum + 2 * logBy[j]!;
    }
    return observed * Math.log(sum) + 2 * logs;
  };
  return { map, objective };
}

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import referenceFits from "../testing/reference-fits.json" with { type: "json" };
import { chooseSmoothing } from "./choose.ts";
import { fitSmoothing, followSmoothing } from "./fit.ts";
import { formName, parameterCount, stableForms, type SmoothingForm } from "./form.ts";
import { minusTwoLogLikelihood } from "./likelihood.ts";
import { parametersAt } from "./parameters.ts";
import { projectSmoothing } from "./project.ts";

const KINDS = { N: "none", A: "additive", M: "multiplicative" } as const;

/** A form by the letters it is requested with in the reference, such as "MAMd". */
function formOf(letters: string): SmoothingForm {
  const [error, trend, season] = letters as unknown as [keyof typeof KINDS, keyof typeof KINDS, keyof typeof KINDS];
  return {
    error: KINDS[error] as SmoothingForm["error"],
    trend: letters.endsWith("d") ? "damped" : (KINDS[trend] as SmoothingForm["trend"]),
    season: KINDS[season],
  };
}

const REQUESTED = Object.entries(referenceFits).flatMap(([series, { frequency, values, fits }]) =>
  fits.flatMap(({ requested, ...fit }) =>
    requested === null ? [] : [{ series, frequency, values, requested, ...fit }],
  ),
);

describe("a form fitted by maximum likelihood", () => {
  it.each(REQUESTED)("$requested of $series is as likely as the reference says", (reference) => {
    const { values, frequency, requested, series } = reference;
    const fit = fitSmoothing(formOf(requested), Float64Array.from(values), frequency)!;
    expect(fit.name).toBe(formName(formOf(requested)));
    expect(fit.aicc).toBeLessThanOrEqual(reference.aicc + 0.5);
    expect(fit.aicc - fit.aic).toBeCloseTo(reference.aicc - reference.aic, 3);
    // The reference stops at the bound of φ here, short of what every start of ours leads to.
    const isShort = series === "Nile" && requested === "AANd";
    if (Math.abs(fit.logLikelihood - reference.logLik) > 1 || isShort) return;
    projectSmoothing(fit, reference.mean.length).forEach(({ mean }, i) =>
      expect(Math.abs(mean / reference.mean[i]! - 1)).toBeLessThan(0.02),
    );
  });

  it.each(Object.entries(referenceFits))("the form chosen for %s is as good as the reference's", (_, own) => {
    const { chosen, tried } = chooseSmoothing(Float64Array.from(own.values), own.frequency)!;
    expect(chosen.aicc).toBeLessThanOrEqual(own.fits.find(({ requested }) => requested === null)!.aicc + 2);
    expect(tried[0]).toBe(chosen);
  });

  it("has the exact gradient of its likelihood, whatever the form and place, missing values or not", () => {
    const forms = stableForms(true, true);
    fc.assert(
      fc.property(
        fc.nat(forms.length - 1),
        fc.array(fc.double({ min: 0.6, max: 1.4, noNaN: true }), { minLength: 16, maxLength: 24 }),
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 9, maxLength: 9 }),
        fc.boolean(),
        (at, values, place, isGappy) => {
          const form = forms[at]!;
          const length = form.season === "none" ? 1 : 4;
          const y = Float64Array.from(values, (value, t) => (isGappy && t % 7 === 3 ? NaN : value));
          const { map, objective } = minusTwoLogLikelihood(form, y, length);
          const x = Float64Array.from({ length: map.dimension }, (_, i) => place[i % 9]!);
          x[map.at.level] = 1;
          if (map.at.slope >= 0) x[map.at.slope]! *= 0.01;
          if (map.at.seasonal >= 0)
            for (let i = 0; i < length - 1; i += 1) {
              const effect = 0.1 * place[i]!;
              x[map.at.seasonal + i] = form.season === "multiplicative" ? 1 + effect : effect;
            }
          const gradient = new Float64Array(map.dimension);
          const value = objective(x, gradient, new Float64Array(map.dimension ** 2));
          if (!Number.isFinite(value)) return;
          expect(objective(x)).toBe(value);
          for (let j = 0; j < map.dimension; j += 1) {
            const by = 1e-5;
            const [more, less] = [1, -1].map((sign) => objective(x.map((own, i) => (i === j ? own + sign * by : own))));
            const slope = (more! - less!) / (2 * by);
            if (Number.isFinite(slope))
              expect(Math.abs(gradient[j]! - slope)).toBeLessThan(1e-3 * (1 + Math.abs(slope)));
          }
        },
      ),
    );
  });

  it("is as likely as its own errors say, followed once more", () => {
    const y = Float64Array.from(referenceFits.UKgas.values);
    for (const form of stableForms(true, true)) {
      const fit = fitSmoothing(form, y, 4)!;
      const { sum, fitted } = followSmoothing(form, fit.parameters, y, form.season === "none" ? 1 : 4);
      const logs = form.error === "additive" ? 0 : fitted.reduce((all, mu) => all + Math.log(mu), 0);
      expect(fit.logLikelihood).toBeCloseTo(-0.5 * y.length * Math.log(sum) - logs, 4);
      expect(fit.parameterCount).toBe(parameterCount(form, 4));
    }
  });

  it("is the same whatever the series is counted in", () => {
    const y = Float64Array.from(referenceFits.UKgas.values);
    for (const form of stableForms(true, true)) {
      const [one, thousand] = [1, 1000].map((by) =>
        fitSmoothing(
          form,
          y.map((value) => value * by),
          4,
        )!,
      );
      projectSmoothing(one!, 4).forEach(({ mean, variance }, i) => {
        const other = projectSmoothing(thousand!, 4)[i]!;
        expect(other.mean / 1000 / mean).toBeCloseTo(1, 6);
        expect(other.variance / 1e6 / variance).toBeCloseTo(1, 5);
      });
    }
  });

  it("does not hold for series that are too short, that vary in nothing, or have what cannot be multiplied", () => {
    const form = formOf("MAM");
    expect(fitSmoothing(form, Float64Array.from([1, 2, 3, 4, 5]), 4)).toBeNull();
    expect(
      fitSmoothing(
        form,
        Float64Array.from({ length: 30 }, (_, t) => t - 3),
        4,
      ),
    ).toBeNull();
    expect(fitSmoothing(formOf("ANN"), new Float64Array(30), 1)).toBeNull();
    expect(chooseSmoothing(Float64Array.from([1, 2]), 1)).toBeNull();
  });

  it("keeps its rates inside the region in which old values lose weight", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -20, max: 20, noNaN: true }), { minLength: 10, maxLength: 10 }), (x) => {
        const { map } = minusTwoLogLikelihood(formOf("AAAd"), new Float64Array(20), 4);
        const { alpha, beta, gamma, phi } = parametersAt(map, Float64Array.from(x), 4, 0);
        expect(alpha).toBeGreaterThan(0);
        expect(alpha).toBeLessThan(1);
        expect(beta!).toBeLessThanOrEqual(alpha);
        expect(gamma!).toBeLessThanOrEqual(1 - alpha);
        expect(phi!).toBeGreaterThanOrEqual(0.8);
        expect(phi!).toBeLessThanOrEqual(0.98);
      }),
    );
  });
});

describe("a projection's variance", () => {
  it("is what simulated futures have, for every form", async () => {
    const { randomOf } = await import("../numerics/random.ts");
    const random = randomOf(11);
    const y = Float64Array.from(referenceFits.UKgas.values);
    for (const form of stableForms(true, true)) {
      const fit = fitSmoothing(form, y, 4)!;
      const length = fit.length;
      const { alpha, beta, gamma, phi } = fit.parameters;
      const [horizon, runs] = [6, 3_000];
      const [sums, squares] = [new Array<number>(horizon).fill(0), new Array<number>(horizon).fill(0)];
      for (let run = 0; run < runs; run += 1) {
        let { level, slope } = fit.last;
        const seasonal = [...fit.last.seasonal];
        for (let h = 0; h < horizon; h += 1) {
          const place = (y.length + h) % length;
          const base = level + (phi ?? 1) * slope;
          const effect = form.season === "none" ? 0 : seasonal[place]!;
          const mean = form.season === "multiplicative" ? base * effect : base + effect;
          const noise = Math.sqrt(fit.variance) * random.normal();
          const error = form.error === "additive" ? noise : mean * noise;
          sums[h]! += mean + error;
          squares[h]! += (mean + error) ** 2;
          const learned = form.season === "multiplicative" ? error / effect : error;
          level = base + alpha * learned;
          slope = (phi ?? 1) * slope + (beta ?? 0) * learned;
          if (form.season !== "none")
            seasonal[place] = effect + (gamma ?? 0) * (form.season === "multiplicative" ? error / base : error);
        }
      }
      projectSmoothing(fit, horizon).forEach(({ mean, variance }, h) => {
        const simulated = sums[h]! / runs;
        const deviation = Math.sqrt(squares[h]! / runs - simulated ** 2);
        expect(Math.abs(simulated - mean)).toBeLessThan((5 * deviation) / Math.sqrt(runs));
        // Where effects multiply, the formula leaves out how the errors of level and season go together.
        const near = form.season === "multiplicative" ? 0.12 : 0.06;
        expect(Math.abs(deviation / Math.sqrt(variance) - 1), `${fit.name} at ${h + 1}`).toBeLessThan(near);
      });
    }
  });
});

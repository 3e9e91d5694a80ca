/**
 * A smooth function to be made small: writes its gradient at `x`, and the lower half of a positive approximation
 * of its curvature, row by row, where they are wanted, and returns its value; not finite where it is not defined.
 */
export type Objective = (x: Float64Array, gradient?: Float64Array, curvature?: Float64Array) => number;

/** Where a search ended. */
export interface Minimum {
  readonly x: Float64Array;
  readonly value: number;
  /** How many times the function was evaluated. */
  readonly evaluations: number;
}

/** How long is searched. */
export interface SearchLimits {
  readonly mostEvaluations?: number;
  /** A gain below this is none; after two of them in a row the search ends. */
  readonly leastGain?: number;
}

const MOST_STILL = 2;
/** No number moves further in one step: the approximation holds near the place where it was made. */
const LONGEST_STEP = 3;
const MOST_DAMPING = 1e8;

/**
 * A local minimum by damped Gauss-Newton steps (Levenberg 1944, Marquardt 1963). The start must be where the
 * function is defined; the same start leads to the same minimum on every machine.
 */
export function minimise(
  objective: Objective,
  start: Float64Array,
  { mostEvaluations = 60, leastGain = 1e-4 }: SearchLimits = {},
): Minimum {
  const n = start.length;
  let [x, nextX] = [Float64Array.from(start), new Float64Array(n)];
  let [gradient, nextGradient] = [new Float64Array(n), new Float64Array(n)];
  let [curvature, nextCurvature] = [new Float64Array(n * n), new Float64Array(n * n)];
  const [factor, step] = [new Float64Array(n * n), new Float64Array(n)];
  let value = objective(x, gradient, curvature);
  let damping = 1e-3;
  let still = 0;
  let evaluations = 1;
  while (evaluations < mostEvaluations && still < MOST_STILL && damping < MOST_DAMPING) {
    if (!dampedStep(curvature, gradient, damping, factor, step)) {
      damping = Math.max(1e-6, damping * 10);
      continue;
    }
    for (let i = 0; i < n; i += 1) nextX[i] = x[i]! + Math.max(-LONGEST_STEP, Math.min(LONGEST_STEP, step[i]!));
    const next = objective(nextX, nextGradient, nextCurvature);
    evaluations += 1;
    if (Number.isFinite(next) && next < value) {
      still = value - next < leastGain ? still + 1 : 0;
      [x, nextX] = [nextX, x];
      [gradient, nextGradient] = [nextGradient, gradient];
      [curvature, nextCurvature] = [nextCurvature, curvature];
      value = next;
      damping = Math.max(1e-9, damping / 6);
    } else {
      if (Number.isFinite(next) && next - value < leastGain) still += 1;
      damping *= 5;
    }
  }
  return { x, value, evaluations };
}

/** The step that the damped curvature asks for; whether there is one. */
function dampedStep(
  curvature: Float64Array,
  gradient: Float64Array,
  damping: number,
  factor: Float64Array,
  step: Float64Array,
): boolean {
  const n = gradient.length;
  for (let i = 0; i < n; i += 1) {
    for (let j = 0; j <= i; j += 1) {
      let sum = curvature[i * n + j]!;
      if (i === j) sum += damping * (sum + 1e-6);
      for (let k = 0; k < j; k += 1) sum -= factor[i * n + k]! * factor[j * n + k]!;
      if (i !== j) factor[i * n + j] = sum / factor[j * n + j]!;
      else {
        if (!(sum > 0)) return false;
        factor[i * n + i] = Math.sqrt(sum);
      }
    }
  }
  for (let i = 0; i < n; i += 1) {
    let sum = -gradient[i]!;
    for (let k = 0; k < i; k += 1) sum -= factor[i * n + k]! * step[k]!;
    step[i] = sum / factor[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i -= 1) {
    let sum = step[i]!;
    for (let k = i + 1; k < n; k += 1) sum -= factor[k * n + i]! * step[k]!;
    step[i] = sum / factor[i * n + i]!;
  }
  return true;
}

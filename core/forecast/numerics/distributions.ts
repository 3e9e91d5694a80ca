/**
 * The standard normal's quantile at `p` between 0 and 1, to sixteen digits (Wichura 1988, AS 241).
 * Infinite at the ends.
 */
export function normalQuantile(p: number): number {
  if (p <= 0) return -Infinity;
  if (p >= 1) return Infinity;
  const q = p - 0.5;
  if (Math.abs(q) <= 0.425) return q * ratio(CENTRE, 0.180625 - q * q);
  const r = Math.sqrt(-Math.log(q < 0 ? p : 1 - p));
  const value = r <= 5 ? ratio(MIDDLE, r - 1.6) : ratio(TAIL, r - 5);
  return q < 0 ? -value : value;
}

type Rational = readonly [above: readonly number[], below: readonly number[]];

const CENTRE: Rational = [
  [
    3.387132872796366608, 133.14166789178437745, 1971.5909503065514427, 13731.693765509461125, 45921.953931549871457,
    67265.770927008700853, 33430.575583588128105, 2509.0809287301226727,
  ],
  [
    1, 42.313330701600911252, 687.1870074920579083, 5394.1960214247511077, 21213.794301586595867, 39307.89580009271061,
    28729.085735721942674, 5226.495278852545925,
  ],
];
const MIDDLE: Rational = [
  [
    1.42343711074968357734, 4.6303378461565452959, 5.7694972214606914055, 3.64784832476320460504,
    1.27045825245236838258, 0.24178072517745061177, 0.0227238449892691845833, 7.7454501427834140764e-4,
  ],
  [
    1, 2.05319162663775882187, 1.6763848301838038494, 0.68976733498510000455, 0.14810397642748007459,
    0.0151986665636164571966, 5.475938084995344946e-4, 1.05075007164441684324e-9,
  ],
];
const TAIL: Rational = [
  [
    6.6579046435011037772, 5.4637849111641143699, 1.7848265399172913358, 0.29656057182850489123,
    0.026532189526576123093, 0.0012426609473880784386, 2.71155556874348757815e-5, 2.01033439929228813265e-7,
  ],
  [
    1, 0.59983220655588793769, 0.13692988092273580531, 0.0148753612908506148525, 7.868691311456132591e-4,
    1.8463183175100546818e-5, 1.4215117583164458887e-7, 2.04426310338993978564e-15,
  ],
];

function ratio([above, below]: Rational, x: number): number {
  const at = (terms: readonly number[]) => terms.reduceRight((sum, term) => sum * x + term, 0);
  return at(above) / at(below);
}

/**
 * The probability that a chi-square of `freedom` degrees exceeds `x`: the regularised incomplete gamma function,
 * by its series where that converges quickly and by its continued fraction otherwise (Abramowitz and Stegun 6.5).
 */
export function chiSquareAbove(x: number, freedom: number): number {
  if (x <= 0) return 1;
  const [a, half] = [freedom / 2, x / 2];
  const scale = Math.exp(a * Math.log(half) - half - logGamma(a));
  if (half < a + 1) {
    let [term, sum] = [1 / a, 1 / a];
    for (let n = 1; n < 1_000 && Math.abs(term) > sum * 1e-16; n += 1) {
      term *= half / (a + n);
      sum += term;
    }
    return Math.min(1, Math.max(0, 1 - sum * scale));
  }
  const tiny = 1e-300;
  let b = half + 1 - a;
  let c = 1 / tiny;
  let d = 1 / b;
  let value = d;
  for (let n = 1; n < 1_000; n += 1) {
    const an = -n * (n - a);
    b += 2;
    d = 1 / notZero(an * d + b, tiny);
    c = notZero(b + an / c, tiny);
    value *= d * c;
    if (Math.abs(d * c - 1) < 1e-15) break;
  }
  return Math.min(1, scale * value);
}

function notZero(value: number, tiny: number): number {
  return Math.abs(value) < tiny ? tiny : value;
}

/** The logarithm of the gamma function of a positive number (Lanczos 1964, g = 7). */
function logGamma(x: number): number {
  const terms = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
    12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  const at = x - 1;
  const t = at + 7.5;
  const sum = terms.reduce((all, term, i) => all + (i === 0 ? term : term / (at + i)), 0);
  return 0.5 * Math.log(2 * Math.PI) + (at + 0.5) * Math.log(t) - t + Math.log(sum);
}

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

/**
 * The quantile of Student's distribution with at least four degrees of freedom, to about four digits between 0.01 and
 * 0.99 (the expansion of Abramowitz and Stegun 26.7.5).
 */
export function studentQuantile(p: number, freedom: number): number {
  const z = normalQuantile(p);
  const [z3, z5, z7, z9] = [z ** 3, z ** 5, z ** 7, z ** 9];
  return (
    z +
    (z3 + z) / (4 * freedom) +
    (5 * z5 + 16 * z3 + 3 * z) / (96 * freedom ** 2) +
    (3 * z7 + 19 * z5 + 17 * z3 - 15 * z) / (384 * freedom ** 3) +
    (79 * z9 + 776 * z7 + 1482 * z5 - 1920 * z3 - 945 * z) / (92_160 * freedom ** 4)
  );
}

type Rational = readonly [above: readonly number[], below: readonly number[]];

const CENTRE: Rational = [
  [
    3.3871328727963665, 133.14166789178438, 1971.5909503065513, 13731.69376550946, 45921.95393154987, 67265.7709270087,
    33430.57558358813, 2509.0809287301227,
  ],
  [
    1, 42.31333070160091, 687.1870074920579, 5394.196021424751, 21213.794301586597, 39307.89580009271,
    28729.085735721943, 5226.495278852546,
  ],
];
const MIDDLE: Rational = [
  [
    1.4234371107496835, 4.630337846156546, 5.769497221460691, 3.6478483247632045, 1.2704582524523684,
    0.2417807251774506, 0.022723844989269184, 0.0007745450142783414,
  ],
  [
    1, 2.053191626637759, 1.6763848301838038, 0.6897673349851, 0.14810397642748008, 0.015198666563616457,
    0.0005475938084995345, 1.0507500716444169e-9,
  ],
];
const TAIL: Rational = [
  [
    6.657904643501103, 5.463784911164114, 1.7848265399172913, 0.29656057182850487, 0.026532189526576124,
    0.0012426609473880784, 2.7115555687434876e-5, 2.0103343992922881e-7,
  ],
  [
    1, 0.599832206555888, 0.1369298809227358, 0.014875361290850615, 0.0007868691311456133, 1.8463183175100548e-5,
    1.421511758316446e-7, 2.0442631033899397e-15,
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
    0.9999999999998099, 676.5203681218851, -1259.1392167224028, 771.3234287776531, -176.6150291621406,
    12.507343278686905, -0.13857109526572012, 9.984369578019572e-6, 1.5056327351493116e-7,
  ];
  const at = x - 1;
  const t = at + 7.5;
  const sum = terms.reduce((all, term, i) => all + (i === 0 ? term : term / (at + i)), 0);
  return 0.5 * Math.log(2 * Math.PI) + (at + 0.5) * Math.log(t) - t + Math.log(sum);
}

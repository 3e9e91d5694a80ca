/**
 * The coefficients of least squares of `y` on the columns of `rows`, with `ridge` added to the squares of all but
 * the first column; `null` where the columns do not tell themselves apart. By the normal equations and Cholesky's
 * decomposition: for a few dozen columns of like size.
 */
export function leastSquares(rows: readonly (readonly number[])[], y: readonly number[], ridge = 0): number[] | null {
  const k = rows[0]?.length ?? 0;
  const square = Array.from({ length: k }, () => new Array<number>(k).fill(0));
  const right = new Array<number>(k).fill(0);
  rows.forEach((row, t) => {
    for (let i = 0; i < k; i += 1) {
      right[i]! += row[i]! * y[t]!;
      for (let j = 0; j <= i; j += 1) square[i]![j]! += row[i]! * row[j]!;
    }
  });
  for (let i = 1; i < k; i += 1) square[i]![i]! += ridge;
  return solveSquare(square, right);
}

/** Solves a symmetric positive definite system of which the lower half is given; it is overwritten. */
function solveSquare(square: number[][], right: number[]): number[] | null {
  const k = right.length;
  for (let i = 0; i < k; i += 1)
    for (let j = 0; j <= i; j += 1) {
      let sum = square[i]![j]!;
      for (let m = 0; m < j; m += 1) sum -= square[i]![m]! * square[j]![m]!;
      if (i !== j) square[i]![j] = sum / square[j]![j]!;
      else {
        // What is left after the other columns is nothing but rounding.
        if (!(sum > 1e-12 * Math.abs(square[i]![i]!)) || !Number.isFinite(sum)) return null;
        square[i]![i] = Math.sqrt(sum);
      }
    }
  for (let i = 0; i < k; i += 1) {
    for (let m = 0; m < i; m += 1) right[i]! -= square[i]![m]! * right[m]!;
    right[i]! /= square[i]![i]!;
  }
  for (let i = k - 1; i >= 0; i -= 1) {
    for (let m = i + 1; m < k; m += 1) right[i]! -= square[m]![i]! * right[m]!;
    right[i]! /= square[i]![i]!;
  }
  return right.every(Number.isFinite) ? right : null;
}

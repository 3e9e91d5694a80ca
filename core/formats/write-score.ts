/** A distance in standard errors: "−4.1 σ". */
export function writeScore(score: number): string {
  return `${score < 0 ? "−" : "+"}${Math.abs(score).toFixed(1)} σ`;
}

/** What a step says when it is done: figures, not adjectives. */
export type StepResult<T> = { readonly value: T; readonly said: string };

/** Runs a step of a launch program and prints its name, its figures and how long it took. */
export async function step<T>(name: string, work: () => Promise<StepResult<T>> | StepResult<T>): Promise<T> {
  const started = performance.now();
  const label = name.padEnd(14);
  const live = process.stdout.isTTY;
  if (live) process.stdout.write(`  ${label} …`);
  try {
    const { value, said } = await work();
    const seconds = ((performance.now() - started) / 1000).toFixed(1);
    process.stdout.write(`${live ? "\r" : ""}  ${label} ${said} (${seconds} s)\n`);
    return value;
  } catch (error) {
    if (live) process.stdout.write("\n");
    throw error;
  }
}

/** A reason to stop that the person at the keyboard can act on; printed without a stack trace. */
export class LaunchError extends Error {}

/** Runs a launch program; what it throws becomes a sentence and a non-zero exit. */
export function runProgram(program: () => Promise<void>): void {
  program().catch((error: unknown) => {
    const known = error instanceof LaunchError;
    console.error(known ? `\n  ${error.message}\n` : error);
    process.exitCode = 1;
  });
}

import { writeAs } from "#core/formats/writing.ts";
import { composeTable } from "#testing/composed/compose-table.ts";
import { judgeTable, type Verdict } from "#testing/composed/judge-table.ts";
import { writeTable } from "#testing/composed/write-table.ts";

/**
 * What becomes of files that are composed anew: by how their periods are written and what stands in them besides, how many
 * come out right, are stopped or are posted wrong. `HACKLE_FILES` says how many, `HACKLE_SEED` which ones.
 */
export async function benchFiles(): Promise<void> {
  const count = Number(process.env["HACKLE_FILES"] ?? 2000);
  const first = Number(process.env["HACKLE_SEED"] ?? Date.now() % 1e9);
  writeAs({ currency: "EUR", numbers: "1,234.5", dates: "30 November 2026" });
  const byKind = new Map<string, Record<Verdict["outcome"], number>>();
  const all = { right: 0, wrong: 0, stopped: 0 };
  const questions = [0, 0, 0, 0];
  const start = performance.now();
  for (let seed = first; seed < first + count; seed += 1) {
    const table = composeTable(seed);
    const { outcome, why, questions: asked } = await judgeTable(table, await writeTable(table, seed));
    all[outcome] += 1;
    questions[Math.min(asked, 3)]! += 1;
    const [, ...kinds] = table.combination.split(" ");
    for (const kind of [...new Set(kinds), table.language]) {
      const own = byKind.get(kind) ?? { right: 0, wrong: 0, stopped: 0 };
      own[outcome] += 1;
      byKind.set(kind, own);
    }
    if (outcome !== "right") console.log(`  ${seed} ${outcome}: ${table.combination}: ${why.slice(0, 160)}`);
  }
  const ms = (performance.now() - start) / count;
  console.log(
    `\n${count} files from seed ${first}: ${all.right} right (${((all.right / count) * 100).toFixed(1)}%), ${all.stopped} stopped, ${all.wrong} posted wrong; questions: none ${questions[0]}, one ${questions[1]}, two ${questions[2]}, more ${questions[3]}; ${ms.toFixed(0)} ms a file`,
  );
  for (const [kind, { right, stopped, wrong }] of [...byKind].sort(([a], [b]) => a.localeCompare(b)))
    console.log(`  ${kind.padEnd(12)} right ${right}, stopped ${stopped}, wrong ${wrong}`);
}

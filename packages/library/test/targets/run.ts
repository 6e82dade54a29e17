/**
 * `npm run targets -- --count N [--seed S]`: generated targets, each with generated records, the whole way. Prints what became of them,
 * why targets were refused at load, and which words stood in how many of those that loaded (`--words`). `--failures N` shows that many
 * failures, `--small` with as little as possible; `--only N` takes one case. `--changes`: a month later, with a rollback; with `--forced`
 * also for targets whose changes are refused.
 */

import { parseArgs } from "node:util";
import fc from "fast-check";
import { changeOf } from "./changed.js";
import { drawnTarget, type DrawnTarget } from "./generate.js";
import { force, rebuild, type Outcome } from "./rebuilt.js";
import { smaller } from "./smaller.js";

const { values } = parseArgs({
  options: {
    count: { type: "string", default: "1000" },
    seed: { type: "string", default: "1" },
    failures: { type: "string", default: "1" },
    small: { type: "boolean", default: false },
    only: { type: "string" },
    words: { type: "boolean", default: false },
    forced: { type: "boolean", default: false },
    changes: { type: "boolean", default: false },
  },
});

const totals: Record<Outcome["became"], number> = {
  rebuilt: 0,
  "rebuilt in part": 0,
  refused: 0,
  "refused at load": 0,
};
const loaded = new Map<string, number>();
const reasons = new Map<string, number>();
const failed = new Map<string, number>();
const count = (tally: Map<string, number>, one: string) => tally.set(one, (tally.get(one) ?? 0) + 1);
const byCount = (tally: ReadonlyMap<string, number>) => [...tally].sort(([, a], [, b]) => b - a);

/** What two failures have in common: their first line, without the names and numbers in it. */
const classOf = (message: string): string =>
  (message.split("\n")[0] ?? "")
    .replace(/[^ ¦;:"={}]*[.蜂عßn][^ ¦;"={}]*/g, "…")
    .replace(/\d+/g, "0")
    .slice(0, 130);

const messageOf = (one: DrawnTarget): Promise<string | undefined> =>
  rebuild(one).then(
    () => undefined,
    (error: unknown) => String((error as Error).message),
  );

const problemIn = (why: string): string => {
  const found = /"problem":("(?:[^"\\]|\\.)*")/.exec(why)?.[1];
  return found === undefined ? why.slice(0, 110) : (JSON.parse(found) as string).slice(0, 110);
};

const reasonOf = (became: Outcome["became"], why: string): string =>
  became === "refused at load" ? problemIn(why) : why.replace(/ .*/, "");

const isAlike = (kind: string) => async (one: DrawnTarget) =>
  classOf((await messageOf(one)) ?? "").slice(0, 25) === kind.slice(0, 25);

async function show(at: number, one: DrawnTarget, kind: string): Promise<void> {
  const small = values.small ? await smaller(one, isAlike(kind)) : one;
  console.error(`#${at} ${small.laid.shape} ${((await messageOf(small)) ?? "").slice(0, 6_000)}\n`);
}

/** By reason why targets are refused: how many of them went wrong when they were loaded anyway, and with what. */
async function forceAll(drawn: readonly DrawnTarget[]): Promise<void> {
  const tally = new Map<string, { refused: number; wrong: number; first: string }>();
  for (const one of drawn) {
    const { became, why } = await rebuild(one).catch(() => ({ became: "failed", why: [] as readonly string[] }));
    if (became !== "refused at load") continue;
    const reasons = new Set(
      why.map((text) => problemIn(text).replace(/^[^:"]*: |^"[^"]*" (?=is not a column)|(?<=column like ).*/g, "")),
    );
    // Of two reasons it would not be clear which of them it is.
    const [reason, ...others] = reasons;
    if (reason === undefined || others.length > 0) continue;
    const { wrong } = await force(one);
    const seen = tally.get(reason) ?? { refused: 0, wrong: 0, first: "" };
    tally.set(reason, {
      refused: seen.refused + 1,
      wrong: seen.wrong + (wrong === undefined ? 0 : 1),
      first: seen.first || classOf(wrong ?? ""),
    });
  }
  for (const [reason, { refused, wrong, first }] of [...tally].sort(([, a], [, b]) => b.refused - a.refused))
    console.log(`${refused} refused, ${wrong} of them wrong: ${reason}\n    ${first}`);
}

const all = fc.sample(drawnTarget, { numRuns: Number(values.count), seed: Number(values.seed) });
if (values.forced) {
  await forceAll(all);
  process.exit();
}
if (values.changes) {
  const changed = new Map<string, number>();
  for (const [at, one] of all.entries()) {
    if (values.only !== undefined && at !== Number(values.only)) continue;
    try {
      count(changed, await changeOf(one));
    } catch (error) {
      const kind = classOf(String((error as Error).message)).slice(0, 60);
      if (!failed.has(kind) && failed.size < Number(values.failures))
        console.error(`#${at} ${one.laid.shape} ${String((error as Error).stack).slice(0, 900)}\n`);
      count(failed, kind);
    }
  }
  console.log(
    JSON.stringify(Object.fromEntries(changed)),
    "failed",
    [...failed.values()].reduce((sum, n) => sum + n, 0),
  );
  for (const [one, times] of byCount(failed)) console.log(`FAILED ${times} × ${one}`);
  process.exit(failed.size > 0 ? 1 : 0);
}
for (const [at, one] of all.entries()) {
  if (values.only !== undefined && at !== Number(values.only)) continue;
  try {
    const { became, why, generated } = await rebuild(one);
    totals[became]++;
    if (became !== "refused at load") for (const word of generated.combined) count(loaded, word);
    for (const reason of new Set(why.map((text) => reasonOf(became, text)))) count(reasons, `${became}: ${reason}`);
  } catch (error) {
    const kind = classOf(String((error as Error).message));
    if (!failed.has(kind) && failed.size < Number(values.failures)) await show(at, one, kind);
    count(failed, kind);
  }
}

console.log(
  JSON.stringify(totals),
  "failed",
  [...failed.values()].reduce((sum, n) => sum + n, 0),
);
for (const [one, times] of byCount(reasons).slice(0, 60)) console.log(`${times} × ${one}`);
for (const [one, times] of byCount(failed)) console.log(`FAILED ${times} × ${one}`);
if (values.words)
  for (const [one, times] of [...loaded].sort(([a], [b]) => (a < b ? -1 : 1))) console.log(`${one}: ${times}`);
process.exitCode = failed.size > 0 ? 1 : 0;

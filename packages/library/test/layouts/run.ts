/**
 * `npm run layouts -- --count N [--seed S]`: generated layouts, each with generated records: what is written reads back, cell by cell, or
 * is refused. Prints what was combined and how often, and what was refused and why. `--fail N` shows that many failures and goes on.
 */

import { parseArgs } from "node:util";
import fc from "fast-check";
import { carry, type Outcome } from "./carried.js";
import { features } from "./features.js";
import { drawn, type Drawn } from "./generate.js";

const { values } = parseArgs({
  allowNegative: true,
  options: {
    count: { type: "string", default: "1000" },
    seed: { type: "string", default: "1" },
    counts: { type: "boolean", default: true },
    failures: { type: "string", default: "1" },
    small: { type: "boolean", default: false },
    only: { type: "string" },
  },
});

const tally = new Map<string, Record<Outcome["became"], number>>();
const reasons = new Map<string, number>();
const totals: Record<Outcome["became"], number> = { carried: 0, "refused at load": 0, "refused when written": 0 };
const failed = new Map<string, number>();

function count({ generated, became, why }: Outcome): void {
  totals[became] += 1;
  for (const one of generated.combined) {
    const of = tally.get(one) ?? { carried: 0, "refused at load": 0, "refused when written": 0 };
    of[became] += 1;
    tally.set(one, of);
  }
  const reason = became === "refused at load" ? why : why.map((one) => one.replace(/ .*/, ""));
  for (const one of new Set(reason)) reasons.set(one, (reasons.get(one) ?? 0) + 1);
}

/** What two failures have in common: their first line, without the names and numbers in it. */
function classOf(message: string): string {
  const [first = ""] = message.split("\n");
  return first
    .replace(/[^ ¦;:"={}]*[.蜂عßn][^ ¦;"={}]*/g, "…")
    .replace(/\d+/g, "0")
    .slice(0, 150);
}

/** The same failure with as little as possible. */
async function smaller(from: Drawn): Promise<Drawn> {
  for (const one of tries(from)) if (await fails(one)) return smaller(one);
  return from;
}

const fails = (one: Drawn): Promise<boolean> =>
  carry(one).then(
    () => false,
    () => true,
  );

function tries(from: Drawn): Drawn[] {
  const { all, style, picked } = from;
  const { things } = all;
  const withThings = (list: typeof things): Drawn => ({ ...from, all: { ...all, things: list } });
  return [
    ...picked.map((_, at) => ({ ...from, picked: picked.toSpliced(at, 1) })),
    ...(from.isLinked ? [{ ...from, isLinked: false }] : []),
    ...(from.languages === "columns" ? [] : [{ ...from, languages: "columns" as const }]),
    ...[0, 1].flatMap((format) => (style.format > format ? [{ ...from, style: { ...style, format } }] : [])),
    ...(style.header === 0 ? [] : [{ ...from, style: { ...style, header: 0 } }]),
    ...(from.axes === "by number" ? [] : [{ ...from, axes: "by number" as const }]),
    ...things.map((_, at) => withThings(things.toSpliced(at, 1))),
    ...things.flatMap((thing, at) =>
      thing.versions.map((_, nth) =>
        withThings(things.with(at, { ...thing, versions: thing.versions.toSpliced(nth, 1) })),
      ),
    ),
    ...(all.isGerman ? [{ ...from, all: { ...all, isGerman: false } }] : []),
  ].filter((one) => one.all.things.length > 0 && one.all.things.every(({ versions }) => versions.length > 0));
}

async function show(at: number, one: Drawn): Promise<void> {
  const picked = one.picked.map(({ name, way }) => `${name} ${way % (features[name]?.ways.length ?? 1)}`).join(", ");
  const message = await carry(one).then(String, (error: unknown) => String((error as Error).message));
  console.error(
    `#${at} ${one.shape} · ${one.languages}${one.isLinked ? " · linked" : ""} · ${picked}\n${message.slice(0, 2500)}\n`,
  );
}

const seed = Number(values.seed);
const all = fc.sample(drawn, { numRuns: Number(values.count), seed });
for (const [at, one] of all.entries()) {
  if (values.only !== undefined && at !== Number(values.only)) continue;
  try {
    count(await carry(one));
  } catch (error) {
    const message = classOf(String((error as Error).message));
    failed.set(message, (failed.get(message) ?? 0) + 1);
    if ([...failed.values()].reduce((sum, n) => sum + n, 0) <= Number(values.failures)) {
      await show(at, values.small ? await smaller(one) : one);
    }
  }
}

console.log(
  JSON.stringify(totals),
  "failed",
  [...failed.values()].reduce((sum, n) => sum + n, 0),
);
for (const [one, of] of [...tally].sort(([a], [b]) => (a < b ? -1 : 1)))
  if (values.counts && !one.startsWith("cell:")) console.log(`${one}: ${Object.values(of).join(" / ")}`);
const cells = [...tally].filter(([one]) => one.startsWith("cell:"));
console.log(
  `ways × shapes reached: ${cells.length}, carried: ${cells.filter(([, { carried }]) => carried > 0).length}`,
);
for (const [one, times] of [...reasons].sort(([, a], [, b]) => b - a)) console.log(`refused ${times} × ${one}`);
for (const [one, times] of [...failed].sort(([, a], [, b]) => b - a).slice(0, 20))
  console.log(`FAILED ${times} × ${one}`);
process.exitCode = failed.size > 0 ? 1 : 0;

/** Drafts of made-up supplies: how many columns are bound to what they truly hold, and what every draft has to be. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Findings, type Draft } from "zest-tier";
import { compileLayout, Kinds, parseGiven } from "zest-tier/parts";
import { givenLayout } from "zest-tier/schemas";
import { draftSupply } from "./supplies/draft.js";
import { judgeFile, type Judgement } from "./supplies/judge.js";
import { supplyOf, type Supply } from "./supplies/supplies.js";

const count = Number(process.env["PROPERTY_RUNS"] ?? 12);
/** Another seed than drafts were made better on. */
const seed = "ci";

interface Drafted {
  readonly supply: Supply;
  readonly drafts: readonly (Draft | undefined)[];
}
const drafted = (isMute: boolean): Promise<readonly Drafted[]> =>
  Promise.all(
    Array.from({ length: count }, async (_, number) => {
      const supply = supplyOf(seed, number, isMute);
      return { supply, drafts: await draftSupply(supply.files) };
    }),
  );

/** The share of columns with a field of which something is true, in percent. */
function shares(all: readonly Drafted[]): (judgement: Judgement) => number {
  const columns = all.flatMap(({ supply, drafts }) => supply.files.flatMap((file, at) => judgeFile(file, drafts[at])));
  const holding = columns.filter(({ truth }) => truth !== undefined).length;
  return (judgement) => (100 * columns.filter(({ judged }) => judged === judgement).length) / holding;
}

test("of columns in seven languages, with typing errors and damage, nearly all are bound right, and hardly one wrong", async () => {
  const share = shares(await drafted(false));
  assert.ok(share("right") >= 92, `${share("right")} % right`);
  assert.ok(share("wrong") <= 2, `${share("wrong")} % wrong`);
});

test("where headers say nothing, cells say half of it, and hardly anything wrong", async () => {
  const share = shares(await drafted(true));
  assert.ok(share("right") >= 40, `${share("right")} % right`);
  assert.ok(share("wrong") <= 4, `${share("wrong")} % wrong`);
});

test("each draft is a layout that can be run, with a reason for each column and no field twice", async () => {
  for (const { supply, drafts } of [...(await drafted(false)), ...(await drafted(true))])
    for (const [at, draft] of drafts.entries()) {
      const file = supply.files[at]!;
      assert.ok(draft, file.name);
      if (draft.lines.every(({ binding }) => binding === undefined)) continue;
      const findings = new Findings();
      const given = findings.took(parseGiven(draft.yaml, "draft.yaml", givenLayout));
      const layout = given && findings.took(compileLayout(given.value, given.at, new Kinds()));
      assert.deepEqual(findings.list(), [], draft.yaml);
      const joined = new Set(layout!.cells.flatMap((step) => ("from" in step ? step.from : [])));
      const bound = draft.lines.filter(({ header, binding }) => binding !== undefined && !joined.has(header));
      const fields = bound.map(({ binding }) => JSON.stringify(binding)).filter((text) => !text.includes("constant"));
      assert.equal(
        new Set(fields.map((text) => /"field":"([^"]*)"/.exec(text)?.[1] ?? text)).size,
        fields.length,
        draft.yaml,
      );
      assert.deepEqual(
        draft.lines.filter(({ why }) => why.length < 4),
        [],
      );
    }
});

/** Comparing and reshaping large catalogues: how much beyond reading both sides, and how it grows. */

import { Findings, Ledger, type Layout, type ResolvedCatalogue } from "zest-tier";
import {
  compareWithPlatform,
  compileLayout,
  Catalogue,
  Kinds,
  everything,
  parseGiven,
  parseTarget,
  readSources,
  reshape,
  resolveReferences,
  asTargetView,
} from "zest-tier/parts";
import { givenLayout } from "zest-tier/schemas";
import { nodeFiles, nodeSha256 } from "zest-tier/node";
import type { Workload } from "./generate.js";

export interface ChangeFigure {
  readonly products: number;
  readonly readBothMs: number;
  /** Reading both, and comparing. */
  readonly compareMs: number;
  readonly differing: number;
  /** One operation, with its balance. */
  readonly combineMs: number;
  readonly splitMs: number;
}

/** One in so many products says something else. */
const changedOneIn = 100;

export async function measureChanges({ source, layout: yaml, target: text }: Workload): Promise<ChangeFigure> {
  const kinds = new Kinds();
  const findings = new Findings();
  const given = findings.took(parseGiven(yaml, "layout", givenLayout))!;
  const layout = findings.took(compileLayout(given.value, given.at, kinds))!;
  const target = findings.took(parseTarget(text, "target", kinds))!;
  const started = performance.now();
  const yours = asTargetView(await read(source, layout, kinds));
  const platforms = (await read(source, layout, kinds)).branch();
  const readBothMs = performance.now() - started;
  const products = platforms.table("product");
  for (let row = 0; row < products.size; row += changedOneIn) products.setText("name@en", row, `Changed ${row}`);
  const compared = performance.now();
  const ledger = new Ledger();
  const platform = { catalogue: platforms, coverage: everything };
  const { records } = compareWithPlatform(
    { catalogue: yours, target, platform, ledger, sha256: nodeSha256, pairs: [] },
    new Findings(),
  );
  const compareMs = readBothMs + performance.now() - compared;
  const ports = { source: "en", toSlug: (word: string) => word.toLowerCase().replace(/[^a-z0-9]+/g, "-") };
  const { one, other, axis } = alike(yours);
  const combining = performance.now();
  const combined = findings.took(
    await reshape(
      yours,
      { combine: [one, other], into: "both", axis: "Which", values: { [one]: "One", [other]: "Other" }, take: {} },
      ports,
      { file: "bench" },
    ),
  );
  const combineMs = performance.now() - combining;
  const splitting = performance.now();
  const split =
    combined &&
    findings.took(
      await reshape(
        combined.catalogue,
        { split: "both", along: axis, name: "{name} {value}", key: "{key}-{value}" },
        ports,
        { file: "bench" },
      ),
    );
  const splitMs = performance.now() - splitting;
  if (!split) throw new Error(JSON.stringify(findings.list().slice(-3)));
  return { products: products.size, readBothMs, compareMs, differing: records.length, combineMs, splitMs };
}

async function read(source: string, layout: Layout, kinds: Kinds): Promise<ResolvedCatalogue> {
  const catalogue = new Catalogue(kinds);
  await readSources([{ file: source, layout }], catalogue, nodeFiles("/"), new Findings());
  return resolveReferences(catalogue, new Findings()).catalogue;
}

/** Two products with the same axes, to be combined and split again. */
function alike(catalogue: ResolvedCatalogue): { one: string; other: string; axis: string } {
  const products = catalogue.table("product");
  const axes = products.references.get("axes")!;
  const seen = new Map<string, number>();
  for (let row = 0; row < products.size; row++) {
    const own = axes.get(row);
    if (own.length === 0) continue;
    const word = own.map((number) => catalogue.pool.target.get(number)).join();
    const known = seen.get(word);
    if (known !== undefined) return { one: products.key(known), other: products.key(row), axis: "Which" };
    seen.set(word, row);
  }
  throw new Error("no two products have the same axes");
}

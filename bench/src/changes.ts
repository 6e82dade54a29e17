/** Comparing and reshaping large catalogues: how much beyond reading both sides, and how it grows. */

import { Findings, Ledger, type ResolvedCatalogue } from "zest-tier";
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
import { now, since, type Taken } from "./taken.js";

export interface ChangeFigure {
  readonly products: number;
  readonly readBoth: Taken;
  readonly compared: Taken;
  readonly differing: number;
  /** One operation, with its balance, and how long the next one takes. */
  readonly combine: Taken;
  readonly split: Taken;
}

/** One in so many products says something else. */
const changedOneIn = 100;

export async function measureChanges({ sources, target: text }: Workload): Promise<ChangeFigure> {
  const kinds = new Kinds();
  const findings = new Findings();
  const target = findings.took(parseTarget(text, "target", kinds))!;
  const started = now();
  const yours = asTargetView(await read(sources, kinds));
  const platforms = (await read(sources, kinds)).branch();
  const readAt = now();
  const products = platforms.table("product");
  for (let row = 0; row < products.size; row += changedOneIn) products.setText("name@en", row, `Changed ${row}`);
  const comparing = now();
  const platform = { catalogue: platforms, coverage: everything };
  const { records } = compareWithPlatform(
    { catalogue: yours, target, platform, ledger: new Ledger(), sha256: nodeSha256, pairs: [] },
    new Findings(),
  );
  const compared = since(comparing, now());
  const ports = { source: "en", toSlug: (word: string) => word.toLowerCase().replace(/[^a-z0-9]+/g, "-") };
  const { one, other, axis } = alike(yours);
  const combining = now();
  const combined = findings.took(
    await reshape(
      yours,
      { combine: [one, other], into: "both", axis: "Which", values: { [one]: "One", [other]: "Other" }, take: {} },
      ports,
      { file: "bench" },
    ),
  );
  const splitting = now();
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
  const done = now();
  if (!split) throw new Error(JSON.stringify(findings.list().slice(-3)));
  return {
    products: products.size,
    readBoth: since(started, readAt),
    compared,
    differing: records.length,
    combine: since(combining, splitting),
    split: since(splitting, done),
  };
}

async function read(sources: Workload["sources"], kinds: Kinds): Promise<ResolvedCatalogue> {
  const catalogue = new Catalogue(kinds);
  const findings = new Findings();
  const compiled = sources.map(({ file, layout }) => {
    const given = findings.took(parseGiven(layout, "layout", givenLayout))!;
    return { file, layout: findings.took(compileLayout(given.value, given.at, kinds))! };
  });
  await readSources(compiled, catalogue, nodeFiles("/"), findings);
  return resolveReferences(catalogue, findings).catalogue;
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

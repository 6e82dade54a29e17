/** Comparing and reshaping large catalogues: how much beyond reading both sides, and how it grows. */

import { Findings, Ledger, type Operation, type ResolvedCatalogue } from "zest-tier";
import {
  compareWithPlatform,
  compileLayout,
  Catalogue,
  Kinds,
  everything,
  parseGiven,
  parseTarget,
  readSources,
  reshapeByAll,
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
  /** One operation that combines two products, with its balance; and as many as there are pairs to combine, a thousand at most. */
  readonly oneOperation: Taken;
  readonly operations: number;
  readonly allOperations: Taken;
}

/** One in so many products says something else. */
const changedOneIn = 100;

/** @param beginToRead is called before the sources are read. */
export async function measureChanges(
  { sources, target: text }: Workload,
  beginToRead: () => void,
): Promise<ChangeFigure> {
  const kinds = new Kinds();
  const findings = new Findings();
  const target = findings.took(parseTarget(text, "target", kinds))!;
  beginToRead();
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
  const operations = combinations(yours).map((operation) => ({ operation, at: { file: "bench" } }));
  const carryOut = async (some: typeof operations): Promise<Taken> => {
    const began = now();
    const { done, findings: found } = await reshapeByAll(yours, some, ports);
    if (done.length < some.length) throw new Error(JSON.stringify(found.list().slice(-3)));
    return since(began, now());
  };
  return {
    products: products.size,
    readBoth: since(started, readAt),
    compared,
    differing: records.length,
    oneOperation: await carryOut(operations.slice(0, 1)),
    operations: operations.length,
    allOperations: await carryOut(operations),
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

const mostOperations = 1_000;

/** Operations that each combine two products with the same axes. */
function combinations(catalogue: ResolvedCatalogue): Operation[] {
  const products = catalogue.table("product");
  const axes = products.referencesOf("axes");
  const waiting = new Map<string, number>();
  const operations: Operation[] = [];
  for (let row = 0; row < products.size && operations.length < mostOperations; row++) {
    const own = axes.get(row);
    if (own.length === 0) continue;
    const word = own.map((number) => catalogue.pool.target.get(number)).join();
    const other = waiting.get(word);
    if (other === undefined) {
      waiting.set(word, row);
      continue;
    }
    waiting.delete(word);
    const [first, second] = [products.key(other), products.key(row)];
    const values = { [first]: "One", [second]: "Other" };
    operations.push({ combine: [first, second], into: `both-${operations.length}`, axis: "Which", values, take: {} });
  }
  return operations;
}

/** What is recorded of a catalogue on a platform: findings, plan, files, verdict. Cases: seeded catalogues, suppliers' files, Fennel Quay. */

import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { findingTable, Findings, type Layout, type TargetView, type Target } from "zest-tier";
import {
  buildUpload,
  calibrateLayout,
  Catalogue,
  checkCatalogue,
  CodeIndex,
  compileLayout,
  draftLayout,
  isOfRecords,
  Kinds,
  lookAt,
  parseGiven,
  parseTarget,
  readSources,
  playUpload,
  rehearseThrough,
  resolveReferences,
  asTargetView,
} from "zest-tier/parts";
import { givenLayout } from "zest-tier/schemas";
import { nodeSha256, shippedTarget } from "zest-tier/node";
import { planToJson } from "#src/render/plan.js";
import { findingsToJson } from "#src/render/findings.js";
import { damaged, memoryFiles, pictureNames as shopPictures, readShop, shop } from "../generate.js";
import { damagedRich, pictureNames as richPictures, readRich, rich } from "../rich.js";
import { filesTexts, verdictText, type GoldenCase } from "./texts.js";

/** Change it, and every recorded hash changes. */
const seed = 20261127;
const ofEach = 50;
const everything: ReadonlySet<string> = new Set(Object.keys(findingTable));
const kinds = new Kinds();
export const platforms = ["pennywort", "saltmarsh", "tollgate"] as const;

interface Read {
  readonly catalogue: TargetView;
  readonly findings: Findings;
}

/** Two hundred generated catalogues, half of them damaged, each for three platforms. @param every takes only every so manyth. */
export async function* seededCases(every = 1): AsyncGenerator<GoldenCase> {
  const sample = <T>(of: fc.Arbitrary<T>): T[] => fc.sample(of, { seed, numRuns: ofEach });
  const groups: readonly (readonly [string, readonly (() => Promise<Read>)[], readonly string[]])[] = [
    ["shop", sample(shop()).map((one) => () => readShop(one)), shopPictures],
    ["damaged-shop", sample(damaged()).map((one) => () => readShop(one)), shopPictures],
    ["catalogue", sample(rich()).map((one) => () => readRich(one)), richPictures],
    ["damaged-catalogue", sample(damagedRich(3)).map((one) => () => readRich(one)), richPictures],
  ];
  for (const [group, reads, pictures] of groups)
    for (const [at, read] of reads.entries())
      for (const platform of at % every === 0 ? platforms : []) {
        const target = await shipped(platform);
        const id = `${group}-${String(at).padStart(2, "0")} ${platform}`;
        yield { id, texts: await record(await read(), target, pictures, false) };
        if (group.startsWith("damaged"))
          yield { id: `${id} held back`, texts: await record(await read(), target, pictures, true) };
      }
}

const libraryTests = new URL("../../../../library/test/", import.meta.url);

/** Twelve suppliers' files: read by the layouts made by hand, calibrated, drafted, and built for each platform. */
export async function* supplierCases(): AsyncGenerator<GoldenCase> {
  const root = new URL("suppliers/", libraryTests);
  const suppliers = readdirSync(root, { withFileTypes: true }).filter((entry) => entry.isDirectory());
  for (const name of suppliers.map((entry) => entry.name).sort()) {
    const folder = new URL(`${name}/`, root);
    const names = readdirSync(folder).sort();
    const file = names.find((one) => !one.endsWith(".yaml") && one !== "intended.txt")!;
    const bytes = readFileSync(new URL(file, folder));
    const layouts = names
      .filter((one) => one.endsWith(".yaml"))
      .map((one) => layoutOf(readFileSync(new URL(one, folder), "utf8"), one));
    const files = memoryFiles({ [file]: bytes });
    const samples = await lookAt(once(bytes), file, new Findings());
    const calibrated: string[] = [];
    for (const layout of layouts) {
      const findings = new Findings();
      const result = findings.took(await calibrateLayout(file, layout, kinds, files));
      const columns = result?.columns.map((column) => ({ ...column, forms: [...column.forms] }));
      calibrated.push(JSON.stringify({ ...result, columns, findings: findingsToJson(findings.list(), "en") }, null, 1));
    }
    const drafts = samples.map((sample) => draftLayout(sample, name).yaml);
    yield { id: name, texts: { draft: drafts.join("\n"), calibrated: calibrated.join("\n") } };
    for (const platform of platforms) {
      const sources = layouts.map((layout) => ({ file, layout }));
      const read = await readCatalogue(sources, { [file]: bytes });
      yield { id: `${name} ${platform}`, texts: await record(read, await shipped(platform), [], false) };
    }
  }
}

/** A platform that only its description and its target file know, from a range of its own samples. */
export async function* fennelQuayCases(): AsyncGenerator<GoldenCase> {
  const folder = new URL("fennel-quay/", libraryTests);
  const textOf = (name: string) => readFileSync(new URL(name, folder), "utf8");
  const target = parse(textOf("target.yaml"), "fennel-quay");
  const layouts = ["shelves", "wares"].map((name) => ({
    file: `${name}.csv`,
    layout: target.files.get(name)!.layout,
  }));
  const bytes = Object.fromEntries(layouts.map(({ file }) => [file, new TextEncoder().encode(textOf(file))]));
  const read = await readCatalogue(layouts, bytes);
  yield { id: "fennel-quay", texts: await record(read, target, [], false) };
}

async function readCatalogue(
  sources: readonly { readonly file: string; readonly layout: Layout }[],
  bytes: Readonly<Record<string, Uint8Array>>,
): Promise<Read> {
  const findings = new Findings();
  const unresolved = new Catalogue(kinds);
  await readSources(sources, unresolved, memoryFiles(bytes), findings);
  const catalogue = asTargetView(resolveReferences(unresolved, findings).catalogue);
  checkCatalogue({ catalogue, codes: new CodeIndex(catalogue), pictures: undefined, languages: [], findings });
  return { catalogue, findings };
}

/** Builds, in spite of all or holding back what is faulty, and rehearses it through all rounds. */
async function record(
  { catalogue, findings }: Read,
  target: Target,
  pictureNames: readonly string[],
  holdBack: boolean,
): Promise<Readonly<Record<string, string>>> {
  const files: Record<string, Uint8Array> = {};
  const nothing = () => Promise.resolve();
  const sink = {
    write: (name: string, chunks: Iterable<Uint8Array>) => {
      files[name] = Buffer.concat([...chunks]);
      return Promise.resolve();
    },
    read: (name: string) => memoryFiles(files).read(name),
    finish: nothing,
    discard: nothing,
  };
  const pictures = new Map(pictureNames.map((name) => [name, new Uint8Array([1])]));
  const despite = holdBack ? new Set<string>() : everything;
  const choices = { project: "golden", pictures, holdBack, despite, sha256: nodeSha256 };
  const built = await buildUpload({ catalogue, target, ...choices, found: findings }, sink);
  const found = JSON.stringify(findingsToJson(built.findings.list(), "en"), null, 1);
  if (!built.ok) return { findings: found, plan: "none", files: "none", papers: "none", verdict: "none" };
  const { plan, heldBack } = built.value;
  const inRounds = isOfRecords(target) && plan.steps.some((step) => step.is === "collect");
  const rehearsed = inRounds
    ? { ok: true as const, value: await rehearseThrough({ catalogue, target, heldBack, pictureNames }) }
    : await playUpload({ catalogue, target, plan, heldBack, files: memoryFiles(files) });
  return {
    findings: found,
    plan: JSON.stringify(planToJson(plan, "en"), null, 1),
    ...filesTexts(Object.entries(files)),
    verdict: rehearsed.ok ? verdictText(rehearsed.value) : "none",
  };
}

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield await Promise.resolve(bytes);
}

const shipped = async (name: string): Promise<Target> => parse((await shippedTarget(name))!, name);

function parse(text: string, name: string): Target {
  const findings = new Findings();
  const target = findings.took(parseTarget(text, name, kinds));
  if (!target) throw new Error(JSON.stringify(findings.list()));
  return target;
}

function layoutOf(yaml: string, name: string): Layout {
  const findings = new Findings();
  const given = findings.took(parseGiven(yaml, name, givenLayout));
  const layout = given && findings.took(compileLayout(given.value, given.at, kinds));
  if (!layout) throw new Error(JSON.stringify(findings.list()));
  return layout;
}

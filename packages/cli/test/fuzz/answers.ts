/** What a platform answers, damaged: reports of imports and exports are collected, exports compared with what is intended. */

import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  checkPlatform,
  collect,
  openTarget,
  planUpload,
  valueOf,
  type OpenedTarget,
  type PlannedUpload,
} from "zest-tier";
import { answerFirstRound, quietIo } from "../crash/scenes.js";
import { openPlanned } from "#src/planned.js";
import { portOf, type Family, type Files } from "./input.js";
import { mutated, oneOf } from "./mutate.js";

const project: Readonly<Record<string, string>> = {
  "project.yaml":
    "project: p\nsources: [{ file: s.csv, layout: s.yaml }]\nlanguages: [en, de]\ntargets: [{ target: saltmarsh }]\n",
  "s.csv":
    "Key,Code,Name,Name de,Size,Shelf,Maker,Price\na,A-1,Hive,Beute,S,Hives / Full,Thornapple,12.5\na,A-2,,,M,,,13\nb,B-1,Box,Zarge,,Hives,Thornapple,9\n",
  "s.yaml":
    "layout: s\nrows: { each: variant, of: product, grouped by: Key, groups: scattered }\ncolumns:\n  Key: product.key\n  Code: variant.code\n  Name: product.name@en\n  Name de: product.name@de\n  Size: { axis: Size, holds: value@en }\n  Shelf: { field: product.categories, as: { path: ' / ', by: name@en }, missing: create }\n  Maker: { field: product.brand, as: { by: name@en }, missing: create }\n  Price: { field: variant.prices(price).amount, as: decimal }\n",
};

interface Answered {
  readonly opened: OpenedTarget;
  readonly prepared: PlannedUpload;
  readonly upload: Files;
  /** Reports and exports; the whole catalogue as `catalogue.json`. */
  readonly answers: Files;
}

const filesIn = (folder: string): Files =>
  new Map(readdirSync(folder).map((name) => [name, new Uint8Array(readFileSync(join(folder, name)))]));

/** A project whose first files were sent to a stand-in. */
async function prepare(): Promise<Answered> {
  const folder = mkdtempSync(join(tmpdir(), "zest-answers-"));
  try {
    for (const [name, text] of Object.entries(project)) writeFileSync(join(folder, name), text);
    const catalogue = await answerFirstRound(folder);
    const planned = await openPlanned({ argument: folder, options: { for: "saltmarsh" } }, quietIo);
    if (!planned.ok) throw new Error("the project cannot be planned");
    const answers = new Map(filesIn(join(folder, "reports-saltmarsh")));
    answers.set("catalogue.json", new TextEncoder().encode(JSON.stringify(catalogue)));
    const { opened } = planned.session;
    return { opened, prepared: planned.prepared, upload: filesIn(join(folder, "upload-saltmarsh")), answers };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const { opened, prepared, upload, answers: told } = await prepare();

async function attempt(name: string, bytes: Uint8Array): Promise<boolean> {
  const files = portOf(new Map(told).set(name, bytes));
  const collected = await collect(opened, prepared, { upload: portOf(upload), uploadName: "upload", reports: files });
  if (collected.ok) valueOf(await planUpload(collected.value.opened));
  const compared = await openTarget(opened, { export: { given: [{ file: name, files }], isWholeRange: false } });
  if (compared.ok) await planUpload(compared.value);
  await checkPlatform(opened, prepared, [{ file: name, files }]);
  return collected.ok;
}

export const answers: Family = {
  make(random) {
    const [name, bytes] = oneOf(random, [...told]);
    return { names: [name], bytes: mutated(random, bytes, oneOf(random, [...told.values()])) };
  },
  whole: { names: ["catalogue.json"], bytes: told.get("catalogue.json") ?? new Uint8Array() },
  attempt: ({ names: [name = ""], bytes }) => attempt(name, bytes),
};

/** The rough project: every damage that is listed is found where it is listed, and what it would do on the platform is expected. */

import assert from "node:assert/strict";
import { cpSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { startStandIn, type StandIn } from "@zest-tier/standins";
import { findingTable, Findings, plainRecords, type PlainRecord, type Verdict } from "zest-tier";
import { loadProject, picturesNamed, buildUpload, readProject, playUpload, asTargetView } from "zest-tier/parts";
import { folderSink, nodeFiles, nodeSha256, shippedLayout, shippedTarget } from "zest-tier/node";
import { differencesOf, toldOn } from "./on-platform.js";

interface Damage {
  readonly id: string;
  readonly what: string;
  readonly file: string;
  readonly line?: number;
  readonly code: string | null;
}

const rough = fileURLToPath(new URL("../../../../demo/rough", import.meta.url));
const damages = JSON.parse(readFileSync(join(rough, "damage.json"), "utf8")) as Damage[];

let work: string;
let standIn: StandIn;
let findings: Findings;
let verdict: Verdict;
let report: { rows: { line: number; item: string; outcome: string }[] };
let differences: readonly unknown[];

before(async () => {
  work = mkdtempSync(join(tmpdir(), "zest-tier-rough-"));
  cpSync(rough, join(work, "rough"), { recursive: true });
  cpSync(join(rough, "../clean/pictures"), join(work, "clean/pictures"), { recursive: true });
  const files = nodeFiles(join(work, "rough"));
  findings = new Findings();
  const project = findings.took(await loadProject("project.yaml", files, shippedTarget, shippedLayout))!;
  const read = await readProject(project, files, findings);
  const target = project.targets[0]!;
  const catalogue = asTargetView(read.catalogue);
  const there = picturesNamed(catalogue).filter((name) => read.pictureNames!.has(name));
  const pictures = new Map(
    there.map((name) => [name, new Uint8Array(readFileSync(join(work, "clean/pictures", name)))]),
  );
  const sink = await folderSink(join(work, "upload"), "p");
  assert.ok(sink.ok);
  const upload = findings.took(
    await buildUpload(
      {
        catalogue,
        target,
        project: project.name,
        pictures,
        holdBack: false,
        despite: new Set(Object.keys(findingTable)),
        sha256: nodeSha256,
        found: new Findings(),
      },
      sink.value,
    ),
  )!;
  const rehearsed = await playUpload({
    catalogue,
    target,
    ...upload,
    files: nodeFiles(join(work, "upload")),
  });
  assert.ok(rehearsed.ok);
  verdict = rehearsed.value;
  standIn = await startStandIn("pennywort");
  await fetch(`${standIn.url}/pictures`, { method: "POST", body: readFileSync(join(work, "upload/01-pictures.zip")) });
  report = (await (
    await fetch(`${standIn.url}/imports/items.csv`, {
      method: "POST",
      body: readFileSync(join(work, "upload/02-items.csv")),
    })
  ).json()) as typeof report;
  differences = differencesOf(verdict.held.catalogue, (await toldOn(standIn.url, target)).catalogue, target);
});
after(async () => {
  await standIn.stop();
  rmSync(work, { recursive: true, force: true });
});

test("lists at least twelve kinds of damage", () => {
  assert.ok(new Set(damages.map((damage) => damage.code)).size >= 12);
});

for (const { id, what, file, line, code } of damages) {
  if (code === null) continue;
  test(`finds ${id}: ${what}`, () => {
    const found = findings
      .list()
      .filter((one) => one.code === code && (line === undefined || (one.at?.file === file && one.at.line === line)));
    assert.ok(found.length > 0);
  });
}

test("predicts what Pennywort does with every row of it", () => {
  const expected = verdict.files[0]!.rows;
  assert.ok(expected.some((row) => row.outcome === "refused"));
  assert.deepEqual(
    report.rows.map((row) => `${row.line} ${row.item} ${row.outcome}`),
    expected.map((row) => `${row.line} ${row.parent} ${row.outcome}`),
  );
  assert.deepEqual(differences, []);
});

/** The records on a platform. */
class Held {
  constructor(readonly records: readonly PlainRecord[]) {}

  product = (key: string) => this.records.find((one) => one.kind === "product" && one.key === key);
  /** What has a code: a version, or a product that is sold by itself. */
  coded = (code: string) => this.records.find(({ texts }) => texts["code"] === code);
  value = (key: string) => this.records.find((one) => one.kind === "value" && one.key === key);
}

/** What each damage comes to on the platform: refused, or taken and not what was intended, or taken without harm. */
const outcomes: Readonly<Record<string, (held: Held) => boolean>> = {
  "code-twice": ({ product, coded }) => {
    const holder = coded("BC-HJ");
    return !product("j-tool") && (holder?.of ?? holder?.key) === "frame-grip";
  },
  "shelf-misspelt": ({ records }) =>
    records.some((one) => one.kind === "category" && one.key === "Hives/Boxes + floors/Floor and roofs"),
  "long-text": ({ product }) => product("fondant")!.texts["description@en"]!.length === 2000,
  "picture-missing": ({ product }) => product("wick")!.entries["pictures"] === undefined,
  "relation-unknown": ({ product }) => product("hive-diary")!.entries["relations"] === undefined,
  "value-spelt-twice": ({ coded, value }) =>
    coded("BC-RG-PINE")!.references["values"]!.some((key) => value(key)!.texts["name@en"] === "pine "),
  "barcode-scientific": ({ product }) => !product("hive-scale"),
  "no-name": ({ product }) => !product("frame-feeder"),
  "price-with-point": ({ product }) => !product("mite-board"),
  "combination-twice": ({ product }) => !product("half-jacket"),
  "struck-below": ({ product }) => !product("spinner-two"),
  "cell-too-many": ({ product }) => !product("candle-skep"),
};

for (const [id, holds] of Object.entries(outcomes)) {
  test(`predicts what comes of ${id}`, () => {
    assert.ok(damages.some((damage) => damage.id === id));
    assert.ok(holds(new Held(plainRecords(verdict.held.catalogue))));
  });
}

test("says which products a shopper would not see, and why", () => {
  assert.deepEqual(
    verdict.hidden.map(({ product, because }) => `${product}: ${because.join()}`),
    ["square-veil: it is not shown"],
  );
});

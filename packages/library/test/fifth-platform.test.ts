/** A platform that nobody had thought of: described, then written as data, calibrated on its samples, built for and rehearsed. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { draftTarget, Findings } from "#src/index.js";
import { buildUpload, calibrateLayout, draftLayout, lookAt, parseTarget, playUpload, verifyPlan } from "#src/parts.js";
import { nodeSha256 } from "#src/node/index.js";
import {
  bytesOf,
  codes,
  filesOf,
  kinds,
  memorySink,
  pennywortText,
  rangeCsv,
  rangeLayout,
  read,
  single,
} from "./support.js";

const folder = new URL("../../test/fennel-quay/", import.meta.url);
const textOf = (name: string) => readFileSync(new URL(name, folder), "utf8");

function quay() {
  const findings = new Findings();
  const target = findings.took(parseTarget(textOf("target.yaml"), "target.yaml", kinds));
  assert.deepEqual(findings.list(), []);
  return target!;
}

test("its layouts calibrate on its own samples: every bound cell comes back equal", async () => {
  const target = quay();
  for (const name of ["shelves", "wares"]) {
    const findings = new Findings();
    const file = `${name}.csv`;
    const result = findings.took(
      await calibrateLayout(file, target.files.get(name)!.layout, kinds, filesOf({ [file]: textOf(file) })),
    );
    const different = result!.columns.flatMap((column) =>
      column.different.map((one) => [column.header, one.was, one.is]),
    );
    // Shelves of the wares are in another file, so the wares alone name what is not there: written as it came anyway.
    assert.deepEqual(different, [], name);
    assert.ok(result!.columns.some((column) => column.equal > 0));
  }
});

const sources = [
  {
    layout: rangeLayout,
    csv: rangeCsv(
      single("a", { Shelf: "Hives / Full", Photos: "a.png", Stock: "3" }),
      { ...single("b", { Shelf: "Hives" }), "Feature 1": "Wood", "Feature 1 is": "Pine" },
      { Range: "b", No: "C-b2", "Feature 1 is": "Oak", Price: "2,00" },
    )
      .replaceAll("C-a", "CA")
      .replaceAll("C-b2", "CB2")
      .replaceAll("C-b", "CB"),
  },
];

test("a catalogue is built for it, in two files in their order, and rehearsed: rebuilt as intended", async () => {
  const target = quay();
  const { catalogue, findings } = await read(sources);
  const sink = memorySink();
  const upload = findings.took(
    await buildUpload(
      {
        catalogue,
        target,
        project: "p",
        pictures: new Map([["a.png", new Uint8Array([1])]]),
        holdBack: false,
        despite: new Set(),
        sha256: nodeSha256,
        found: new Findings(),
      },
      sink,
    ),
  );
  assert.ok(upload, JSON.stringify(findings.list().filter((one) => one.severity === "error")));
  assert.deepEqual(verifyPlan(catalogue, target, upload.plan), []);
  assert.deepEqual(Object.keys(sink.files).slice(0, 3), ["01-pictures.zip", "02-shelves.csv", "03-wares.csv"]);
  const rehearsed = await playUpload({
    catalogue,
    target,
    ...upload,
    files: filesOf(sink.files),
  });
  assert.ok(rehearsed.ok);
  assert.deepEqual(rehearsed.value.differences, []);
  assert.deepEqual(rehearsed.value.counts, { created: 6, updated: 0, unchanged: 0, deleted: 0, refused: 0 });
  assert.deepEqual(rehearsed.value.hidden, []);
});

test("what it refuses is expected: a sign too long, a ticket of small letters", async () => {
  const target = quay();
  const [given] = sources;
  const spoilt = { ...given!, csv: given!.csv.replace("CB2", "cb2") };
  const { catalogue, findings } = await read([spoilt]);
  const refused = findings.took(
    await buildUpload(
      {
        catalogue,
        target,
        project: "p",
        pictures: new Map(),
        holdBack: false,
        despite: new Set(),
        sha256: nodeSha256,
        found: new Findings(),
      },
      memorySink(),
    ),
  );
  assert.equal(refused, undefined);
  assert.ok(codes(findings.list()).includes("target/characters"));
});

test("a target drafted from a sample is one that can be used, and says what is assumed", async () => {
  const findings = new Findings();
  const [sample] = await lookAt(bytesOf(textOf("wares.csv")), "wares.csv", findings);
  const { yaml } = draftLayout(sample!, "wares");
  const drafted = draftTarget("quay", yaml, new Map([["refusal", "row"]]));
  const target = findings.took(parseTarget(drafted.yaml, "drafted.yaml", kinds));
  assert.ok(target, JSON.stringify(findings.list()));
  const open = drafted.questions.filter((question) => question.answer === undefined);
  for (const { name } of open) assert.ok(drafted.yaml.includes(`# assumed: ${name}=`), name);
  assert.ok(!drafted.yaml.includes("# assumed: refusal"), "what is answered is not assumed");
  assert.ok(open.length > 4);

  // The other form, on rows that Pennywort's own file shows: grouped.
  assert.ok(pennywortText.includes("grouped by"));
  const grouped =
    "Item;Code;Title;Category;Trait;Value;Price\na;A1;One;Home > Lamps;Size;S;1.00\na;A2;;;;L;2.00\nb;B1;Two;Home;;;3.00\n";
  const [other] = await lookAt(bytesOf(grouped), "items.csv", findings);
  const second = draftTarget("grouped", draftLayout(other!, "items").yaml, new Map());
  assert.ok(
    findings.took(parseTarget(second.yaml, "grouped.yaml", kinds)),
    `${JSON.stringify(findings.list())}\n${second.yaml}`,
  );
  assert.match(second.yaml, /Category:\n {8}blank: leave\n {8}unknown: create/);
  assert.match(second.yaml, /^# left out: Trait/m);

  // With axes, grouped and with rows of their own, and without.
  const samples = [
    "Item;Code;Title;Colour;Price\na;A1;One;red;1.00\na;A2;;blue;2.00\nb;B1;Two;;3.00\n",
    "Item;Code;Title;Axis 1;Axis 1 value;Price\na;A1;One;Size;S;1.00\na;A2;;;L;2.00\nb;B1;Two;;;3.00\n",
    "Kind;Item;Code;Title;Price\nP;a;;One;\nV;a;A1;;1.00\nV;a;A2;;2.00\nP;b;B1;Two;3.00\n",
    "Item;Title;Price\na;One;1.00\nb;Two;3.00\n",
  ];
  for (const text of samples) {
    const [given] = await lookAt(bytesOf(text), "given.csv", findings);
    const made = draftTarget("made", draftLayout(given!, "given").yaml, new Map());
    const result = parseTarget(made.yaml, "made.yaml", kinds);
    assert.ok(result.ok, `${JSON.stringify(result.findings.list())}\n${made.yaml}`);
  }
});

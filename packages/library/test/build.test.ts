import assert from "node:assert/strict";
import { createHash } from "node:crypto";
import { mkdtemp, readdir, readFile, rm, writeFile, mkdir } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test } from "node:test";
import fc from "fast-check";
import { unzipSync } from "fflate";
import { Findings, type Finding, type Target, type UploadSink } from "#src/index.js";
import { buildUpload, prepareBuild, uploadMark } from "#src/parts.js";
import { folderSink, nodeSha256 } from "#src/node/index.js";
import { codes, memorySink, one, those, pennywort, rangeCsv, rangeLayout, read, single } from "./support.js";

interface Options {
  readonly target?: Target;
  readonly holdBack?: boolean;
  readonly despite?: readonly string[];
  readonly sink?: UploadSink;
  readonly layout?: string;
}

async function build(rows: readonly Record<string, string>[], options: Options = {}) {
  const { catalogue, findings } = await read([{ layout: options.layout ?? rangeLayout, csv: rangeCsv(...rows) }]);
  const memory = memorySink();
  const pictures = new Map([["a.png", new Uint8Array([1, 2, 3])]]);
  const { target = pennywort(), holdBack = false, despite = [], sink = memory } = options;
  const choices = { holdBack, despite: new Set(despite), found: findings };
  const result = await buildUpload(
    { catalogue, target, project: "Test shop", pictures, sha256: nodeSha256, ...choices },
    sink,
  );
  const upload = result.ok ? result.value : undefined;
  const text = (name: string) => Buffer.from(memory.files[name] ?? []).toString();
  return { upload, memory, text, list: result.findings.list() };
}

const shelf = { Shelf: "Hives / Full", Web: "yes" };

test("writes numbered files, pictures, a manifest and a run sheet", async () => {
  const { upload, memory, text } = await build([single("hive", { ...shelf, Photos: "a.png" }), single("stand", shelf)]);
  assert.ok(upload);
  assert.equal(memory.state, "finished");
  assert.deepEqual(Object.keys(memory.files), [
    "01-pictures.zip",
    "02-items.csv",
    "run-sheet.md",
    "run-sheet.html",
    "datapackage.json",
    uploadMark,
  ]);
  assert.deepEqual(Object.keys(unzipSync(memory.files["01-pictures.zip"]!)), ["a.png"]);
  const [header, first] = text("02-items.csv").split("\r\n");
  assert.ok(header!.startsWith("Item;Code;Title en;"));
  assert.ok(first!.startsWith("hive;C-hive;hive;;;;Hives/Full;"));
  assert.match(
    text("run-sheet.md"),
    /\| \[ \] \| `02-items.csv` \| 2 \| 2 products with 2 codes: 2 rows created, none refused \|/,
  );
});

test("the same cells are wrong, whether they are checked before they are written or while they are", async () => {
  const key = fc.constantFrom("a", "b", "c", "d", "e", "f");
  const row = fc.record({
    key,
    Name: fc.constantFrom("Smoker", "x".repeat(90), " spaced", "=1+1", ""),
    Price: fc.constantFrom("1,00", "2,00", "9999999999,00", ""),
    Shelf: fc.constantFrom("Hives / Full", "Hives", ""),
    Goes: fc.oneof(
      fc.constant(""),
      key.map((one) => `C-${one}`),
    ),
  });
  const unlimited = pennywort((text) => text.replace(/^ {4}limits:.*\n/m, ""));
  await fc.assert(
    fc.asyncProperty(
      fc.uniqueArray(row, { selector: (one) => one.key, minLength: 1 }),
      fc.constantFrom(unlimited, pennywort()),
      fc.boolean(),
      async (rows, target, isDespite) => {
        const despite = isDespite ? ["target/too-long", "target/required", "target/out-of-range"] : [];
        const cells = rows.map(({ key: own, Goes, ...rest }) => single(own, { ...rest, "Goes with": Goes }));
        const { list, upload, memory } = await build(cells, { target, despite });
        const { catalogue, findings } = await read([{ layout: rangeLayout, csv: rangeCsv(...cells) }]);
        const choices = { holdBack: false, despite: new Set(despite), found: findings, pictureNames: ["a.png"] };
        const prepared = prepareBuild({ catalogue, target, ...choices });
        assert.deepEqual(list, prepared.findings.list());
        assert.equal(memory.state, upload ? "finished" : "discarded");
        const errors = list.filter(({ severity, code }) => severity === "error" && !despite.includes(code));
        assert.equal(upload === undefined, errors.length > 0);
      },
    ),
    { numRuns: Number(process.env["PROPERTY_RUNS"] ?? 60) },
  );
});

test("lists each file in the manifest with its size, hash, dialect and schema", async () => {
  const { memory, text } = await build([single("hive", shelf)]);
  const manifest = JSON.parse(text("datapackage.json")) as {
    resources: {
      path: string;
      bytes: number;
      hash: string;
      dialect?: { delimiter: string };
      schema?: { fields: { name: string; type: string; decimalChar?: string }[] };
    }[];
  };
  for (const { path, bytes, hash } of manifest.resources) {
    assert.equal(bytes, memory.files[path]!.length);
    assert.equal(hash, `sha256:${createHash("sha256").update(memory.files[path]!).digest("hex")}`);
  }
  const items = manifest.resources.find((resource) => resource.path === "02-items.csv")!;
  assert.equal(items.dialect!.delimiter, ";");
  const price = items.schema!.fields.find((field) => field.name === "Price")!;
  assert.deepEqual([price.type, price.decimalChar], ["number", ","]);
});

test("splits at the target's limit, and tells the update file's foreign key", async () => {
  const target = pennywort((text) => text.replace("products: 120", "products: 1"));
  const { memory } = await build([single("a", { ...shelf, "Goes with": "C-b" }), single("b", shelf)], { target });
  const names = Object.keys(memory.files).filter((name) => name.endsWith(".csv"));
  assert.deepEqual(
    names.map((name) => name.slice(3)),
    ["items.csv", "items.csv", "links.csv"],
  );
  const lines = (name: string) => Buffer.from(memory.files[name]!).toString().trim().split("\r\n");
  assert.ok(!lines(names[0]!)[1]!.includes(";b;"));
  assert.deepEqual(lines(names[2]!), ["Item;Goes with;Spares", "a;b;"]);
});

test("splits at the target's limit of bytes", async () => {
  const target = pennywort((text) => text.replace("bytes: 4000000", "bytes: 800"));
  const { memory } = await build(
    Array.from({ length: 8 }, (_, at) => single(`p${at}`, { Name: "蜂".repeat(30) })),
    { target },
  );
  const files = Object.entries(memory.files).filter(([name]) => name.endsWith(".csv"));
  assert.ok(files.length > 1);
  for (const [, bytes] of files) assert.ok(bytes.length <= 800, String(bytes.length));
});

test("writes nothing while there is an error, and says which", async () => {
  const { upload, memory, list } = await build([single("hive", { EAN: "1" }), single("stand", { No: "A/1" })]);
  assert.equal(upload, undefined);
  assert.equal(memory.state, "discarded");
  assert.deepEqual(memory.files, {});
  assert.equal(one(list, "target/characters").at?.column, "No");
});

test("warns of a text over the length that the target advises, and builds", async () => {
  const target = pennywort((text) =>
    text.replace("Title {other}: { characters at most: 80 }", "Title {other}: { characters recommended: 3 }"),
  );
  const { upload, list } = await build([single("hive", { Bezeichnung: "Beute", ...shelf })], { target });
  assert.deepEqual(one(list, "target/longer-than-recommended").facts, {
    column: "Title de",
    target: "pennywort",
    chars: 5,
    advised: 3,
  });
  assert.ok(upload);
});

test("builds despite errors whose codes are given, and only those", async () => {
  const rows = [single("hive", { No: "A/1", Price: "" })];
  assert.equal((await build(rows, { despite: ["target/characters"] })).upload, undefined);
  assert.ok((await build(rows, { despite: ["target/characters", "target/required"] })).upload);
});

test("holds back what is faulty, all that is left of its product, and links to it; and lists them", async () => {
  const rows = [
    single("good", { "Goes with": "C-bad" }),
    single("bad", { Price: "x" }),
    { Range: "half", No: "H-1", Name: "Half", "Feature 1": "Wood", "Feature 1 is": "Oak", Price: "1" },
    { Range: "half", No: "H-2", "Feature 1 is": "Pine", Price: "y" },
    { Range: "none", No: "N-1", Name: "None", "Feature 1": "Wood", "Feature 1 is": "Elm", Price: "z" },
  ];
  const { upload, text, list } = await build(rows, { holdBack: true });
  assert.deepEqual(
    text("02-items.csv")
      .trim()
      .split("\r\n")
      .slice(1)
      .map((line) => line.split(";").slice(0, 2).join()),
    ["good,C-good", "half,H-1"],
  );
  assert.equal(upload!.heldBack.byKind.get("product")?.size, 2);
  assert.deepEqual(
    those(list, "build/held-back").map((found) => found.at?.record?.key),
    ["bad", "H-2", "none", "N-1"],
  );
  assert.equal(one(list, "build/link-left-out").at?.record?.key, "good");
});

test("does not hold back where more is wrong than is listed: then it cannot know all that is faulty", async () => {
  const { catalogue } = await read([
    { layout: rangeLayout, csv: rangeCsv(single("a", { Price: "" }), single("b", { Price: "" }), single("c")) },
  ]);
  const input = {
    catalogue,
    found: new Findings(1),
    target: pennywort(),
    project: "x",
    pictures: new Map<string, Uint8Array>(),
    despite: new Set<string>(),
    sha256: nodeSha256,
  };
  assert.ok(!(await buildUpload({ ...input, holdBack: true }, memorySink())).ok);
});

test("says so where there is nothing to upload", async () => {
  const { catalogue, findings } = await read([{ layout: rangeLayout, csv: rangeCsv() }]);
  findings.took(
    prepareBuild({
      catalogue,
      target: pennywort(),
      holdBack: false,
      despite: new Set(),
      pictureNames: [],
      found: new Findings(),
    }),
  );
  one(findings.list(), "plan/nothing-to-upload");
});

test("does not hold back what is wrong with a whole file: then nothing is built", async () => {
  const { catalogue, findings } = await read([{ layout: rangeLayout, csv: new Uint8Array([0x52, 0xfc, 0x0a]) }]);
  const sink = memorySink();
  const built = await buildUpload(
    {
      catalogue,
      target: pennywort(),
      project: "x",
      pictures: new Map(),
      found: findings,
      holdBack: true,
      despite: new Set(),
      sha256: nodeSha256,
    },
    sink,
  );
  assert.ok(!built.ok);
  assert.equal(sink.state, "discarded");
});

const asked: readonly (readonly [string, string, Record<string, string>, string])[] = [
  ["what it needs and does not get", "target/required", { Name: "" }, "Name"],
  ["a text that is too long", "target/too-long", { Name: "x".repeat(81) }, "Name"],
  ["a number out of range", "target/out-of-range", { Stock: "-1" }, "Stock"],
  ["half of what belongs together", "target/half", { From: "5" }, "From"],
  ["a path that is too deep", "target/too-deep", { Shelf: "a / b / c / d / e / f / g" }, "Shelf"],
  [
    "a list that is too long",
    "target/too-many-entries",
    { "Goes with": Array.from({ length: 21 }, (_, at) => `C-p${at}`).join(", ") },
    "Goes with",
  ],
  ["a space at the end of a key", "target/characters", { Range: "hive " }, "Range"],
];

for (const [what, code, cells, column] of asked) {
  test(`says, before anything is written, that the target does not take ${what}`, async () => {
    const others = Array.from({ length: 21 }, (_, at) => single(`p${at}`));
    const { list } = await build([single("hive", cells), ...others]);
    assert.deepEqual([one(list, code).at?.line, one(list, code).at?.column], [2, column]);
  });
}

test("says what the target cuts, as a warning, and builds", async () => {
  const layout = rangeLayout.replace("Bezeichnung: product.name@de", "Bezeichnung: product.description@en");
  const { upload, list } = await build([single("hive", { Bezeichnung: "x".repeat(2001) })], { layout });
  assert.ok(upload);
  assert.deepEqual(one(list, "target/cut").facts, { column: "Text en", target: "pennywort", chars: 2001, most: 2000 });
});

test("says what the target has no place for", async () => {
  const layout = rangeLayout.replace("product.name@de", "product.name@ja");
  const { list } = await build([single("hive", { Bezeichnung: "巣箱" })], { layout });
  assert.deepEqual(plain(one(list, "target/uncarried").facts), {
    field: "product.name@ja",
    count: 1,
    examples: ["hive"],
    instead: "upload the language to another account, if the platform offers that",
    target: "pennywort",
  });
});

test("says that a product's own barcode has no place beside variants with barcodes", async () => {
  const layout = rangeLayout.replace("Bezeichnung: product.name@de", "Bezeichnung: product.barcode");
  const wood = (is: string, cells: object) => ({
    ...single("hive", { ...cells, "Feature 1": "Wood", "Feature 1 is": is }),
  });
  const rows = [
    { ...wood("Oak", { Bezeichnung: "4006381333931" }), No: "H-1" },
    { ...wood("Elm", {}), No: "H-2" },
    single("brush", { Bezeichnung: "4006381333948" }),
  ];
  const { list } = await build(rows, { layout });
  assert.deepEqual(
    those(list, "target/uncarried").map(({ facts }) => plain(facts)),
    [{ field: "product.barcode", count: 1, examples: ["hive"], target: "pennywort" }],
  );
});

test("says which prices the target has no place for, and which categories it would not make", async () => {
  const layout = rangeLayout.replace("variant.prices(price)", "variant.prices(cost)");
  const { list } = await build([single("hive")], { layout });
  assert.deepEqual(plain(one(list, "target/uncarried").facts), {
    field: "product.prices(cost)",
    count: 1,
    examples: ["hive"],
    instead: "keep it in the ERP, because shoppers must not see it",
    target: "pennywort",
  });
  const categories = {
    layout:
      "layout: c\nformat: { csv: { delimiter: ';' } }\nrows: { each: category }\ncolumns:\n  Id: category.key\n  Name: category.name@en\n",
    csv: "Id;Name\na;Hives\nb;Empty\n",
  };
  const { catalogue, findings } = await read([
    categories,
    { layout: rangeLayout, csv: rangeCsv(single("hive", { Shelf: "Hives" })) },
  ]);
  findings.took(
    prepareBuild({
      catalogue,
      target: pennywort(),
      holdBack: false,
      despite: new Set(),
      pictureNames: [],
      found: new Findings(),
    }),
  );
  assert.deepEqual(one(findings.list(), "target/empty-category").facts, {
    count: 1,
    examples: ["b"],
    target: "pennywort",
  });
});

test("says that a product has more axes than the target takes, in a list or in numbered columns", async () => {
  const rows = [
    single("hive", { "Feature 1": "Wood", "Feature 1 is": "Oak", "Feature 2": "Size", "Feature 2 is": "10" }),
  ];
  const listed = pennywort((text) => text.replace("entries at most: 4", "entries at most: 1"));
  const inList = await build(rows, { target: listed });
  const facts = { column: "Differs by en", count: 2, most: 1, target: "pennywort" };
  assert.deepEqual(one(inList.list, "target/too-many-entries").facts, facts);
  const numbered = pennywort((text) =>
    text
      .replace(/^ *(Differs by|This one) .*\n/gm, "")
      .replace("      rows: {", "      numbered: 1\n      rows: {")
      .replace(
        "        Pictures: {",
        '        Trait {n}: { axis: "{n}", holds: name }\n        Is {n}: { axis: "{n}", holds: value }\n        Pictures: {',
      ),
  );
  const inColumns = await build(rows, { target: numbered });
  assert.deepEqual(one(inColumns.list, "target/too-many-axes").facts, { axes: 2, most: 1, target: "pennywort" });
});

test("checks the same whether cells are checked first or while they are written", async () => {
  const rows = [single("a", { Name: "" }), single("b", { No: "x y" }), single("c", { Stock: "-5", From: "3" })];
  const unlimited = pennywort((text) => text.replace(/^ {4}limits: .*$/m, ""));
  const places = (list: readonly Finding[]) => list.map((found) => [found.code, found.at?.line, found.at?.column]);
  const first = places((await build(rows)).list);
  assert.deepEqual(places((await build(rows, { target: unlimited })).list), first);
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(...rows) }]);
  const findings = new Findings();
  findings.took(
    prepareBuild({
      catalogue,
      target: pennywort(),
      holdBack: false,
      despite: new Set(),
      pictureNames: [],
      found: new Findings(),
    }),
  );
  assert.deepEqual(
    codes(findings.list()),
    first.map(([code]) => code),
  );
});

test("leaves nothing of an upload whose writing fails", async () => {
  const memory = memorySink();
  const failing: UploadSink = {
    ...memory,
    write: () => Promise.reject(new Error("the disk is full")),
    discard: () => memory.discard(),
  };
  await assert.rejects(build([single("hive")], { sink: failing }), /the disk is full/);
  assert.equal(memory.state, "discarded");
});

test("makes a folder appear whole, replaces only its own kind, and leaves nothing behind", async () => {
  const folder = await mkdtemp(join(tmpdir(), "zest-tier-"));
  try {
    const upload = join(folder, "upload");
    for (const name of ["one", "two"]) {
      const opened = await folderSink(upload, "p");
      assert.ok(opened.ok);
      await opened.value.write("datapackage.json", [Buffer.from(name)]);
      await opened.value.write(uploadMark, [Buffer.from('{"project":"p","files":["datapackage.json"]}')]);
      await opened.value.finish();
      assert.equal(await readFile(join(upload, "datapackage.json"), "utf8"), name);
    }
    const discarded = await folderSink(upload, "p");
    assert.ok(discarded.ok);
    await discarded.value.write("a", [Buffer.from("x")]);
    await assert.rejects(discarded.value.write("../a", []), /would leave its folder/);
    await discarded.value.discard();
    await mkdir(join(folder, "other"));
    await writeFile(join(folder, "other", "mine.txt"), "precious");
    const refused = await folderSink(join(folder, "other"), "p");
    assert.deepEqual(refused.ok ? [] : codes(refused.findings.list()), ["build/folder-there"]);
    assert.deepEqual((await readdir(folder)).sort(), ["other", "upload"]);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});

/** Facts as a program reads them: phrases as English text. */
function plain(facts: object): unknown {
  return JSON.parse(JSON.stringify(facts));
}

/**
 * An example of each function of `zest-tier`, exhaustive by type. Each runs as a test, and stands in docs/reference/api.md as it is here.
 */

import assert from "node:assert/strict";
import { fileURLToPath } from "node:url";
import { before, test } from "node:test";
import * as api from "#src/index.js";
import { folderSink, nodeFiles, nodePorts } from "#src/node/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";

const { valueOf } = api;
const emptyExport = {
  file: "catalogue.json",
  files: blobFiles(new Map([["catalogue.json", new Blob(['{ "items": [], "tree": [] }'])]])),
};
const demo = fileURLToPath(new URL("../../../../demo/clean/", import.meta.url));
const ports = nodePorts(demo);
const files = nodeFiles(demo);

/** What the examples below begin with. */
let sources: api.OpenedSources;
let target: api.OpenedTarget;
let planned: api.PlannedUpload;
let upload: api.BuiltUpload;
let verdict: api.Verdict;
const { sink, files: built } = memoryFolder();

before(async () => {
  sources = valueOf(await api.readSourcesOf(valueOf(await api.openProject(ports))));
  target = valueOf(await api.openTarget(sources, { target: "pennywort" }));
  planned = valueOf(await api.planUpload(target));
  upload = valueOf(await api.build(target, { sink }));
  verdict = valueOf(await api.rehearse(target, upload, { files: blobFiles(built) }));
});

const range = `
layout: range
format: { csv: { delimiter: ";" } }
rows: { each: product }
columns:
  No: product.code
  Name: product.name@en
`;

const examples: Record<keyof typeof api, () => unknown> = {
  async openProject() {
    const opened = await api.openProject(ports, "project.yaml");
    assert.equal(opened.ok && opened.value.project.targets.length, 3);
  },
  async readSourcesOf() {
    const { read } = valueOf(await api.readSourcesOf(valueOf(await api.openProject(ports))));
    assert.equal(read.catalogue.table("product").size, 84);
  },
  async openTarget() {
    const opened = valueOf(await api.openTarget(sources, { target: "tollgate" }));
    assert.equal(opened.catalogue.table("product").size, 84);
  },
  targetNamed() {
    assert.equal(api.targetNamed(sources.project, "saltmarsh")?.name, "saltmarsh");
  },
  withLedger() {
    const ledger = new api.Ledger();
    ledger.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    const { catalogue } = api.withLedger(target, ledger);
    const products = catalogue.table("product");
    assert.equal(products.text("id", products.find("smoker") ?? -1), "17");
  },
  recordsInLedger() {
    const ledger = new api.Ledger();
    ledger.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    const [known] = api.recordsInLedger(api.withLedger(target, ledger));
    assert.deepEqual([known?.key, known?.id, known?.isConfirmed], ["smoker", "17", true]);
  },
  withoutRecord() {
    const ledger = new api.Ledger();
    ledger.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    const known = api.withLedger(target, ledger);
    assert.equal(api.withoutRecord(known, { kind: "product", key: "smoker" })?.id("product", "smoker"), undefined);
    assert.equal(api.withoutRecord(known, { kind: "product", key: "spade" }), undefined);
  },
  withRecordRestored() {
    const ledger = new api.Ledger();
    ledger.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    ledger.unconfirm("product", "smoker", "by-hand");
    const restored = api.withRecordRestored(api.withLedger(target, ledger), { kind: "product", key: "smoker" });
    assert.equal(restored.ledger?.id("product", "smoker"), "17");
  },
  async planUpload() {
    const { plan } = valueOf(await api.planUpload(target, { holdBack: true }));
    assert.ok(plan.steps.some((step) => step.is === "upload"));
  },
  async build() {
    const folder = memoryFolder();
    const { files: made } = valueOf(await api.build(target, { sink: folder.sink, language: "de" }));
    assert.ok(folder.files.has(made[0]?.name ?? ""));
  },
  async rehearse() {
    const played = valueOf(await api.rehearse(target, upload, { files: blobFiles(built) }));
    assert.deepEqual([played.rebuilt, played.counts.refused], [true, 0]);
  },
  async rehearseBulkChange() {
    const none = await api.rehearseBulkChange(target, "no such change", { files: blobFiles(built) });
    assert.ok(!none.ok && none.findings.list().some(({ code }) => code === "project/mistake"));
  },
  async rehearseRollback() {
    const none = await api.rehearseRollback(target, { ...planned, changes: undefined }, { files: blobFiles(built) });
    assert.deepEqual(
      none.findings.list().flatMap(({ code }) => (code === "change/no-export" ? [code] : [])),
      ["change/no-export"],
    );
  },
  async collect() {
    const folder = blobFiles(built);
    const none = await api.collect(target, planned, { upload: folder, uploadName: "upload", reports: folder });
    assert.ok(!none.ok && none.findings.list().some(({ code }) => code === "collect/no-report"));
  },
  async checkPlatform() {
    const checked = valueOf(await api.checkPlatform(target, planned, [emptyExport]));
    const { differences, records } = checked;
    assert.ok(differences.length > 20 && differences.every(({ actual }) => actual === undefined));
    assert.equal(records.length, differences.length);
  },
  exportFileName() {
    const file = valueOf(api.layoutOfText(range, "range.yaml"));
    assert.equal(file.name, "range");
    const [own] = target.target.files.values();
    assert.equal(own && api.exportFileName(own), "items.export.json");
  },
  reportFileName() {
    assert.equal(api.reportFileName("02-items.csv"), "02-items.csv.report.json");
  },
  async draft() {
    const [drafted] = valueOf(await api.draft(files, "sources/queen-rearing.tsv"));
    assert.match(drafted?.yaml ?? "", /grouped by|joined by/);
  },
  async draftTarget() {
    const [drafted] = valueOf(await api.draft(files, "sources/queen-rearing.tsv"));
    const { questions } = api.draftTarget("harbour", drafted?.yaml ?? "", new Map([["refusal", "file"]]));
    assert.equal(questions.find(({ name }) => name === "refusal")?.answer, "file");
  },
  async calibrate() {
    const layout = valueOf(await api.openLayout(ports, "layouts/queen-rearing.yaml"));
    const { rows, writtenRows } = valueOf(await api.calibrate(files, "sources/queen-rearing.tsv", layout));
    assert.equal(rows, writtenRows);
  },
  async calibrateDraft() {
    const [drafted] = valueOf(await api.draft(files, "sources/queen-rearing.tsv"));
    assert.ok(drafted);
    assert.equal(valueOf(await api.calibrateDraft(files, "sources/queen-rearing.tsv", drafted)).rows, 29);
  },
  async openLayout() {
    const { layout, file } = valueOf(await api.openLayout(ports, "pennywort/items"));
    assert.deepEqual([layout.name, file?.name], ["pennywort-items", "items"]);
  },
  layoutOfText() {
    const layout = valueOf(api.layoutOfText(range, "range.yaml"));
    assert.equal(layout.columns.length, 2);
    assert.equal(api.layoutOfText("rows: 5", "range.yaml").ok, false);
  },
  layoutName() {
    assert.equal(api.layoutName("from/Prices 2027.xlsx", "March"), "prices-2027-march");
  },
  async guideTo() {
    const { rows, markdown } = api.guideTo(valueOf(await api.openLayout(ports, "pennywort/items")));
    assert.ok(markdown.includes(rows[0]?.column ?? "?"));
  },
  cellsAt() {
    const file = upload.files.find(({ slot }) => slot)?.name ?? "";
    const [cell] = api.cellsAt(target, upload, { file, line: 2 });
    assert.equal(cell?.origins[0]?.location.file.startsWith("sources/"), true);
  },
  cellsFrom() {
    const cells = [...api.cellsFrom(target, upload, { file: "sources/range.csv", line: 2 })];
    assert.ok(cells.every(({ file }) => file.endsWith(".csv")));
  },
  reasonsFor() {
    const [reason] = api.reasonsFor(target, planned, "smoker");
    assert.equal(reason?.kind, "product");
  },
  rowsOf() {
    const step = upload.plan.steps.find((one) => one.is === "upload");
    assert.ok(step?.is === "upload" && step.files[0]);
    const [first] = api.rowsOf(target, upload, step, step.files[0]).rows;
    assert.equal(first?.line, 2);
  },
  leftOut() {
    assert.ok(api.leftOut(target).every(({ records }) => records.length > 0));
  },
  async rawRows() {
    const lines: number[] = [];
    for await (const batch of api.rawRows(files, { file: "sources/queen-rearing.tsv" })) lines.push(...batch.lines);
    assert.equal(lines[0], 1);
  },
  pairsFileName() {
    assert.equal(api.pairsFileName("pennywort"), "pairs-pennywort.csv");
  },
  pairsFileText() {
    const pair = { kind: "product", yours: "smoker", platforms: "A-17", why: "the same code", reply: "same" } as const;
    assert.match(api.pairsFileText([pair]), /product;smoker;A-17;the same code;same/);
  },
  pairsToAnswer() {
    const open = { kind: "product", yours: "smoker", platforms: "A-17", why: "names alike" };
    const comparison = { records: [], unchanged: 0, stays: [], collisions: [], suggestions: [open] };
    assert.equal(api.pairsToAnswer(comparison, []).added, 1);
  },
  translationsOf() {
    const french = api.translationsOf(target, "fr");
    assert.ok(french.some(({ state }) => state === "missing"));
  },
  translationSheet() {
    const sheet = api.translationSheet(api.translationsOf(target, "fr"), "en", "fr");
    assert.ok(sheet.rows.length > 100);
  },
  translationXliff() {
    const text = api.translationXliff(api.translationsOf(target, "fr"), "en", "fr", new api.Findings());
    assert.match(text, /<xliff/);
  },
  success() {
    assert.equal(api.valueOf(api.success("range.csv")), "range.csv");
  },
  failure() {
    const result = api.failure(api.finding("read/missing-file", {}, { file: "prices.csv" }));
    assert.deepEqual([result.ok, result.findings.hasErrors], [false, true]);
  },
  valueOf() {
    assert.equal(api.valueOf({ ok: true, value: 5, findings: new api.Findings() }), 5);
  },
  finding() {
    const missing = api.finding("read/missing-file", {}, { file: "prices.csv" });
    assert.equal(missing.severity, "error");
  },
  Findings() {
    const findings = new api.Findings();
    findings.add(api.finding("read/missing-file", {}, { file: "prices.csv" }));
    assert.deepEqual([findings.hasErrors, findings.list().length], [true, 1]);
  },
  findingTable() {
    assert.ok(Object.keys(api.findingTable).includes("read/missing-file"));
  },
  describeFinding() {
    const missing = api.finding("read/missing-file", {}, { file: "prices.csv" });
    assert.equal(api.describeFinding(missing).message, "the file does not exist");
    assert.equal(api.describeFinding(missing, "de").message, "die Datei gibt es nicht");
  },
  formatLocation() {
    assert.equal(api.formatLocation({ file: "prices.csv", line: 5, column: "Price" }), "prices.csv:5 [Price]");
  },
  toSarif() {
    const log = api.toSarif(target.findings.list(), "0.1.0") as { version: string };
    assert.equal(log.version, "2.1.0");
  },
  stoppingErrors() {
    assert.deepEqual(api.stoppingErrors(target.findings, new Set()), []);
  },
  canBeHeldBack() {
    const record = { kind: "product", key: "smoker" };
    const at = { file: "prices.csv", line: 5, record };
    assert.equal(api.canBeHeldBack(api.finding("read/missing-file", {}, at)), true);
  },
  heldBackText() {
    assert.equal(String(api.heldBackText(planned.heldBack)), "");
  },
  stepsNow() {
    assert.deepEqual(api.stepsNow(planned.plan), planned.plan.steps);
  },
  drawPlan() {
    assert.match(api.drawPlan(planned.plan, "To Pennywort"), /^<svg/);
  },
  planDiagram() {
    assert.equal(api.planDiagram(planned.plan).boxes.length, planned.plan.steps.length);
  },
  async readExports() {
    const findings = new api.Findings();
    const told = await api.readExports([emptyExport], target.target, target.project.kinds, undefined, findings);
    assert.deepEqual([told?.catalogue.table("product").size, told?.coverage.records("product")], [0, "all"]);
  },
  async proposeProject() {
    const text = "Artikelnummer;Bezeichnung;Preis;Bestand\nL-1;Laterne;12,50;4\nL-2;Korb;8,00;7\nL-3;Decke;30,00;1\n";
    const ports = { ...nodePorts("."), files: blobFiles(new Map([["goods.csv", new Blob([text])]])) };
    const proposed = valueOf(
      await api.proposeProject({
        name: "goods",
        sources: [{ file: "goods.csv", path: "sources/goods.csv" }],
        ports,
        target: { is: "shipped", name: "pennywort" },
        replies: new Map([["currency", "CHF"]]),
      }),
    );
    assert.deepEqual([...proposed.written.keys()], ["layouts/goods.yaml", "project.yaml"]);
    assert.match(proposed.written.get("project.yaml") ?? "", /currency: CHF/);
    assert.match(proposed.written.get("project.yaml") ?? "", /shop languages: de/);
  },
  async reviewPlatform() {
    const told = await api.readExports(
      [emptyExport],
      target.target,
      target.project.kinds,
      undefined,
      new api.Findings(),
    );
    const review = told && api.reviewPlatform(target.catalogue, target.target, planned.heldBack, told);
    assert.ok(review && review.differences.every(({ actual }) => actual === undefined) && review.records.length > 0);
  },
  plainRecords() {
    const records = api.plainRecords(target.catalogue);
    assert.ok(records.some(({ kind, texts }) => kind === "product" && texts["name@en"] !== undefined));
  },
  recordStates() {
    assert.ok(api.recordStates.includes("changed on the platform"));
  },
  stateTexts() {
    assert.equal(api.stateTexts["both changed"].title, "Changed on both sides");
  },
  changedByTexts() {
    assert.equal(api.changedByTexts.you, "by you");
  },
  comparisonAsHtml() {
    const comparison = { records: [], unchanged: 5, stays: [], collisions: [], suggestions: [] };
    assert.match(api.comparisonAsHtml(comparison, "Differences"), /<!doctype html>/i);
  },
  valueText() {
    assert.equal(api.valueText([["price", "24"]], "prices", "EUR"), "price / 24 EUR");
  },
  money() {
    assert.equal(api.money("24.5", "EUR"), "24.50 EUR");
    assert.equal(api.money("2400", "JPY"), "2400 JPY");
  },
  kindPhrase() {
    assert.equal(api.say(api.kindPhrase("option-group", 2), "en"), "option groups");
  },
  pluralOf() {
    assert.equal(api.pluralOf("category"), "categories");
  },
  languages() {
    assert.deepEqual([...api.languages], ["en", "de"]);
  },
  say() {
    assert.equal(api.say(api.kindPhrase("product", 2), "de"), "Produkte");
  },
  Phrase() {
    const [step] = planned.plan.steps;
    assert.ok(step && (typeof step.title === "string" || step.title instanceof api.Phrase));
  },
  bindableFields() {
    const layout = valueOf(api.layoutOfText(range, "range.yaml"));
    assert.ok(api.bindableFields(layout.shape, ["en", "de"]).includes("product.name@de"));
  },
  bindColumn() {
    assert.match(api.bindColumn(range, "Weight", "variant.weight") ?? "", /Weight: variant\.weight/);
  },
  layoutLines() {
    assert.deepEqual(
      api.layoutLines(range).map(({ header, binding }) => `${header}: ${binding}`),
      ["No: product.code", "Name: product.name@en"],
    );
  },
  addSource() {
    const text = api.addSource("project: shop\nsources: []\n", { file: "stock.csv", layout: "layouts/stock.yaml" });
    assert.match(text ?? "", /stock\.csv/);
  },
  addTarget() {
    assert.match(api.addTarget("project: shop\ntargets: []\n", "tollgate") ?? "", /target: tollgate/);
  },
  addPictures() {
    assert.match(api.addPictures("project: shop\n", "pictures") ?? "", /pictures: pictures/);
  },
  targetsOf() {
    const { catalogue } = target;
    const products = catalogue.table("product");
    const [category = -1] = api.targetsOf(catalogue, products, "categories", products.find("smoker") ?? -1);
    assert.notEqual(catalogue.table("category").key(category), "");
  },
  BundleReader() {
    const { catalogue } = target;
    const table = catalogue.table("product");
    const product = table.find("smoker") ?? -1;
    assert.equal(new api.BundleReader(catalogue).sumsOf({ table, row: product, product }), undefined);
  },
  combinationsOf() {
    const { catalogue } = target;
    const products = catalogue.table("product");
    const made = Array.from({ length: products.size }, (_, row) => api.combinationsOf(catalogue, row));
    assert.ok(made.length > 0);
  },
  plainPrice() {
    const { catalogue } = target;
    const table = catalogue.table("product");
    const product = table.find("smoker") ?? -1;
    const price = api.plainPrice(catalogue, { table, row: product, product }, "price");
    assert.ok(price === undefined || Number(price) > 0);
  },
  sellableText() {
    const { catalogue } = target;
    const table = catalogue.table("product");
    const product = table.find("smoker") ?? -1;
    assert.match(api.sellableText(catalogue, { table, row: product, product }, "name@en") ?? "", /smoker/i);
  },
  Ledger() {
    const ledger = new api.Ledger();
    ledger.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    assert.equal(ledger.id("product", "smoker"), "17");
  },
  async writeWorkbook() {
    const bytes = await api.writeWorkbook([{ name: "Prices", rows: [["No"], ["BC-SM"]] }]);
    assert.equal(String.fromCharCode(bytes[0] ?? 0, bytes[1] ?? 0), "PK");
  },
  async readWholeZip() {
    const zip = api.writeZip(new Map([["prices.csv", new TextEncoder().encode("No;Price")]]));
    const found = api.valueOf(await api.readWholeZip(new Blob([new Uint8Array(zip)]).stream(), "prices.zip"));
    assert.deepEqual(
      [...found].map(([name]) => name),
      ["prices.csv"],
    );
  },
  capNames() {
    assert.ok(api.capNames.includes("header characters"));
  },
  capTable() {
    assert.equal(api.capTable["header characters"].most, 1_024);
  },
  safeJson() {
    const text = api.safeJson({ name: "\u001b[31mred\u202e" });
    assert.equal(text, '{"name":"\\u001b[31mred\\u202e"}');
    assert.deepEqual(JSON.parse(text), { name: "\u001b[31mred\u202e" });
  },
  visibleText() {
    assert.equal(api.visibleText("a\u0007b\n"), "a[U+0007]b\n");
  },
  writeZip() {
    const zip = api.writeZip(new Map([["prices.csv", new TextEncoder().encode("No;Price")]]));
    assert.ok(zip.length > 20);
  },
};

for (const [name, example] of Object.entries(examples)) test(`example of ${name}`, async () => void (await example()));

test("a folder on the disk is a sink like any other; nothing is written where another's folder is", async () => {
  const taken = await folderSink(demo, "shop");
  assert.equal(taken.ok, false);
  assert.ok(verdict.rebuilt);
});

/**
 * An example of each function of `zest-tier/parts`, exhaustive by type. Each runs as a test, and stands in docs/reference/parts.md as it
 * is here.
 */

import assert from "node:assert/strict";
import { fileURLToPath } from "node:url";
import { before, test } from "node:test";
import {
  Findings,
  Ledger,
  valueOf,
  writeWorkbook,
  writeZip,
  type Layout,
  type Plan,
  type Target,
  type TargetView,
} from "#src/index.js";
import * as parts from "#src/parts.js";
import { nodeFiles, nodeSha256, shippedLayout, shippedTarget } from "#src/node/index.js";
import { givenLayout, givenProject, givenRule } from "#src/schemas.js";
import { memoryFolder } from "#src/web/index.js";
import { bytesOf, filesOf } from "./support.js";

/** A sheet of products with a layout, in the folder of a project. */
const yaml = `
layout: range
format: { csv: { delimiter: ";" } }
rows: { each: product }
columns:
  No: product.key
  Code: product.code
  Name: product.name@en
  Shelf: { field: product.categories, as: { list: "; ", of: { path: " / ", by: name@en } }, missing: create }
  Weight: product.weight
  Price: product.prices(price).amount
`;
const csv =
  "No;Code;Name;Shelf;Weight;Price\nsmoker;BC-SM;Bee smoker;Tools / Smokers;0.8;24\nbrush;BC-BR;Bee brush;Tools;0.1;6\n";
const files = filesOf({ "range.csv": csv });
const demo = nodeFiles(fileURLToPath(new URL("../../../../demo/clean/", import.meta.url)));
const kinds = new parts.Kinds();
const text = (content: string) => parts.decodeText(bytesOf(content), "range", undefined, new Findings());

/** What the examples below begin with. */
let layout: Layout;
let catalogue: TargetView;
let target: Target;
let plan: Plan;

/** The catalogue before its references are looked up. */
async function filled(): Promise<parts.Catalogue> {
  const made = new parts.Catalogue(kinds);
  await parts.readSource({ file: "range.csv", layout }, made, files, new Findings());
  return made;
}

/** The rules of a project, compiled. */
async function rulesOf(...rules: readonly object[]) {
  const given = rules.map((rule) => givenRule.parse(rule));
  return valueOf(await parts.compileRules(given, new Set(["colours"]), () => ({ file: "project.yaml" }), kinds));
}

before(async () => {
  const given = valueOf(parts.parseGiven(yaml, "range.yaml", givenLayout));
  layout = valueOf(parts.compileLayout(given.value, given.at, kinds));
  catalogue = parts.asTargetView(parts.resolveReferences(await filled(), new Findings()).catalogue);
  target = valueOf(parts.parseTarget((await shippedTarget("pennywort")) ?? "", "pennywort", kinds));
  plan = valueOf(parts.planImport(catalogue, target, { bytesOf: () => 0, headerBytes: () => 0, pictures: [] }));
});

/** These folders are rebuilt; their examples come with that. */
type OfThePlatform =
  | "Changes"
  | "compareWithPlatform"
  | "digestsOf"
  | "noWishes"
  | "pairRows"
  | "pairsOfRows"
  | "planBulkChange"
  | "redirectsNeeded"
  | "unfoldSingles"
  | "withDelivered"
  | "withMovedRecreated"
  | "withPairs"
  | "withRedirects";

const examples: Record<Exclude<keyof typeof parts, OfThePlatform>, () => unknown> = {
  isOfRecords() {
    assert.equal(parts.isOfRecords(target), false);
  },
  identityOf() {
    assert.deepEqual(parts.identityOf("name@en"), { is: "name", lang: "en" });
  },
  matchRecords() {
    const matched = parts.matchRecords({
      own: catalogue,
      other: catalogue,
      identitiesOf: () => [parts.identityOf("key")],
    });
    assert.equal(matched.otherOf("product", 0), 0);
  },
  unclearFindings() {
    const matched = parts.matchRecords({ own: catalogue, other: catalogue, identitiesOf: () => [] });
    assert.deepEqual(parts.unclearFindings(matched, "pennywort"), []);
  },
  compareCatalogues() {
    const other = catalogue.branch();
    other.table("product").setText("name@en", 0, "Smoker");
    const matched = parts.matchRecords({
      own: catalogue,
      other: parts.asTargetView(other),
      identitiesOf: () => [parts.identityOf("key")],
    });
    const { differences } = parts.compareCatalogues({ matched, coverage: parts.everything });
    assert.deepEqual(
      differences.map(({ field, value, there }) => [field, value, there]),
      [["name@en", "Bee smoker", "Smoker"]],
    );
    assert.equal(parts.placeOf(matched, differences[0]!).column, "Name");
  },
  placeOf() {
    examples.compareCatalogues();
  },
  coverageOf() {
    const told = parts.coverageOf(target.files.get("items")!.layouts, kinds);
    assert.deepEqual(
      [told.records("product"), told.records("brand"), told.records("supplier")],
      ["all", "some", "none"],
    );
  },
  digestOf() {
    assert.equal(parts.digestOf("smoker", nodeSha256).length, 16);
  },
  recordsOfImports() {
    const isFor = parts.recordsOfImports(catalogue, target);
    assert.equal(isFor("items", "product", 0), true);
  },
  goalOf() {
    const other = catalogue.branch();
    other.table("product").setText("name@en", 0, "Smoker");
    const matched = parts.matchRecords({
      own: catalogue,
      other: parts.asTargetView(other),
      identitiesOf: () => [parts.identityOf("key")],
    });
    const wishes = { ...parts.noWishes, fields: { "product.name": "leave" as const } };
    const goal = parts.goalOf({ matched, coverage: parts.everything, wishes });
    assert.equal(goal.catalogue.table("product").text("name@en", 0), "Smoker");
  },
  everything() {
    assert.equal(parts.everything.records("product"), "all");
  },
  Kinds() {
    const own = new parts.Kinds([...parts.builtInKinds, { name: "recipe", fields: [{ name: "title", type: "text" }] }]);
    assert.ok(own.roots.some(({ name }) => name === "recipe"));
  },
  builtInKinds() {
    assert.ok(parts.builtInKinds.some(({ name }) => name === "product"));
  },
  known() {
    assert.equal(String(parts.known("the file")), "the file");
  },
  phrase() {
    assert.equal(parts.phrase("{0} {1}", 2, "rows").say("en"), "2 rows");
  },
  async playUpload() {
    const { nothingHeldBack: heldBack } = parts;
    const played = await parts.playUpload({ catalogue, target, plan, heldBack, files: filesOf({}) });
    // A file of the plan is not there.
    assert.equal(played.ok, false);
  },
  async rehearseThrough() {
    const { nothingHeldBack: heldBack } = parts;
    const verdict = await parts.rehearseThrough({ catalogue, target, heldBack, pictureNames: [] });
    assert.deepEqual([verdict.counts.created, verdict.counts.refused, verdict.cells?.different], [2, 0, 0]);
  },
  async SimulatedPlatform() {
    const platform = new parts.SimulatedPlatform(target, kinds);
    const bytes = bytesOf("Item;Code;Title en;Price\r\nveil;V-1;Veil;9,00\r\n");
    const { rows } = await platform.play(target.files.get("items")!, "items.csv", bytes, "create");
    assert.equal(rows[0]?.outcome, "created");
    assert.deepEqual([...platform.held(catalogue).catalogue.table("product").keys()], ["veil"]);
  },
  async decodeText() {
    const findings = new Findings();
    const pieces: string[] = [];
    for await (const piece of parts.decodeText(bytesOf(new Uint8Array([0x52, 0xfc])), "range.csv", "utf-8", findings))
      pieces.push(piece);
    assert.deepEqual([pieces.join(""), findings.hasErrors], ["R", true]);
  },
  async useFastPath() {
    const rows: (readonly string[])[] = [];
    parts.useFastPath(false);
    for await (const batch of parts.readCsv(text(csv), "range.csv", {}, new Findings())) rows.push(...batch.rows);
    parts.useFastPath(true);
    assert.equal(rows.length, 3);
  },
  async readCsv() {
    const rows: (readonly string[])[] = [];
    for await (const batch of parts.readCsv(text(csv), "range.csv", {}, new Findings())) rows.push(...batch.rows);
    assert.deepEqual(rows[2], ["brush", "BC-BR", "Bee brush", "Tools", "0.1", "6"]);
  },
  csvLine() {
    const toLine = parts.csvLine({ delimiter: ";", lineEnd: "\n" });
    assert.equal(toLine(["smoker", "small; blue"]), 'smoker;"small; blue"\n');
  },
  async openWorkbook() {
    const bytes = await writeWorkbook([{ name: "Prices", rows: [["No"], ["BC-SM"]] }]);
    assert.deepEqual(valueOf(await parts.openWorkbook(bytes, "prices.xlsx")).names, ["Prices"]);
    assert.equal((await parts.openWorkbook(new Uint8Array([1, 2]), "prices.xlsx")).ok, false);
  },
  async readSheet() {
    const bytes = await writeWorkbook([{ name: "Prices", rows: [["No"], ["BC-SM"]] }]);
    const book = valueOf(await parts.openWorkbook(bytes, "prices.xlsx"));
    const options = { sheet: "Prices", skipsHidden: false, repeatsMerged: false };
    const batches = [...parts.readSheet(book, "Prices", options, { file: "prices.xlsx" }, new Findings())];
    assert.deepEqual(batches[0]?.rows, [["No"], ["BC-SM"]]);
  },
  parseXmlPath() {
    assert.equal(parts.parseXmlPath("/range/item")?.length, 2);
    assert.equal(parts.parseXmlPath("range//"), undefined);
  },
  async readXml() {
    const xml = text("<range><item no='1'><name>Smoker</name></item></range>");
    const path = parts.parseXmlPath("/range/item") ?? [];
    for await (const nodes of parts.readXml(xml, "range.xml", path, {}, new Findings()))
      for (const node of nodes) assert.equal(node.attributes.get("no"), "1");
  },
  async textAt() {
    const xml = text("<range><item no='1'><name>Smoker</name></item></range>");
    const path = parts.parseXmlPath("/range/item") ?? [];
    const names: (string | undefined)[] = [];
    for await (const nodes of parts.readXml(xml, "range.xml", path, {}, new Findings()))
      names.push(...nodes.map((node) => parts.textAt(node, parts.parseXmlPath("name") ?? [], {})));
    assert.deepEqual(names, ["Smoker"]);
  },
  async readJson() {
    const lines: number[] = [];
    for await (const elements of parts.readJson(
      text('{"items":[{"no":1}]}'),
      "a.json",
      "/items",
      false,
      new Findings(),
    ))
      lines.push(...elements.map(({ line }) => line));
    assert.equal(lines.length, 1);
  },
  async readZip() {
    const zip = writeZip(new Map([["range.csv", new TextEncoder().encode(csv)]]));
    let size = 0;
    for await (const chunk of parts.readZip(bytesOf(zip), "range.zip", "range.csv", new Findings()))
      size += chunk.length;
    assert.equal(size, csv.length);
  },
  parseGiven() {
    const { value, at } = valueOf(parts.parseGiven(yaml, "range.yaml", givenLayout));
    assert.deepEqual([value.layout, at("columns", "Weight").line], ["range", 10]);
    assert.equal(parts.parseGiven("layout: [", "range.yaml", givenLayout).ok, false);
  },
  compileLayout() {
    const { value, at } = valueOf(parts.parseGiven(yaml, "range.yaml", givenLayout));
    assert.equal(valueOf(parts.compileLayout(value, at, kinds)).columns.length, 6);
  },
  SheetReader() {
    const made = new parts.Catalogue(kinds);
    const reader = new parts.SheetReader({ layout, catalogue: made, file: "range.csv", findings: new Findings() });
    reader.push({ rows: [["No", "Code", "Name", "Shelf", "Weight", "Price"]], lines: [1] });
    reader.push({ rows: [["veil", "BC-VE", "Bee veil", "Clothing", "", "18"]], lines: [2] });
    reader.end();
    assert.deepEqual([...made.table("product").keys()], ["veil"]);
  },
  writeRows() {
    const rows = [...parts.writeRows(catalogue, layout, { records: [1] }, new Findings())];
    assert.deepEqual(rows[0]?.cells, ["brush", "BC-BR", "Bee brush", "Tools", "0.1", "6"]);
  },
  writeBlocks() {
    const blocks = [...parts.writeBlocks(catalogue, layout, { records: [0, 1] }, new Findings())];
    assert.deepEqual(
      blocks.map((rows) => rows.length),
      [1, 1],
    );
  },
  writeSheet() {
    const { above, rows } = parts.writeSheet(catalogue, layout, { records: [0, 1] }, new Findings());
    assert.deepEqual([...above, ...rows].map((cells) => `${cells.join(";")}\n`).join(""), csv);
  },
  writtenHeaders() {
    assert.deepEqual(parts.writtenHeaders(layout, new Set(["No", "Weight"])), ["No", "Weight"]);
  },
  writtenKind() {
    assert.equal(parts.writtenKind(layout, catalogue), "product");
  },
  writeDocument() {
    const xml = `
layout: feed
format: { xml: {} }
rows: { each: product, element: /range/item }
columns: { "@no": product.key, name: product.name@en }
`;
    const given = valueOf(parts.parseGiven(xml, "feed.yaml", givenLayout));
    const feed = valueOf(parts.compileLayout(given.value, given.at, kinds));
    const written = [...parts.writeDocument(catalogue, feed, { records: [0] }, new Findings())].join("");
    assert.match(written, /<item no="smoker">\s*<name>Bee smoker<\/name>/);
  },
  async writeLayout() {
    const xls = `
layout: list
format: { workbook: { kind: xls, sheet: Range } }
rows: { each: product }
columns: { No: product.key }
`;
    const given = valueOf(parts.parseGiven(xls, "list.yaml", givenLayout));
    const list = valueOf(parts.compileLayout(given.value, given.at, kinds));
    const [bytes] = await parts.writeLayout(catalogue, list, { records: [0] }, new Findings());
    assert.deepEqual([...bytes!.subarray(0, 2)], [0xd0, 0xcf]);
  },
  asTargetView() {
    const { catalogue: resolved } = parts.resolveReferences(new parts.Catalogue(kinds), new Findings());
    assert.equal(parts.asTargetView(resolved).table("product").size, 0);
  },
  Catalogue() {
    const made = new parts.Catalogue(kinds);
    const products = made.table("product");
    const row = products.append(0, 2);
    products.nameRecord(row, "smoker");
    products.setText("name@en", row, "Bee smoker");
    assert.equal(products.text("name@en", products.find("smoker") ?? -1), "Bee smoker");
  },
  async lookAt() {
    const [sample] = await parts.lookAt(bytesOf(csv), "range.csv", new Findings());
    assert.deepEqual(
      sample?.columns.map(({ header }) => header),
      ["No", "Code", "Name", "Shelf", "Weight", "Price"],
    );
  },
  async draftTogether() {
    const more = "Item;Available\nBS-1;4\nBS-2;7\n";
    const [range] = await parts.lookAt(bytesOf(csv), "range.csv", new Findings());
    const [stock] = await parts.lookAt(bytesOf(more.replaceAll("BS", "X")), "stock.csv", new Findings());
    const drafts = parts.draftTogether([
      { file: "range.csv", name: "range", sample: range! },
      { file: "stock.csv", name: "stock", sample: stock! },
    ]);
    assert.deepEqual(
      drafts.map(({ yaml }) => /^layout: (.*)$/m.exec(yaml)?.[1]),
      ["range", "stock"],
    );
  },
  async draftLayout() {
    const [sample] = await parts.lookAt(bytesOf(csv), "range.csv", new Findings());
    assert.match(sample ? parts.draftLayout(sample, "range").yaml : "", /Weight: .*weight/);
  },
  async compileRules() {
    const given = givenRule.parse({ field: "product.name@de", copy: "product.name@en" });
    const rules = await parts.compileRules([given], new Set(), () => ({ file: "project.yaml" }), kinds);
    assert.equal(valueOf(rules)[0]?.way, "copy");
  },
  async membersByRule() {
    assert.equal((await parts.membersByRule(catalogue, new Findings())).size, 0);
  },
  async deriveBefore() {
    const rules = await rulesOf({ field: "product.code", template: "X-{key}", overwrite: true });
    const made = parts.deriveBefore(await filled(), { rules, tables: new Map(), findings: new Findings() });
    assert.equal(made.table("product").text("code", 0), "X-smoker");
  },
  async deriveAfter() {
    const rules = await rulesOf({ field: "product.name@de", template: "{name.en} (neu)" });
    const made = parts.deriveAfter(catalogue, { rules, tables: new Map(), findings: new Findings() });
    assert.equal(made.table("product").text("name@de", 0), "Bee smoker (neu)");
    assert.equal(catalogue.table("product").text("name@de", 0), undefined);
  },
  async loadSlugs() {
    const toSlug = await parts.loadSlugs();
    assert.equal(toSlug("Bienenbürste, groß"), "bienenbuerste-gross");
  },
  toEnding() {
    assert.equal(parts.toEnding("12.30", { to: "0.95", goes: "up" }), "12.95");
    assert.equal(parts.toEnding("12.30", { to: "9.90", goes: "nearest" }), "9.9");
  },
  withTax() {
    assert.equal(parts.withTax("100", "19", "added", 2), "119");
    assert.equal(parts.withTax("119", "19", "taken out", 2), "100");
  },
  async resolveReferences() {
    const { catalogue: resolved, created } = parts.resolveReferences(await filled(), new Findings());
    assert.deepEqual([...resolved.table("category").keys()].length, 2);
    assert.deepEqual(
      created.map(({ key }) => key),
      ["Tools", "Tools/Smokers"],
    );
  },
  sellables() {
    const sold = [...parts.sellables(catalogue)].map(({ table, row }) => table.text("code", row));
    assert.deepEqual(sold, ["BC-SM", "BC-BR"]);
  },
  CodeIndex() {
    const index = new parts.CodeIndex(catalogue);
    assert.equal(index.find("BC-BR")?.row, 1);
    assert.equal(index.repeated.size, 0);
  },
  checkCatalogue() {
    const findings = new Findings();
    const codes = new parts.CodeIndex(catalogue);
    parts.checkCatalogue({ catalogue, codes, pictures: undefined, languages: ["en", "de"], findings });
    assert.ok(findings.list().every(({ at }) => at?.file === "range.csv" || at === undefined));
  },
  picturesNamed() {
    assert.deepEqual(parts.picturesNamed(catalogue), []);
  },
  barcodeProblem() {
    assert.equal(parts.barcodeProblem("4006381333931"), undefined);
    assert.match(String(parts.barcodeProblem("4006381333930")), /digit/);
  },
  async parseTarget() {
    const yaml = (await shippedTarget("saltmarsh")) ?? "";
    assert.equal(valueOf(parts.parseTarget(yaml, "saltmarsh.yaml", kinds)).name, "saltmarsh");
    assert.equal(parts.parseTarget("target: x", "x.yaml", kinds).ok, false);
  },
  findUncarried() {
    assert.deepEqual(parts.findUncarried(catalogue, target), []);
  },
  planImport() {
    const options = { bytesOf: () => 0, headerBytes: () => 0, pictures: [] };
    const { steps } = valueOf(parts.planImport(catalogue, target, options));
    assert.deepEqual(
      steps.map(({ is }) => is),
      ["save", "upload", "look"],
    );
  },
  recordsNamed() {
    assert.deepEqual(parts.recordsNamed(catalogue, "BC-BR"), [{ kind: "product", row: 1 }]);
  },
  whyThere() {
    const [reason] = parts.whyThere(catalogue, target, plan, { kind: "product", row: 0 });
    assert.equal(reason?.step, 2);
  },
  findSequence() {
    const folders = { name: "category", slots: [0], needs: [], postponedIn: [] };
    const goods = {
      name: "product",
      slots: [1],
      needs: [{ placement: 0, demand: "earlier file" as const }],
      postponedIn: [],
    };
    const found = parts.findSequence([folders, goods], 2);
    assert.deepEqual(
      found?.steps.map(({ slot }) => slot),
      [0, 1],
    );
  },
  findRounds() {
    const folders = { name: "category", slots: [0], needs: [], postponedIn: [] };
    const goods = {
      name: "product",
      slots: [1],
      needs: [{ placement: 0, demand: "earlier file" as const }],
      postponedIn: [],
    };
    assert.equal(parts.findRounds([folders, goods], 2)?.steps.length, 2);
  },
  verifyPlan() {
    assert.deepEqual(parts.verifyPlan(catalogue, target, plan), []);
  },
  needsGraph() {
    const graph = parts.needsGraph(3, Int32Array.of(2, 1), Int32Array.of(1, 0));
    assert.equal(graph.needs[graph.starts[2] ?? 0], 1);
  },
  orderByNeeds() {
    const { order, cycles } = parts.orderByNeeds(parts.needsGraph(3, Int32Array.of(2, 1), Int32Array.of(1, 0)));
    assert.deepEqual([[...order], cycles], [[0, 1, 2], []]);
  },
  parseLedger() {
    const ledger = new Ledger();
    ledger.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    const { ledger: read } = parts.parseLedger(ledger.addedText(), "ledger.jsonl", new Findings());
    assert.equal(read.id("product", "smoker"), "17");
  },
  thereBy() {
    const ledger = new Ledger();
    ledger.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    const { isThere } = parts.thereBy(ledger, catalogue);
    assert.deepEqual([isThere("product", 0), isThere("product", 1)], [true, false]);
  },
  withIds() {
    const ledger = new Ledger();
    ledger.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    assert.equal(parts.withIds(catalogue, ledger).table("product").text("id", 0), "17");
    assert.equal(catalogue.table("product").text("id", 0), undefined);
  },
  async collectIds() {
    const choices = { heldBack: parts.nothingHeldBack, ledger: new Ledger(), run: "first" };
    const readExport = () => Promise.resolve(false);
    const collected = await parts.collectIds({
      catalogue,
      kinds,
      target,
      plan,
      ...choices,
      reports: new Map(),
      readExport,
    });
    assert.ok(!collected.ok && collected.findings.list().some(({ code }) => code === "collect/no-report"));
  },
  async buildUpload() {
    const folder = memoryFolder();
    const choices = { holdBack: false, despite: new Set<string>(), found: new Findings(), sha256: nodeSha256 };
    const input = { catalogue, target, project: "bees", pictures: new Map<string, Uint8Array>(), ...choices };
    const { files: written } = valueOf(await parts.buildUpload(input, folder.sink));
    assert.ok(folder.files.has(written[0]?.name ?? ""));
  },
  compareHeld() {
    const held = { catalogue, isOfPlatform: () => false };
    const compared = parts.compareHeld(catalogue, target, held, () => false);
    assert.deepEqual([compared.differences, compared.cells.different], [[], 0]);
  },
  prepareBuild() {
    const choices = { holdBack: false, despite: new Set<string>(), pictureNames: [], found: new Findings() };
    const { plan: made, heldBack } = valueOf(parts.prepareBuild({ catalogue, target, ...choices }));
    assert.deepEqual([made.target, heldBack.byKind.size], ["pennywort", 0]);
  },
  fileRows() {
    const step = plan.steps.find((one) => one.is === "upload");
    const file = target.files.get(step?.is === "upload" ? step.slot.file : "");
    assert.ok(step?.is === "upload" && file && step.files[0]);
    const { blocks } = step.files[0];
    const { headers, rows } = parts.fileRows(catalogue, file, { blocks, step, isLeftOut: () => false }, new Findings());
    assert.ok([...rows].every(({ cells }) => cells.length === headers.length));
  },
  async encodeFile() {
    const step = plan.steps.find((one) => one.is === "upload");
    const file = target.files.get(step?.is === "upload" ? step.slot.file : "");
    assert.ok(step?.is === "upload" && file && step.files[0]);
    const { blocks } = step.files[0];
    const rows = parts.fileRows(catalogue, file, { blocks, step, isLeftOut: () => false }, new Findings());
    const chunks = [...(await parts.encodeFile(catalogue, file, rows, new Findings()))];
    assert.match(new TextDecoder().decode(chunks[0]), /BC-SM/);
  },
  uploadMark() {
    assert.match(parts.uploadMark, /^\./);
  },
  heldRows() {
    assert.equal(parts.heldRows({ byKind: new Map([["product", new Set([1])]]), unanswered: [] }, "product").size, 1);
  },
  heldCounts() {
    const held = { byKind: new Map([["product", new Set([1])]]), unanswered: [] };
    assert.deepEqual(parts.heldCounts(held), [{ kind: "product", count: 1 }]);
  },
  isHeldBack() {
    const isOut = parts.isHeldBack({ byKind: new Map([["product", new Set([1])]]), unanswered: [] });
    assert.deepEqual([isOut("product", 0), isOut("product", 1)], [false, true]);
  },
  nothingHeldBack() {
    assert.equal(parts.isHeldBack(parts.nothingHeldBack)("product", 0), false);
  },
  async reshape() {
    const ports = { source: "en", toSlug: await parts.loadSlugs() };
    const operation = { rename: "brush", of: "product", to: "bee-brush" };
    const { catalogue: made } = valueOf(await parts.reshape(catalogue, operation, ports, { file: "project.yaml" }));
    assert.deepEqual([...made.table("product").keys()], ["smoker", "bee-brush"]);
    assert.deepEqual([...catalogue.table("product").keys()], ["smoker", "brush"]);
  },
  async reshapeByAll() {
    const ports = { source: "en", toSlug: await parts.loadSlugs() };
    const at = { file: "project.yaml" };
    const operations = ["bee-brush", "soft-brush"].map((to) => ({
      operation: { rename: "brush", of: "product", to },
      at,
    }));
    const { catalogue: made, done, findings } = await parts.reshapeByAll(catalogue, operations, ports);
    // Behind the first there is no "brush" any more.
    assert.deepEqual([done.length, findings.list().length], [1, 1]);
    assert.deepEqual([...made.table("product").keys()], ["smoker", "bee-brush"]);
  },
  measure() {
    assert.deepEqual([...parts.measure(catalogue).sold.keys()], ["BC-SM", "BC-BR"]);
  },
  fieldBalance() {
    const changed = catalogue.branch();
    changed.table("product").setText("name@en", 0, "Other");
    const nothing = { codes: new Map(), records: new Map(), made: new Map(), set: new Map() };
    assert.deepEqual(
      parts.fieldBalance(catalogue, changed, nothing).map(({ what, unexplained }) => [what, unexplained]),
      [["product.name@en", ["smoker"]]],
    );
  },
  balance() {
    const before = parts.measure(catalogue);
    const nothing = {
      codes: new Map(),
      products: new Map(),
      pictures: new Set<string>(),
      relations: new Set<string>(),
    };
    const after = { ...before, sold: new Map([...before.sold].slice(1)) };
    assert.ok(parts.balance(before, after, nothing).some(({ unexplained }) => unexplained.length > 0));
  },
  chooseTrial() {
    const { products, isExact } = parts.chooseTrial(catalogue);
    assert.deepEqual([products.length, isExact], [2, true]);
  },
  exactUpTo() {
    assert.equal(parts.exactUpTo, 20);
  },
  trialCatalogue() {
    const { products, ...trial } = parts.chooseTrial(catalogue);
    const few = parts.trialCatalogue(catalogue, { ...trial, products: products.slice(0, 1) });
    assert.equal(few.table("product").size, 1);
  },
  traceCells() {
    const [cell] = parts.traceCells(
      catalogue,
      target,
      plan,
      () => false,
      (_, line, header) => line === 2 && header !== "",
    );
    assert.equal(cell?.origins[0]?.location.file, "range.csv");
  },
  traceSource() {
    const source = { file: "range.csv", line: 3 };
    const records = [...parts.traceSource(catalogue, target, plan, () => false, source)].map(
      ({ record }) => record.key,
    );
    assert.ok(records.includes("brush"));
  },
  uploadRows() {
    const step = plan.steps.find((one) => one.is === "upload");
    assert.ok(step?.is === "upload" && step.files[0]);
    const { rows } = parts.uploadRows(catalogue, target, step, step.files[0], { isLeftOut: () => false });
    assert.deepEqual(
      [...rows].map(({ line }) => line),
      [2, 3],
    );
  },
  translationList() {
    const wanted = parts.translationList(catalogue, "en", "de");
    assert.deepEqual(
      wanted.filter(({ kind }) => kind === "product").map(({ source, state }) => [source, state]),
      [
        ["Bee smoker", "missing"],
        ["Bee brush", "missing"],
      ],
    );
  },
  takeTranslations() {
    const item = { kind: "product", key: "brush", field: "name", source: "Bee brush", translation: "Bienenbürste" };
    const at = { file: "german.csv", line: 2 };
    const { catalogue: made, taken } = parts.takeTranslations(catalogue, [{ item, at }], "en", "de", new Findings());
    assert.deepEqual([taken, made.table("product").text("name@de", 1)], [1, "Bienenbürste"]);
  },
  itemsOfSheet() {
    const header = ["Kind", "Key", "Field", "State", "en", "de"];
    const row = ["product", "brush", "name", "missing", "Bee brush", "Bienenbürste"];
    assert.equal(parts.itemsOfSheet([header, row], [1, 2], "de")?.[0]?.item.translation, "Bienenbürste");
    assert.equal(parts.itemsOfSheet([["No"], ["1"]], [1, 2], "de"), undefined);
  },
  async itemsOfXliff() {
    const xliff = `<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.0" srcLang="en" trgLang="de"><file id="f">
<unit id="u1" name="product | name | brush"><segment><source>Bee brush</source><target>Bienenbürste</target></segment></unit>
</file></xliff>`;
    const [found] = await parts.itemsOfXliff(text(xliff), "german.xlf", new Findings());
    assert.deepEqual([found?.item.key, found?.item.translation], ["brush", "Bienenbürste"]);
  },
  async loadProject() {
    const project = valueOf(await parts.loadProject("project.yaml", demo, shippedTarget, shippedLayout));
    assert.equal(project.targets.length, 3);
    assert.equal((await parts.loadProject("none.yaml", demo, shippedTarget)).ok, false);
  },
  async readProject() {
    const project = valueOf(await parts.loadProject("project.yaml", demo, shippedTarget, shippedLayout));
    const { catalogue: read } = await parts.readProject(project, demo, new Findings());
    assert.equal(read.table("product").size, 84);
  },
  async viewForTarget() {
    const project = valueOf(await parts.loadProject("project.yaml", demo, shippedTarget, shippedLayout));
    const { catalogue: read } = await parts.readProject(project, demo, new Findings());
    const [first] = project.targets;
    assert.ok(first);
    const view = await parts.viewForTarget(project, read, first, demo, new Findings());
    assert.equal(view.table("product").size, 84);
  },
  async calibrateLayout() {
    const { rows, columns } = valueOf(await parts.calibrateLayout("range.csv", layout, kinds, files));
    assert.deepEqual([rows, columns.every(({ differentCount }) => differentCount === 0)], [2, true]);
  },
  columnGuide() {
    const rows = parts.columnGuide(layout, kinds);
    assert.deepEqual(
      rows.map(({ column }) => column),
      ["No", "Code", "Name", "Shelf", "Weight", "Price"],
    );
  },
  guideMarkdown() {
    assert.match(parts.guideMarkdown(layout, parts.columnGuide(layout, kinds)), /Weight/);
  },
  emptyWorkbook() {
    const [sheet] = parts.emptyWorkbook(layout, parts.columnGuide(layout, kinds));
    assert.deepEqual(sheet?.rows[0], ["No", "Code", "Name", "Shelf", "Weight", "Price"]);
  },
  async readSource() {
    const made = new parts.Catalogue(kinds);
    const { rows } = await parts.readSource({ file: "range.csv", layout }, made, files, new Findings());
    assert.deepEqual([rows, made.table("product").size], [2, 2]);
  },
  async readSources() {
    const made = new parts.Catalogue(kinds);
    const counts = await parts.readSources([{ file: "range.csv", layout }], made, files, new Findings());
    assert.deepEqual(
      counts.map(({ rows }) => rows),
      [2],
    );
  },
  knownMeaning() {
    assert.equal(parts.knownMeaning("product", "key")?.example, "orchard-hive");
  },
  kindMeanings() {
    assert.match(parts.kindMeanings["product"] ?? "", /shoppers/);
  },
  baseLayout() {
    assert.ok(parts.parseGiven(parts.baseLayout, "layout.yaml", givenLayout).ok);
  },
  layoutReference() {
    assert.ok(parts.layoutReference.flatMap(({ entries }) => entries).length > 50);
  },
  baseProject() {
    assert.ok(parts.parseGiven(parts.baseProject, "project.yaml", givenProject).ok);
  },
  projectReference() {
    assert.ok(parts.projectReference.flatMap(({ entries }) => entries).length > 20);
  },
  baseTarget() {
    assert.ok(parts.parseTarget(parts.baseTarget, "target.yaml", new parts.Kinds()).ok);
  },
  targetReference() {
    assert.ok(parts.targetReference.flatMap(({ entries }) => entries).length > 80);
  },
  exampleFacts() {
    assert.equal(parts.exampleFacts["code"], "BC-OH");
  },
  expressionReference() {
    const all = parts.expressionReference.flatMap(({ entries }) => entries);
    assert.ok(all.some(({ name }) => name === "startsWith"));
  },
};

for (const [name, example] of Object.entries(examples)) test(`example of ${name}`, async () => void (await example()));

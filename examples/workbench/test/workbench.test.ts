/** The built workbench, driven in Chromium: what is brought, fixed, followed, played and saved. */

import assert from "node:assert/strict";
import { execFileSync } from "node:child_process";
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { after, before, test } from "node:test";
import { overflowOf, problemsOf, tabTo, type Page } from "@zest-tier/chromium";
import { unzipSync, zipSync } from "fflate";
import {
  bring,
  changed,
  choose,
  demoFolder,
  goTo,
  openPage,
  roughFolder,
  saved,
  settled,
  startWorkbench,
  type OpenWorkbench,
} from "./open.js";

let workbench: OpenWorkbench;
let folder: string;
before(async () => {
  workbench = await startWorkbench();
  folder = mkdtempSync(join(tmpdir(), "zest-tier-workbench-"));
});
after(async () => {
  await workbench.stop();
  rmSync(folder, { recursive: true, force: true });
});

const binary = fileURLToPath(new URL("../../../../packages/cli/dist/src/bin.js", import.meta.url));

/** A project's files as an archive, as a person would drop it. */
function zipped(from: string): { name: string; mimeType: string; buffer: Buffer } {
  const files = readdirSync(from, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  const all = files.map((entry): [string, Uint8Array] => {
    const path = join(entry.parentPath, entry.name);
    return [path.slice(from.length + 1), new Uint8Array(readFileSync(path))];
  });
  return { name: "project.zip", mimeType: "application/zip", buffer: Buffer.from(zipSync(Object.fromEntries(all))) };
}

test("opens with the demo, and saves the upload folder to the byte as the command line writes it, for each platform", async () => {
  const { page, errors } = await openPage(workbench);
  const project = join(folder, "bramblecomb");
  cpSync(demoFolder, project, { recursive: true });
  for (const target of ["pennywort", "saltmarsh", "tollgate"]) {
    if (target !== "pennywort") await choose(page, target);
    const { name, bytes } = await saved(page, "Upload folder (zip)");
    assert.equal(name, `upload-${target}.zip`);
    execFileSync(process.execPath, [binary, "build", project, "--for", target], { stdio: "pipe" });
    const written = join(project, `upload-${target}`);
    const own = new Map(Object.entries(unzipSync(bytes)).map(([file, content]) => [file, Buffer.from(content)]));
    assert.deepEqual([...own.keys()].sort(), readdirSync(written).sort());
    for (const [file, content] of own)
      assert.ok(content.equals(readFileSync(join(written, file))), `${target}: ${file}`);
  }
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("a saved project is opened again, and is the same", async () => {
  const { page } = await openPage(workbench);
  const { bytes } = await saved(page, "Whole project, to open again (zip)");
  const files = Object.keys(unzipSync(bytes));
  assert.deepEqual(
    files.filter((file) => !file.startsWith("pictures/")).sort(),
    readdirSync(demoFolder, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile() && !entry.parentPath.endsWith("pictures"))
      .map((entry) => join(entry.parentPath, entry.name).slice(demoFolder.length + 1))
      .sort(),
  );
  await bring(page, { name: "mine.zip", mimeType: "application/zip", buffer: bytes });
  assert.equal(await page.locator(".project").textContent(), "bramblecomb");
  assert.match((await page.locator(".stages").textContent()) ?? "", /25 sheets.*84 products/);
  const layouts = await saved(page, "Layouts and project file (zip)");
  assert.ok(Object.keys(unzipSync(layouts.bytes)).every((file) => file.endsWith(".yaml")));
  const sheet = await saved(page, "Run sheet (HTML)");
  assert.match(sheet.bytes.toString("utf8"), /<!doctype html>/i);
  await page.context().close();
});

test("a finding leads to its cell, which says what is wrong with it, and back", async () => {
  const { page, errors } = await openPage(workbench);
  await bring(page, zipped(roughFolder));
  await goTo(page, "#/findings?severity=error");
  const groups = page.locator(".finding-group");
  assert.ok((await groups.count()) > 5);
  await groups.first().getByRole("button").click();
  const link = page.locator(".finding-group.open .finding-line a").first();
  const location = (await link.textContent()) ?? "";
  const code = await page.locator(".finding-group.open code").first().textContent();
  await link.click();
  await page.waitForSelector(".cell-panel .cell-mark");
  const [, line, column] = /[:/](\d+)(?: \[(.+)\])?$/.exec(location) ?? [];
  assert.match((await page.locator(".cell-panel h2").textContent()) ?? "", new RegExp(`${line} ·`));
  await page.waitForSelector(".grid .marked");
  if (column !== undefined) assert.ok(((await page.locator(".cell-panel h2").textContent()) ?? "").includes(column));
  await page.getByRole("link", { name: "Back to the findings" }).click();
  await page.waitForSelector(".finding-group.open");
  assert.equal(await page.locator(".finding-group.open code").first().textContent(), code);
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("CSV files without a project get a layout; a column is bound by hand, its effect is reported, and undone", async () => {
  const { page, errors } = await openPage(workbench);
  const csv = "Item;Title;Gewicht kg;Colour of lid\n100-1;Bee brush;0,12;x1\n100-2;Hive tool;0,4;x2\n";
  await bring(page, { name: "tools.csv", mimeType: "text/csv", buffer: Buffer.from(csv) });
  await page.waitForSelector('.layout-columns [data-header="Colour of lid"]');
  const column = page.locator('.layout-columns [data-header="Colour of lid"]');
  const feeds = () => column.locator(".layout-feeds").textContent();
  assert.equal(await feeds(), "unmapped");
  await column.getByRole("button").first().click();
  await page.getByRole("combobox", { name: "Map to" }).fill("product.colour");
  await page.getByRole("button", { name: "Apply", exact: true }).click();
  await page.waitForSelector("text=The project cannot be read yet");
  await page.waitForSelector(".finding-line");
  assert.match((await page.locator("main").textContent()) ?? "", /colour/);
  await changed(page, () => page.getByRole("button", { name: /^Undo: the column “Colour of lid”/ }).click());
  await column.getByRole("button").first().click();
  await page.getByRole("combobox", { name: "Map to" }).fill("product.unit");
  await page.getByRole("button", { name: "Apply", exact: true }).click();
  await page.waitForSelector(".notice >> text=/Colour of lid → product.unit/");
  assert.equal(await feeds(), "product.unit");
  await page.locator('[role="gridcell"]', { hasText: "x2" }).click();
  await page.keyboard.press("Control+z");
  await page.waitForFunction(
    () => document.querySelector('[data-header="Colour of lid"] .layout-feeds')?.textContent === "unmapped",
  );
  await page.getByRole("button", { name: /^Redo: the column/ }).click();
  await page.waitForFunction(
    () => document.querySelector('[data-header="Colour of lid"] .layout-feeds')?.textContent === "product.unit",
  );
  await page.waitForFunction(() => document.querySelector(".cell-text")?.textContent === "x2");
  const layouts = unzipSync((await saved(page, "Layouts and project file (zip)")).bytes);
  const text = Buffer.from(layouts["layouts/tools.yaml"]!).toString("utf8");
  assert.match(text, /Colour of lid: product\.unit/);
  assert.match(text, /# sure: /, "the draft's reasons stay");
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("files without a project are drafted together, and what they do not tell is asked; replies make the project anew", async () => {
  const { page, errors } = await openPage(workbench);
  const goods = "Artikel;Bezeichnung;Preis\nL-1;Laterne klein;12,50\nL-2;Korb geflochten;8,90\nL-3;Decke rot;30,00\n";
  const file = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await changed(page, () =>
    page.setInputFiles('input[data-what="files"]', [
      file("waren.csv", goods),
      file("lager.csv", "Artikel;Bestand\nL-1;4\nL-2;7\nL-3;1\n"),
    ]),
  );
  assert.match(
    (await page.locator(".source-list").textContent()) ?? "",
    /waren\.csv3 rows.*lager\.csv2 rows|lager\.csv3 rows/s,
  );
  const questions = page.locator(".questions");
  assert.match(
    (await questions.textContent()) ?? "",
    /What the files do not tell.*In which currency.*Show everything\?/s,
  );
  await questions.getByLabel(/In which currency/).fill("CHF");
  await changed(page, () => questions.getByRole("button", { name: "Use these replies" }).click());
  assert.equal(await questions.getByLabel(/In which currency/).inputValue(), "CHF");
  assert.deepEqual(await problemsOf(page), []);
  const files = unzipSync((await saved(page, "Layouts and project file (zip)")).bytes);
  const project = Buffer.from(files["project.yaml"]!).toString();
  assert.match(project, /currency: CHF\n[^]*product\.shown, constant: "true"[^]*shop languages: de/);
  assert.match(Buffer.from(files["layouts/lager.yaml"]!).toString(), /found by: \{ column: Artikel, names: code \}/);
  await changed(page, () => page.getByRole("button", { name: /^Undo: the replies/ }).click());
  assert.equal(await questions.getByLabel(/In which currency/).inputValue(), "EUR");
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("a cell of the upload leads to the cell it came from, and that one shows where it goes", async () => {
  const { page } = await openPage(workbench);
  await goTo(page, "#/rows/02-items.csv?line=3&column=Price");
  await page.getByRole("link", { name: /sources\/range\.csv:3 Price/ }).click();
  await page.waitForSelector(".cell-panel .cell-text");
  assert.match((await page.locator(".cell-panel h2").textContent()) ?? "", /3 · Price/);
  await page.getByRole("button", { name: "Where does it go?" }).click();
  assert.equal(
    await page.locator(".command code").textContent(),
    "npx zest-tier trace bramblecomb --source sources/range.csv:3:Price --for pennywort",
  );
  await page.getByRole("link", { name: "02-items.csv:3 Price" }).click();
  await page.waitForSelector("h1 >> text=Rows");
  await page.context().close();
});

test("the rehearsal is played step by step, and shows what is on the platform after each", async () => {
  const { page } = await openPage(workbench);
  await choose(page, "saltmarsh");
  await goTo(page, "#/rehearsal");
  await page.waitForSelector("text=Rebuilt as intended");
  assert.match((await page.locator(".player-buttons").textContent()) ?? "", /Step (\d+) of \1/);
  const held = (kind: string) => page.locator(`.holds dl > div:has(dt:text-is("${kind}")) dd`).textContent();
  assert.equal(await held("product"), "84");
  await page.locator(".played button").nth(2).click();
  assert.equal(await held("category"), "8+8");
  assert.equal(await held("product"), "0");
  await page.getByRole("button", { name: "Next step" }).click();
  assert.equal(await held("brand"), "5+5");
  await page.getByRole("button", { name: "To the end" }).click();
  assert.equal(await held("variant"), "255");
  assert.match((await page.locator(".uncarried").textContent()) ?? "", /Instead/);
  await page.context().close();
});

test("the rehearsal numbers the steps as the plan does", async () => {
  const { page } = await openPage(workbench);
  for (const target of ["pennywort", "saltmarsh", "tollgate"]) {
    await choose(page, target);
    await goTo(page, "#/plan");
    await page.getByText("Steps", { exact: true }).click();
    const titles = (await page.locator(".steps .step-line b").allTextContents()).map((title) => title.trim());
    await goTo(page, "#/rehearsal");
    await page.waitForSelector("text=Rebuilt as intended");
    const played = page.locator(".played li");
    for (let at = 0; at < (await played.count()); at++) {
      const row = played.nth(at);
      const number = Number(await row.locator(".step-number").textContent());
      const title = (await row.locator("button > span").nth(1).textContent()) ?? "";
      assert.ok(
        title.startsWith(titles[number - 1] ?? "?"),
        `${target}: ${number} ${title}, not ${titles[number - 1]}`,
      );
    }
    assert.ok((await played.count()) >= 3);
  }
  await page.context().close();
});

test("what is held back is left out, and then there is an upload folder after all", async () => {
  const { page } = await openPage(workbench);
  await bring(page, zipped(roughFolder));
  await goTo(page, "#/rehearsal");
  assert.match((await page.locator(".notice.error").textContent()) ?? "", /Errors block the upload/);
  await changed(page, () => page.getByLabel("Hold back faulty records").check({ force: true }));
  await page.waitForFunction(() => document.querySelector(".waiting") === null);
  const text = (await page.locator("main").textContent()) ?? "";
  assert.match(text, /Rebuilt as intended|cannot be held back|Errors block the upload/);
  assert.match((await page.locator(".command code").textContent()) ?? "", /--hold-back/);
  await page.context().close();
});

test("what cannot be opened is reported, and what was open stays", async () => {
  const { page, errors } = await openPage(workbench);
  const wrong = [
    { name: "notes.docx", buffer: Buffer.from("PK nothing"), says: /This contains no sheet/ },
    { name: "broken.zip", buffer: Buffer.from("PK\u0003\u0004 not really a zip at all"), says: /archive is damaged/ },
    { name: "empty.csv", buffer: Buffer.alloc(0), says: /No header/ },
    {
      name: "noise.xlsx",
      buffer: Buffer.from(Array.from({ length: 5_000 }, (_, n) => (n * 7_919) % 256)),
      says: /No header/,
    },
  ];
  for (const { name, buffer, says } of wrong) {
    await page.setInputFiles('input[data-what="files"]', { name, mimeType: "application/octet-stream", buffer });
    await page.waitForSelector('[role="alert"]');
    assert.match((await page.locator('[role="alert"]').textContent()) ?? "", says, name);
    assert.equal(await page.locator(".project").textContent(), "bramblecomb");
    await page.getByRole("button", { name: "Close" }).click();
  }
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("files that are dropped anywhere are opened, and seen before they have a layout", async () => {
  const { page, errors } = await openPage(workbench);
  const transfer = await page.evaluateHandle(() => {
    const data = new DataTransfer();
    const rows = Array.from({ length: 5_000 }, (_, n) => `${n};Hive ${n}`).join("\n");
    data.items.add(new File([`No;Name\n${rows}\n`], "hives.csv", { type: "text/csv" }));
    return data;
  });
  await page.dispatchEvent("body", "dragenter", { dataTransfer: transfer });
  await page.waitForSelector(".drop-over");
  await changed(page, () => page.dispatchEvent("body", "drop", { dataTransfer: transfer }));
  assert.equal(await page.locator(".drop-over").count(), 0);
  assert.equal(await page.locator(".project").textContent(), "hives");
  assert.match((await page.locator(".source-list").textContent()) ?? "", /hives\.csv5,000 rows/);
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("opening something else can be taken back", async () => {
  const { page } = await openPage(workbench);
  await bring(page, { name: "mine.csv", mimeType: "text/csv", buffer: Buffer.from("No;Name\n1;Hive\n2;Brush\n") });
  assert.equal(await page.locator(".project").textContent(), "mine");
  await changed(page, () => page.getByRole("button", { name: "Undo: opening mine.csv" }).click());
  assert.equal(await page.locator(".project").textContent(), "bramblecomb");
  await page.context().close();
});

test("files that come to a project: one of a source's name takes its place, another becomes a source", async () => {
  const { page } = await openPage(workbench);
  const first = "No;Name\n1;Hive\n2;Brush\n";
  await bring(page, { name: "mine.csv", mimeType: "text/csv", buffer: Buffer.from(first) });
  await changed(page, () =>
    page.setInputFiles('input[data-what="more"]', [
      { name: "mine.csv", mimeType: "text/csv", buffer: Buffer.from(`${first}3;Veil\n`) },
      { name: "stock.csv", mimeType: "text/csv", buffer: Buffer.from("Item no,Stock\n1,4\n2,5\n") },
    ]),
  );
  const list = (await page.locator(".source-list").textContent()) ?? "";
  assert.match(list, /mine\.csv3 rows/);
  assert.match(list, /stock\.csv2 rows/);
  await page.locator('[role="gridcell"]', { hasText: "Veil" }).click();
  assert.equal(await page.locator(".cell-text").textContent(), "Veil", "the new file is what is shown");
  await page.context().close();
});

test("pictures that come later are the project's: none is missing, and the saved project has them", async () => {
  const { page, errors } = await openPage(workbench);
  const goods = "Item;Code;Title;Photo\n1;A-1;Hive;hive.png\n2;A-2;Brush;brush.png\n";
  await bring(page, { name: "goods.csv", mimeType: "text/csv", buffer: Buffer.from(goods) });
  const picture = (name: string) => ({ name, mimeType: "image/png", buffer: Buffer.from([137, 80, 78, 71]) });
  await changed(page, () => page.setInputFiles('input[data-what="more"]', [picture("hive.png"), picture("brush.png")]));
  const { bytes } = await saved(page, "Whole project, to open again (zip)");
  const files = unzipSync(bytes);
  assert.match(Buffer.from(files["project.yaml"]!).toString(), /^pictures: pictures$/m);
  assert.deepEqual(
    Object.keys(files)
      .filter((name) => name.endsWith(".png"))
      .sort(),
    ["pictures/brush.png", "pictures/hive.png"],
  );
  await goTo(page, "#/findings");
  assert.doesNotMatch((await page.locator("main").textContent()) ?? "", /there is no file for the picture/);
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("when everything is held back, the rehearsal reports how much, and there is nothing to save", async () => {
  const { page } = await openPage(workbench);
  const files = {
    "project.yaml":
      "project: one\nsources:\n  - { file: one.csv, layout: one.yaml }\ntargets:\n  - target: pennywort\n",
    "one.yaml":
      "layout: one\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Code: product.code\n  Name: product.name@en\n  Price: { field: product.prices(price).amount, as: decimal }\n",
    "one.csv": "Key;Code;Name;Price\na;A1;Hive;none\nb;B1;Lid;none\n",
  };
  const entries = Object.entries(files).map(([name, text]) => [name, new TextEncoder().encode(text)] as const);
  await bring(page, {
    name: "one.zip",
    mimeType: "application/zip",
    buffer: Buffer.from(zipSync(Object.fromEntries(entries))),
  });
  await changed(page, () => page.getByLabel("Hold back faulty records").check({ force: true }));
  await goTo(page, "#/rehearsal");
  const text = (await page.locator(".notice.error").textContent()) ?? "";
  assert.match(text, /Everything is held back \(2 products\), so there is nothing to upload/);
  assert.doesNotMatch((await page.locator("main").textContent()) ?? "", /Rebuilt/);
  await page.context().close();
});

/** What a browser says that a device has, in GB. */
const deviceMemory = (value: number): string =>
  `Object.defineProperty(navigator, "deviceMemory", { value: ${value} });`;

test("sources that take much memory can be viewed at once; everything else waits until it is asked for", async () => {
  const { page, errors } = await openPage(workbench, { inWorkers: deviceMemory(1) });
  const large = join(folder, "large.csv");
  writeFileSync(large, `No;Name\n${"1;\n".repeat(1_200_000)}`);
  await bring(page, large);
  await page.waitForSelector("text=this is not read automatically");
  const notice = (await page.locator(".notice h2 + p").textContent()) ?? "";
  assert.match(notice, /about 0\.7 GB of memory/);
  await page.waitForFunction(
    () => document.querySelector(".sheet-line")?.textContent?.includes("1,200,000 rows") ?? false,
  );
  await page.locator('[role="grid"]').focus();
  await page.keyboard.press("Control+End");
  await page.keyboard.press("Control+ArrowLeft");
  await page.keyboard.press("Enter");
  await page.waitForFunction(() => document.querySelector(".cell-text")?.textContent === "1");
  await goTo(page, "#/catalogue");
  await page.waitForSelector("text=this is not read automatically");
  assert.equal(await page.locator(".products").count(), 0);
  assert.deepEqual(errors, []);
  await page.context().close();
});

/** A project with so many products of a key, a code and a name. */
function manyProducts(rows: number, product = "Hive"): { name: string; mimeType: string; buffer: Buffer } {
  const lines = Array.from({ length: rows }, (_, n) => `k${n};C${n};${product};12.50\n`);
  const files = {
    "project.yaml":
      "project: many\nsources:\n  - { file: many.csv, layout: many.yaml }\ntargets:\n  - target: pennywort\n",
    "many.yaml":
      "layout: many\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Code: product.code\n  Name: product.name@en\n  Price: { field: product.prices(price).amount, as: decimal }\n",
    "many.csv": `Key;Code;Name;Price\n${lines.join("")}`,
  };
  const entries = Object.entries(files).map(([name, text]) => [name, new TextEncoder().encode(text)] as const);
  const buffer = Buffer.from(zipSync(Object.fromEntries(entries)));
  return { name: "many.zip", mimeType: "application/zip", buffer };
}

test("a rehearsal that takes much memory waits until it is asked for; the rows of the upload do not", async () => {
  const { page, errors } = await openPage(workbench, { inWorkers: deviceMemory(0.25) });
  await bring(page, manyProducts(17_000));
  assert.match((await page.locator(".stages").textContent()) ?? "", /17,000 products/);
  await goTo(page, "#/rehearsal");
  const notice = (await page.locator(".notice h2").last().textContent()) ?? "";
  assert.match(notice, /^17,000 rows: the rehearsal does not start automatically$/);
  assert.equal(await page.locator(".player").count(), 0);
  assert.match((await page.locator(".next, .page-head").first().textContent()) ?? "", /Rehearse it here/);
  await goTo(page, "#/rows");
  assert.match((await page.locator("main").textContent()) ?? "", /01-items\.csv120 rows/);
  const { bytes } = await saved(page, "Upload folder (zip)");
  assert.equal(Object.keys(unzipSync(bytes)).filter((name) => name.endsWith("-items.csv")).length, 142);
  await page.waitForSelector("text=The upload has not been rehearsed");
  // Asked for, it is rehearsed.
  await goTo(page, "#/rehearsal");
  await page.getByRole("button", { name: "Rehearse it here" }).click();
  await page.waitForSelector(".verdict.good");
  assert.deepEqual(errors, []);
  await page.context().close();
});

/** Counts the pieces that are read of the table. */
const counting = `
  globalThis.read = 0;
  const { slice } = Blob.prototype;
  Blob.prototype.slice = function (from, to) {
    if (this.size > 3_000_000 && to > 65_536) globalThis.read += Math.min(to, this.size) - from;
    return slice.call(this, from, to);
  };`;
const readOf = (page: Page): Promise<number[]> =>
  Promise.all(page.workers().map((one) => one.evaluate<number>("globalThis.read")));

test("with few processors, much is read for the sheet first, and then for everything else", async () => {
  const inPage = 'Object.defineProperty(navigator, "hardwareConcurrency", { value: 2 });';
  const { page, errors } = await openPage(workbench, { inWorkers: counting, inPage });
  await page.setInputFiles("input[data-what=files]", manyProducts(130_000, "Hive ".repeat(80)));
  const isRead = (told: string) =>
    page.waitForFunction((text) => document.querySelector(".sheet-line")?.textContent?.includes(text) ?? false, told);
  await isRead("130,000 rows");
  const [least = 0, most = 0] = (await readOf(page)).sort((a, b) => a - b);
  // The rest has looked at the beginning, to tell how much memory it takes.
  assert.ok(least < 3_000_000 && most > 50_000_000, `${least} and ${most} bytes`);
  while (Math.min(...(await readOf(page))) < 50_000_000) await page.waitForTimeout(100);
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("an edit ends what is read meanwhile, and is read itself", async () => {
  const { page, errors } = await openPage(workbench, { inWorkers: counting });
  await page.setInputFiles("input[data-what=files]", manyProducts(200_000));
  await page.waitForFunction(() => document.querySelector(".sheet-line")?.textContent?.includes("many.csv"));
  const platform = page.locator('select[aria-label="Platform"]');
  for (const target of ["saltmarsh", "tollgate", "pennywort"]) {
    await platform.selectOption(target);
    await page.waitForFunction((is) => document.querySelector("select")?.value === is, target);
    assert.doesNotMatch((await page.locator(".doing").textContent()) ?? "", /Ready/);
  }
  await settled(page);
  assert.match((await page.locator(".stages").textContent()) ?? "", /200,000 products/);
  assert.equal(await platform.inputValue(), "pennywort");
  const bytes = await readOf(page);
  // Each platform would have read it to its end, and the first reading too. The worker for the sheet reads it once.
  assert.ok(Math.max(...bytes) < 3.5 * Math.min(...bytes), bytes.join(" "));
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("the keyboard alone opens a sheet, walks its cells, follows one, and saves", async () => {
  const { page } = await openPage(workbench);
  const focused = () =>
    page.evaluate(() => document.activeElement?.getAttribute("role") ?? document.activeElement?.tagName ?? "");
  await tabTo(page, (label) => label.startsWith("range.csv"));
  await page.keyboard.press("Enter");
  await page.waitForFunction(() => location.hash.startsWith("#/sources/2"));
  await page.waitForSelector(".grid [role=gridcell]");
  for (let n = 0; n < 60 && (await focused()) !== "grid"; n++) await page.keyboard.press("Tab");
  assert.equal(await focused(), "grid");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  assert.match((await page.locator(".cell-panel h2").textContent()) ?? "", /3 · Range/);
  await page.keyboard.press("Control+End");
  await page.keyboard.press("Enter");
  await page.waitForFunction(
    () => !(document.querySelector(".cell-panel h2")?.textContent ?? "").includes("3 · Range"),
  );
  const active = await page.evaluate(() => {
    const id = document.querySelector('[role="grid"]')?.getAttribute("aria-activedescendant");
    return id !== null && id !== undefined && document.getElementById(id) !== null;
  });
  assert.ok(active, "what is active is there");
  await tabTo(page, (label) => label === "Where does it go?");
  await page.keyboard.press("Enter");
  await page.waitForFunction(() => document.querySelector(".cell-panel .waiting, .cell-panel button") === null);
  assert.match((await page.locator(".cell-panel").textContent()) ?? "", /goes into no file|02-items\.csv/);
  await page.context().close();
});

const places = ["sources/2", "catalogue/orchard-hive", "findings", "plan", "rows", "rehearsal"];
for (const [width, scheme, locale] of [
  [1280, "light", "en"],
  [1280, "dark", "de"],
  [390, "light", "de"],
  [390, "dark", "en"],
] as const)
  test(`axe finds nothing, and nothing runs over, in each place at ${width} pixels, ${scheme}, ${locale}`, async () => {
    const { page, errors } = await openPage(workbench, { width, scheme, locale });
    for (const location of places) {
      await goTo(page, `#/${location}`);
      assert.deepEqual(await problemsOf(page), [], location);
      assert.equal(await overflowOf(page), 0, location);
    }
    assert.deepEqual(errors, []);
    await page.context().close();
  });

test("axe finds nothing in menus, in a column being bound, and in findings expanded", async () => {
  const { page } = await openPage(workbench);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await page.waitForSelector('[role="menu"]');
  assert.deepEqual(await problemsOf(page), []);
  await page.keyboard.press("Escape");
  await goTo(page, "#/sources/2");
  await page.locator(".layout-column").nth(3).click();
  assert.deepEqual(await problemsOf(page), []);
  await goTo(page, "#/findings");
  await page.locator(".finding-group button").first().click();
  await page.waitForSelector(".finding-line");
  assert.deepEqual(await problemsOf(page), []);
  await page.context().close();
});

test("texts of all languages stand side by side, each in its own direction, with what is missing", async () => {
  const { page } = await openPage(workbench);
  await goTo(page, "#/catalogue/orchard-hive");
  await page.waitForSelector(".texts");
  assert.equal(await page.locator('.text-words[lang="ar"]').first().getAttribute("dir"), "rtl");
  assert.match((await page.locator('.text-words[lang="ja"]').first().textContent()) ?? "", /果樹園/);
  await goTo(page, "#/catalogue/meadow-hive");
  await page.waitForSelector(".text.missing");
  assert.match((await page.locator(".matrix").textContent()) ?? "", /Cedar/);
  await page.context().close();
});

test("the workbench's server answers this machine by its own names, and takes nothing", async () => {
  const { hostname, port } = new URL(workbench.served.url);
  const status = (method: string, headers: Record<string, string>): Promise<number | undefined> =>
    new Promise((resolve, reject) => {
      const asked = request({ hostname, port, method, path: "/", headers }, (answer) => {
        answer.resume();
        assert.equal(answer.headers["access-control-allow-origin"], undefined);
        resolve(answer.statusCode);
      });
      asked.on("error", reject);
      asked.end();
    });
  assert.equal(await status("GET", {}), 200);
  assert.equal(await status("GET", { host: "elsewhere.example" }), 403);
  assert.equal(await status("GET", { origin: "https://elsewhere.example" }), 200, "which its page cannot read");
  assert.equal(await status("POST", {}), 404);
});

test("characters that make a text look like another are shown by their numbers on each page", async () => {
  const { page, errors } = await openPage(workbench);
  const files = {
    "project.yaml":
      'project: "p\u202e"\nsources: [{ file: s.csv, layout: l.yaml }]\nlanguages: [en]\ntargets: [{ target: pennywort }]\n',
    "s.csv": "Key;Code;Na\u2066me;Price\na\u202eb;A;red\u009b31m;1\nc;C\u2028;N;x\n",
    "l.yaml":
      'layout: l\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns: { Key: product.key, Code: product.code, "Na\u2066me": product.name@en, Price: product.prices(price).amount }\n',
  };
  const bytes = zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, Buffer.from(text)])));
  await bring(page, { name: "mine.zip", mimeType: "application/zip", buffer: Buffer.from(bytes) });
  let shown = 0;
  for (const place of ["#/sources/0", "#/catalogue", "#/findings", "#/plan", "#/rehearsal"]) {
    await goTo(page, place);
    const texts = await page.evaluate(() =>
      [...document.querySelectorAll("*")].flatMap((one) =>
        [one.textContent, one.getAttribute("title"), one.getAttribute("aria-label")].filter((text) => text !== null),
      ),
    );
    for (const text of texts)
      assert.doesNotMatch(text, /[\u0000-\u0008\u007f-\u009f\u2028-\u202e\u2066-\u2069]/, place);
    shown += texts.filter((text) => text.includes("[U+")).length;
  }
  assert.ok(shown > 10, `${shown} texts show a number`);
  assert.deepEqual(errors, []);
  await page.context().close();
});

test("what others made stands beside the page, with the texts of its licences", async () => {
  const answer = await fetch(new URL("third-party-notices.md", workbench.served.url));
  const text = await answer.text();
  // Of the page, and of its worker.
  for (const name of ["react", "@mantine/core", "@e965/xlsx", "saxes"]) assert.ok(text.includes(`\n## ${name} `), name);
  assert.ok(text.split("Permission is hereby granted").length > 15);
});

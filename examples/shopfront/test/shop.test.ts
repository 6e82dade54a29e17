/** The shopfront as `demo --open` leaves it, driven in Chromium. */

import assert from "node:assert/strict";
import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { openBrowser, overflowOf, problemsOf, tabTo, type Browser, type Page } from "@zest-tier/chromium";

const binary = fileURLToPath(new URL("../../../../packages/cli/dist/src/bin.js", import.meta.url));
let folder: string;
let demo: ChildProcess;
let browser: Browser;
let url: string;

before(
  async () => {
    folder = mkdtempSync(join(tmpdir(), "zest-tier-shop-"));
    demo = spawn(process.execPath, [binary, "demo", join(folder, "shop"), "--open"], {
      stdio: ["ignore", "ignore", "pipe"],
    });
    url = await new Promise<string>((resolve, reject) => {
      let said = "";
      demo.stderr!.setEncoding("utf8").on("data", (text: string) => {
        said += text;
        const found = /open at (http:\S+)/.exec(said);
        if (found) resolve(found[1]!);
      });
      demo.on("exit", (code) => reject(new Error(`the demo ended with ${code}: ${said}`)));
    });
    browser = await openBrowser();
  },
  { timeout: 120_000 },
);
after(async () => {
  await browser.close();
  const ended = new Promise((resolve) => demo.on("exit", resolve));
  demo.kill("SIGINT");
  await ended;
  rmSync(folder, { recursive: true, force: true });
});

interface How {
  readonly width?: number;
  readonly scheme?: "light" | "dark";
  readonly locale?: "en" | "de";
}

async function visit(
  hash: string,
  { width = 1280, scheme = "light", locale = "en" }: How = {},
): Promise<{ page: Page; errors: string[] }> {
  const context = await browser.newContext({
    viewport: { width, height: 800 },
    colorScheme: scheme,
    locale,
    reducedMotion: "reduce",
  });
  const page = await context.newPage();
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  await page.goto(url + hash);
  await page.waitForSelector("h1");
  return { page, errors };
}

interface Pair {
  readonly kind: string;
  readonly key: string;
  readonly fields: readonly { readonly field: string }[];
}

const platforms = ["pennywort", "saltmarsh", "tollgate"];

test("while the shops are open, other commands may use the project", () => {
  const { status, stderr } = spawnSync(process.execPath, [binary, "build", join(folder, "shop"), "--for", "pennywort"]);
  assert.equal(status, 0, String(stderr));
});

test("each platform's shop has every product, its tree, and pictures", async () => {
  for (const name of platforms) {
    const { page, errors } = await visit(`#/${name}`);
    assert.equal(await page.locator(".product-card").count(), 84, name);
    assert.match((await page.locator(".tree").textContent()) ?? "", /Hives.*Queen rearing/s);
    await page.waitForFunction(() => [...document.images].some((image) => image.complete && image.naturalWidth > 0));
    await page.getByRole("link", { name: "Hives", exact: true }).click();
    await page.waitForFunction(() => document.querySelector("h1")?.textContent === "Hives");
    assert.equal(await page.locator(".product-card").count(), 18, name);
    assert.deepEqual(errors, []);
    await page.context().close();
  }
});

test("axes and option groups work: the price has the surcharge of what is chosen on top, exactly", async () => {
  const { page } = await visit("#/saltmarsh/product/meadow-hive");
  const choose = (name: RegExp) => page.getByRole("radio", { name }).check({ force: true });
  const price = () => page.locator(".price > .number").textContent();
  assert.equal(await price(), "€164.00");
  await choose(/Spruce/);
  assert.equal(await price(), "€203.35");
  await choose(/Linseed oil/);
  assert.equal(await price(), "€219.62", "8 % of 203.35 is 16.27");
  await choose(/Your name/);
  assert.equal(await price(), "€232.12");
  assert.match((await page.locator(".price-line").textContent()) ?? "", /including €28\.77/);
  await page.context().close();
});

test("a combination that does not exist is marked, and choosing it leads to the nearest one that does", async () => {
  for (const name of platforms) {
    const { page } = await visit(`#/${name}/product/hex-jar`);
    await page.getByRole("radio", { name: /45 ml/ }).check({ force: true });
    assert.equal(await page.locator(".value.unmade").count(), 1, name);
    assert.match((await page.locator(".value.unmade").first().textContent()) ?? "", /Honeycomb.*does not exist/s);
    await page.locator(".value.unmade input").first().check({ force: true });
    assert.equal(await page.locator(".value.unmade input:checked").count(), 0);
    assert.match((await page.locator(".price-line").textContent()) ?? "", /Code/);
    await page.context().close();
  }
});

test("a bundle lists what is in it, and each part leads to its product", async () => {
  const { page } = await visit("#/saltmarsh/product/starter-hive");
  const parts = page.locator(".parts").first();
  assert.match((await parts.textContent()) ?? "", /20 ×/);
  await parts.getByRole("link").first().click();
  await page.waitForFunction(() => !location.hash.includes("starter-hive"));
  await page.context().close();
});

test("the shop is read in its languages, Arabic from the right", async () => {
  const { page } = await visit("#/saltmarsh/product/orchard-hive");
  await page.selectOption('select[aria-label="Language of the shop"]', "ja");
  await page.waitForFunction(() => document.querySelector("h1")?.textContent === "果樹園の巣箱");
  await page.selectOption('select[aria-label="Language of the shop"]', "ar");
  await page.waitForFunction(() => document.querySelector("h1")?.textContent === "خلية البستان");
  assert.equal(await page.locator(".shop").getAttribute("dir"), "rtl");
  await page.selectOption('select[aria-label="Language of the shop"]', "de");
  await page.waitForFunction(() => document.querySelector("h1")?.textContent === "Obstgarten-Beute");
  assert.match((await page.locator(".offer").textContent()) ?? "", /Holz.*Zeder/s);
  await page.context().close();
});

test("the review layer shows every field as intended beside as it is on the platform", async () => {
  for (const name of platforms) {
    const { page } = await visit(`#/${name}/product/orchard-hive?view=reviewer`);
    assert.match(
      (await page.locator(".review-line").textContent()) ?? "",
      /All [\d,]+ fields that this platform can store are as intended/,
      name,
    );
    assert.ok((await page.locator(".review tbody tr").count()) > 10);
    assert.equal(await page.locator(".review .differs").count(), 0);
    await page.context().close();
  }
});

test("what differs is counted, marked in the shelf, and shown field by field", async () => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: "en" });
  const page = await context.newPage();
  await page.route("**/shop.json", async (route) => {
    const answer = (await (await route.fetch()).json()) as { reviewed: Pair[] };
    const { fields } = answer.reviewed.find(({ kind, key }) => kind === "product" && key === "meadow-hive")!;
    Object.assign(
      fields.find(({ field }) => field === "name@de")!,
      { onPlatform: "Etwas anderes", isSame: false },
    );
    await route.fulfill({ json: answer });
  });
  await page.goto(`${url}#/saltmarsh?view=reviewer`);
  await page.waitForSelector(".review-line.bad");
  assert.match((await page.locator(".review-line").textContent()) ?? "", /1 record differs/);
  assert.equal(await page.locator(".product-card .sign.error").count(), 1);
  await page.getByRole("link", { name: "Look at the first difference" }).click();
  await page.waitForSelector("tr.differs");
  assert.match(
    (await page.locator("tr.differs").textContent()) ?? "",
    /name@de.*differs.*Wiesen-Beute.*Etwas anderes/s,
  );
  await context.close();
});

test("a shop that does not answer is reported, with what to do", async () => {
  const context = await browser.newContext({ locale: "en" });
  const page = await context.newPage();
  await page.route("**/shops.json", (route) => route.abort());
  await page.goto(url);
  await page.waitForSelector("text=The shop does not answer");
  await context.close();
});

for (const [width, scheme, locale] of [
  [1280, "light", "en"],
  [1280, "dark", "de"],
  [390, "light", "de"],
  [390, "dark", "en"],
] as const)
  test(`axe finds nothing, and nothing runs over, at ${width} pixels, ${scheme}, ${locale}`, async () => {
    for (const hash of [
      "#/saltmarsh",
      "#/saltmarsh/product/orchard-hive?lang=ar&view=reviewer",
      "#/tollgate/product/meadow-hive?lang=ja",
    ]) {
      const { page } = await visit(hash, { width, scheme, locale });
      assert.deepEqual(await problemsOf(page), [], hash);
      assert.equal(await overflowOf(page), 0, hash);
      await page.context().close();
    }
  });

test("the keyboard alone finds a product and chooses its version", async () => {
  const { page } = await visit("#/saltmarsh");
  await tabTo(page, (label) => label === "Search by name or code");
  await page.keyboard.type("meadow hive");
  await tabTo(page, (label) => label.startsWith("Meadow hive"));
  await page.keyboard.press("Enter");
  await page.waitForSelector(".axis input");
  const code = () => page.locator(".price-line code").textContent();
  const first = await code();
  for (let n = 0; n < 60; n++) {
    await page.keyboard.press("Tab");
    if (await page.evaluate(() => document.activeElement?.getAttribute("name") === "axis 0")) break;
  }
  await page.keyboard.press("ArrowRight");
  assert.notEqual(await code(), first);
  await page.context().close();
});

/** The run sheet as people open it: in a browser, wide and narrow, by keyboard. */

import assert from "node:assert/strict";
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { main } from "#src/main.js";
import { openBrowser, openFile, overflowOf, problemsOf, type Browser } from "@zest-tier/chromium";

const root = fileURLToPath(new URL("../../../../", import.meta.url));
let work: string;
let browser: Browser;
before(async () => {
  work = mkdtempSync(join(tmpdir(), "zest-tier-pages-"));
  cpSync(join(root, "demo/clean"), join(work, "shop"), { recursive: true });
  browser = await openBrowser();
});
after(async () => {
  await browser.close();
  rmSync(work, { recursive: true, force: true });
});

const run = (...argv: string[]): Promise<number> =>
  main(argv, {
    out: () => undefined,
    err: () => undefined,
    cwd: join(work, "shop"),
    colour: false,
    width: 120,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  });

for (const target of ["pennywort", "saltmarsh", "tollgate"])
  test(`the run sheet for ${target}: axe finds nothing, nothing is cut off when it is narrow, boxes tick by keyboard`, async () => {
    assert.equal(await run("build", "--for", target), 0);
    const path = join(work, "shop", `upload-${target}`, "run-sheet.html");
    for (const width of [1280, 390]) {
      const page = await openFile(browser, path, width);
      assert.deepEqual(await problemsOf(page), []);
      assert.equal(await overflowOf(page), 0, `at ${width}`);
      await page.keyboard.press("Tab");
      await page.keyboard.press("Space");
      assert.equal(await page.locator("input:checked").count(), 1);
      await page.close();
    }
  });

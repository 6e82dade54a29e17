/** The built workbench in Chromium, for its tests. */

import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { openBrowser, servePages, type Browser, type Page, type Served } from "@zest-tier/chromium";

export const demoFolder = join(
  dirname(createRequire(import.meta.url).resolve("@zest-tier/demo/package.json")),
  "clean",
);
export const roughFolder = join(dirname(demoFolder), "rough");

export interface OpenWorkbench {
  readonly browser: Browser;
  readonly served: Served;
  readonly stop: () => Promise<void>;
}

export async function startWorkbench(): Promise<OpenWorkbench> {
  const [browser, served] = [await openBrowser(), await servePages("@zest-tier/workbench")];
  return {
    browser,
    served,
    stop: async () => {
      await browser.close();
      await served.stop();
    },
  };
}

export interface How {
  readonly width?: number;
  readonly scheme?: "light" | "dark";
  readonly locale?: "en" | "de";
  /** What is run in each worker before its own script. */
  readonly inWorkers?: string;
  /** What is run in the page before its own script. */
  readonly inPage?: string;
}

/** A fresh page with the demo in it. What goes wrong in the page fails the test that looks at `errors`. */
export async function openPage(
  { browser, served }: OpenWorkbench,
  { width = 1280, scheme = "light", locale = "en", inWorkers, inPage }: How = {},
): Promise<{ readonly page: Page; readonly errors: string[] }> {
  const context = await browser.newContext({
    viewport: { width, height: 800 },
    colorScheme: scheme,
    locale,
    acceptDownloads: true,
    reducedMotion: "reduce",
  });
  if (inWorkers !== undefined)
    await context.route(/worker.*\.js$/, async (route) => {
      const response = await route.fetch();
      await route.fulfill({ response, body: `${inWorkers}\n${await response.text()}` });
    });
  if (inPage !== undefined) await context.addInitScript(inPage);
  const page = await context.newPage();
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  page.on("console", (message) => message.type() === "error" && errors.push(message.text()));
  page.setDefaultTimeout(30_000);
  await page.goto(served.url);
  await settled(page);
  return { page, errors };
}

/** Waits until all that reading and planning find is there. */
export const settled = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => /^(Ready|Bereit)$/.test(document.querySelector(".doing")?.textContent ?? ""), null, {
    timeout: 60_000,
  });

/** Goes to a place by its address, and waits until it says that it is there. */
export async function goTo(page: Page, hash: string): Promise<void> {
  await page.evaluate((to) => {
    location.hash = to;
  }, hash);
  await page.waitForFunction(
    (location) =>
      document.querySelector("main")?.dataset["page"] === location && document.querySelector(".waiting") === null,
    /^#\/(\w+)/.exec(hash)?.[1],
    { timeout: 60_000 },
  );
}

/** Does something that changes the project, and waits until all that comes of it is there. */
export async function changed(page: Page, act: () => Promise<unknown>): Promise<void> {
  const version = () => page.evaluate(() => Number(document.querySelector("main")?.dataset["version"] ?? 0));
  const before = await version();
  await act();
  await page.waitForFunction((old) => Number(document.querySelector("main")?.dataset["version"] ?? 0) > old, before);
  await settled(page);
}

/** Opens files, or a saved project, in place of what is there. */
export const bring = (
  page: Page,
  files: string | string[] | { name: string; mimeType: string; buffer: Buffer },
): Promise<void> => changed(page, () => page.setInputFiles('input[data-what="files"]', files));

export const choose = (page: Page, target: string): Promise<void> =>
  changed(page, () => page.selectOption('select[aria-label="Platform"]', target));

/** Saves by the menu. @returns the bytes, and the name that the browser was given. */
export async function saved(page: Page, item: string): Promise<{ readonly name: string; readonly bytes: Buffer }> {
  await page.getByRole("button", { name: "Save", exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("menuitem", { name: item }).click(),
  ]);
  const chunks: Buffer[] = [];
  for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
  return { name: download.suggestedFilename(), bytes: Buffer.concat(chunks) };
}

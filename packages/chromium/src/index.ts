/** Pages in Chromium, for the tests and the bench: files that commands write, and the example applications as they are built. */

import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname } from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { chromium, type Browser, type Page } from "playwright-core";
import { preview } from "vite";

export type { Browser, Page } from "playwright-core";

const quiet = [
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

export const openBrowser = (): Promise<Browser> =>
  chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", ...quiet] });

export async function openFile(browser: Browser, path: string, width: number): Promise<Page> {
  const page = await browser.newPage({ viewport: { width, height: 800 } });
  await page.goto(pathToFileURL(path).href);
  return page;
}

export interface Served {
  readonly url: string;
  readonly stop: () => Promise<void>;
}

/** Serves the built pages of an example application. @param name of its package. */
export async function servePages(name: string): Promise<Served> {
  const root = dirname(fileURLToPath(import.meta.resolve(`${name}/package.json`)));
  const server = await preview({ root, preview: { port: 0, host: "127.0.0.1" }, logLevel: "silent" });
  return { url: server.resolvedUrls!.local[0]!, stop: () => server.close() };
}

/** What axe finds wrong with a page: rule and element. */
export async function problemsOf(page: Page): Promise<string[]> {
  const axeSource = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
  await page.evaluate(axeSource);
  const found = await page.evaluate(async () => {
    const { axe } = globalThis as unknown as {
      axe: { run: () => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> };
    };
    return (await axe.run()).violations;
  });
  return found.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 300)}`));
}

/** By how many pixels a page is wider than its window. */
export const overflowOf = (page: Page): Promise<number> =>
  page.evaluate<number>("document.documentElement.scrollWidth - document.documentElement.clientWidth");

/** Goes on by the tab key until what has focus is called as wanted: its label, else its text. @throws Error if it never is. */
export async function tabTo(page: Page, wanted: (called: string) => boolean): Promise<void> {
  for (let n = 0; n < 200; n++) {
    await page.keyboard.press("Tab");
    const called = await page.evaluate<string>(
      "document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent ?? ''",
    );
    if (wanted(called)) return;
  }
  throw new Error("never reached by Tab");
}

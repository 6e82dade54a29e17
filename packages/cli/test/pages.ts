/** Pages that commands write, opened in Chromium. */

import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { pathToFileURL } from "node:url";
import { chromium, type Browser, type Page } from "playwright-core";

const axeSource = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
const quiet = [
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-sync",
];

export const openBrowser = (): Promise<Browser> =>
  chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", ...quiet] });

export async function openFile(browser: Browser, path: string, width: number): Promise<Page> {
  const page = await browser.newPage({ viewport: { width, height: 800 } });
  await page.goto(pathToFileURL(path).href);
  return page;
}

/** What axe finds wrong with a page: rule and element. */
export async function problemsOf(page: Page): Promise<string[]> {
  await page.addScriptTag({ content: axeSource });
  const found = await page.evaluate(async () => {
    const { axe } = globalThis as unknown as {
      axe: { run: () => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> };
    };
    return (await axe.run()).violations;
  });
  return found.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html}`));
}

/** By how many pixels a page is wider than its window. */
export const overflowOf = (page: Page): Promise<number> =>
  page.evaluate<number>("document.documentElement.scrollWidth - document.documentElement.clientWidth");

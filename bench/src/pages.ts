/** The workbench in Chromium: how soon a large sheet is seen, and how long the page is ever held up. */

import { mkdtempSync, renameSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openBrowser, servePages, type Page } from "@zest-tier/chromium";
import { plainWorkload, type Workload } from "./generate.js";

export interface PageFigure {
  readonly rows: number;
  readonly sourceMB: number;
  /** From the drop to the first rows on the screen. */
  readonly firstContentMs: number;
  /** Until the sheet is there to its last row. */
  readonly wholeSheetMs: number;
  /** Until all of it is read, checked and planned; null where it is too large to be read unasked. */
  readonly settledMs: number | null;
  /** The longest task of the main thread, while it is read, scrolled through and looked at. */
  readonly longestTaskMs: number;
  readonly tasksOver100Ms: number;
  /** Frames while scrolling: the 95th of a hundred. */
  readonly frameP95Ms: number;
}

interface Watched {
  dropped: number;
  first: number;
  tasks: number[];
}

const script = () => {
  const watched: Watched = { dropped: 0, first: 0, tasks: [] };
  Object.assign(globalThis, { watched });
  new PerformanceObserver((list) => {
    for (const { duration, startTime } of list.getEntries())
      if (watched.dropped > 0 && startTime >= watched.dropped) watched.tasks.push(duration);
  }).observe({ type: "longtask", buffered: true });
  addEventListener(
    "change",
    () => {
      watched.dropped = performance.now();
      const look = () => {
        const cells = document.querySelectorAll('[role="gridcell"]');
        const isOurs = [...document.querySelectorAll(".sheet-line code")].some(
          (one) => one.textContent === "items.csv",
        );
        if (isOurs && [...cells].some((cell) => cell.textContent !== "")) watched.first = performance.now();
        else requestAnimationFrame(look);
      };
      requestAnimationFrame(look);
    },
    true,
  );
};

/** The page shows one sheet: that of the records. */
const firstOf = ({ sources }: Workload): string => sources[0]!.file;

export async function measurePage(rows: number): Promise<PageFigure> {
  const server = await servePages("@zest-tier/workbench");
  const browser = await openBrowser();
  const folder = mkdtempSync(join(tmpdir(), "zest-tier-page-"));
  try {
    const source = firstOf(await plainWorkload(folder, rows));
    const file = join(folder, "items.csv");
    renameSync(source, file);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: "en" });
    await page.addInitScript(script);
    await page.goto(server.url);
    await settled(page);
    await page.setInputFiles("input[data-what=files]", file);
    const watch = () => page.evaluate(() => (globalThis as unknown as { watched: Watched }).watched);
    await page.waitForFunction(() => (globalThis as unknown as { watched: Watched }).watched.first > 0, null, {
      timeout: 120_000,
    });
    const { dropped, first } = await watch();
    const since = (): Promise<number> => page.evaluate(() => performance.now()).then((now) => now - dropped);
    const words = `${rows.toLocaleString("en")} rows`;
    await page.waitForFunction(
      (text) =>
        [...document.querySelectorAll(".sheet-line")].some(
          (one) => one.textContent.includes(text) && !one.textContent.includes("…"),
        ),
      words,
      { timeout: 300_000, polling: 100 },
    );
    const wholeSheetMs = await since();
    await settled(page);
    const isRead = (await page.locator(".notice h2").count()) === 0;
    const settledMs = isRead ? await since() : null;
    const frameP95Ms = await scrolled(page);
    const { tasks } = await watch();
    return {
      rows,
      sourceMB: statSync(file).size / 1_000_000,
      firstContentMs: first - dropped,
      wholeSheetMs,
      settledMs,
      longestTaskMs: Math.max(0, ...tasks),
      tasksOver100Ms: tasks.filter((ms) => ms > 100).length,
      frameP95Ms,
    };
  } finally {
    await browser.close();
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

const settled = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => document.querySelector(".doing")?.textContent === "Ready", null, { timeout: 600_000 });

/** Scrolls through the whole sheet, a step a frame. @returns the 95th of a hundred frames, in milliseconds. */
function scrolled(page: Page): Promise<number> {
  return page.evaluate(async () => {
    const grid = document.querySelector('[role="grid"]')!;
    const frames: number[] = [];
    let before = await new Promise<number>((resolve) => requestAnimationFrame(resolve));
    for (let step = 0; step < 300; step++) {
      grid.scrollTop = step % 100 === 99 ? (grid.scrollHeight * step) / 300 : grid.scrollTop + 120;
      const now = await new Promise<number>((resolve) => requestAnimationFrame(resolve));
      frames.push(now - before);
      before = now;
    }
    return frames.sort((a, b) => a - b)[Math.floor(frames.length * 0.95)]!;
  });
}

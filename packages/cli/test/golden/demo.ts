/** The demo's three projects on the three platforms, through the command line; in full, so that a difference can be read. */

import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import picocolors from "picocolors";
import { findingTable, type Verdict } from "zest-tier";
import type { Io } from "#src/io.js";
import { main } from "#src/main.js";
import { runLaterImport } from "#src/later-import.js";
import { renderFindings } from "#src/render/findings.js";
import { renderPlan } from "#src/render/plan.js";
import { platforms } from "./catalogues.js";
import { filesTexts, verdictText, type GoldenCase } from "./texts.js";

const demo = dirname(fileURLToPath(import.meta.resolve("@zest-tier/demo/package.json")));
const width = 160;
const plain = picocolors.createColors(false);

/** @param every of more than 1: what is built in spite of errors, for one platform only; no later imports. */
export async function* demoCases(every = 1): AsyncGenerator<GoldenCase> {
  for (const [at, platform] of platforms.entries()) {
    yield await projectCase("clean", platform, "", []);
    if (at % every === 0) {
      yield await projectCase("rough", platform, " held back", ["--hold-back"]);
      const despiteAll = Object.keys(findingTable).flatMap((code) => ["--despite", code]);
      yield await projectCase("rough", platform, " despite all", despiteAll);
    }
    if (every === 1) yield await laterCase(platform);
  }
}

async function projectCase(
  name: string,
  platform: string,
  how: string,
  lenient: readonly string[],
): Promise<GoldenCase> {
  return inCopy(name, async (folder) => {
    const run = async (command: string, ...options: string[]) => {
      const said = { out: "", err: "" };
      const io: Io = {
        out: (text) => void (said.out += text),
        err: (text) => void (said.err += text),
        cwd: folder,
        colour: false,
        width,
        height: 40,
        watched: false,
        stopped: () => Promise.resolve(),
      };
      const code = await main([command, folder, "--for", platform, ...options], io);
      return { ...said, code };
    };
    const check = await run("check", "--all");
    const plan = await run("plan", ...lenient);
    const built = await run("build", ...lenient);
    const rehearsed = await run("rehearse", ...lenient, "--format", "json");
    const { verdict } = JSON.parse(rehearsed.out) as { verdict: Verdict | null };
    const texts = {
      findings: `exit code ${check.code}\n${check.out}${check.err}`,
      plan: `exit code ${plan.code}\n${plan.out}`,
      ...filesIn(join(folder, `upload-${platform}`)),
      verdict: `exit codes ${built.code}, ${rehearsed.code}\n${verdict ? verdictText(verdict) : "none\n"}`,
    };
    return { id: `demo ${name} ${platform}${how}`, texts, isFull: true };
  });
}

/** Each round of changes of a later import: its findings, its files, what the rehearsal says. */
async function laterCase(platform: string): Promise<GoldenCase> {
  return inCopy("clean", async (folder) => {
    const quiet: Io = {
      out: () => undefined,
      err: () => undefined,
      cwd: folder,
      colour: false,
      width,
      height: 40,
      watched: false,
      stopped: () => Promise.resolve(),
    };
    const texts = { findings: "", plan: "", files: "", papers: "", verdict: "" };
    let isChange = false;
    const later = await runLaterImport(folder, platform, quiet, (round) => {
      isChange = true;
      texts.findings += `${renderFindings(round.findings.list(), { colours: plain, width, language: "en", lines: undefined })}\n`;
      texts.plan += `${renderPlan(round.upload.plan, plain, width, "en")}\n`;
      const { files, papers } = filesIn(round.folder);
      texts.files += `${files}\n`;
      texts.papers += `${papers}\n`;
      texts.verdict += `${round.verdict ? verdictText(round.verdict) : "none"}\n`;
    });
    if (!isChange) throw new Error(`${platform}: nothing changed`);
    const { states, rounds, left, again } = later;
    const sent = rounds.flatMap(({ delivered }) => delivered.map(({ name, rows }) => `${name} ${rows.length}`));
    texts.verdict += `${JSON.stringify({ states, left, again, ids: rounds.map(({ ids }) => ids), sent }, null, 1)}\n`;
    return { id: `demo later ${platform}`, texts, isFull: true };
  });
}

async function inCopy<T>(name: string, use: (folder: string) => Promise<T>): Promise<T> {
  const above = mkdtempSync(join(tmpdir(), "zest-tier-golden-"));
  const folder = join(above, "project");
  try {
    cpSync(join(demo, "clean"), folder, { recursive: true });
    if (name !== "clean") {
      cpSync(join(demo, name), folder, { recursive: true });
      cpSync(join(demo, "clean", "pictures"), join(above, "clean", "pictures"), { recursive: true });
      writeFileSync(join(folder, "project.yaml"), forEveryPlatform(join(demo, name, "project.yaml")));
    }
    return await use(folder);
  } finally {
    rmSync(above, { recursive: true, force: true });
  }
}

/** A project that goes to one platform goes to those of the clean one, with the same settings. */
function forEveryPlatform(file: string): string {
  const own = readFileSync(file, "utf8");
  const clean = readFileSync(join(demo, "clean", "project.yaml"), "utf8");
  const outside = /^outside: .*$/m.exec(own)?.[0] ?? "";
  return `${own.slice(0, own.indexOf("targets:"))}${clean.slice(clean.indexOf("targets:"))}\n${outside}\n`;
}

function filesIn(folder: string): { files: string; papers: string } {
  const names = readdirSafe(folder);
  return filesTexts(names.map((name) => [name, readFileSync(join(folder, name))] as const));
}

function readdirSafe(folder: string): string[] {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
}

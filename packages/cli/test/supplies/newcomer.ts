/**
 * A newcomer with the files of a supplier: makes a project with `new`, takes what is assumed, types the commands that are printed, and
 * edits no file. `npm run newcomer -- --seed TEXT [--count 10] [--only N] [--show]`.
 */

import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { main } from "#src/main.js";
import { supplyOf } from "./supplies.js";

/** How far a newcomer came: the last command, and what it said. */
export interface Journey {
  readonly isRehearsed: boolean;
  readonly steps: readonly { readonly command: string; readonly code: number; readonly out: string }[];
}

/** @param platform one that comes with Zest Tier. */
export async function journey(seed: string, number: number, platform: string): Promise<Journey> {
  const folder = mkdtempSync(join(tmpdir(), "zest-newcomer-"));
  try {
    const { files } = supplyOf(seed, number);
    for (const { name, bytes } of files) writeFileSync(join(folder, name), bytes);
    const steps: { command: string; code: number; out: string }[] = [];
    const type = async (...words: readonly string[]) => {
      let out = "";
      const say = (text: string) => void (out += text);
      const watcher = { colour: false, watched: false, stopped: () => Promise.resolve() };
      const code = await main(words, { out: say, err: say, cwd: folder, width: 120, height: 60, ...watcher });
      steps.push({ command: words.join(" "), code, out });
      return { code, out };
    };
    const begun = await type("new", "shop", ...files.map(({ name }) => name), "--for", platform, "--yes");
    const printed = [...begun.out.matchAll(/^ {2}\d {2}.*?: zest-tier (.*)$/gm)].map(([, command]) =>
      command!.split(" "),
    );
    const build = printed.find(([command]) => command === "build");
    if (!build) return { isRehearsed: false, steps };
    const built = await type(...build);
    const rest = build.slice(1);
    const rehearsed = built.code === 0 ? await type("rehearse", ...rest) : undefined;
    return { isRehearsed: rehearsed?.code === 0, steps };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

if (process.argv[1]?.endsWith("newcomer.js")) {
  const { values } = parseArgs({
    options: {
      seed: { type: "string", default: "1" },
      count: { type: "string", default: "10" },
      only: { type: "string" },
      show: { type: "boolean", default: false },
    },
  });
  let reached = 0;
  let whole = 0;
  let tried = 0;
  for (let number = 0; number < Number(values.count); number++)
    for (const platform of ["pennywort", "saltmarsh"]) {
      if (values.only !== undefined && number !== Number(values.only)) continue;
      const { isRehearsed, steps } = await journey(values.seed, number, platform);
      tried++;
      if (isRehearsed) reached++;
      if (isRehearsed && steps.every(({ command }) => !command.includes("--hold-back"))) whole++;
      const last = steps[steps.length - 1]!;
      const errors = [...new Set([...last.out.matchAll(/^error (.*)$/gm)].map(([, text]) => text!.slice(0, 100)))];
      console.log(
        `${number} ${platform}: ${isRehearsed ? "rehearsed" : `stopped at ${last.command} (${last.code})`} ${isRehearsed ? "" : errors.join(" | ")}`,
      );
      if (values.show) for (const { command, out } of steps) console.log(`$ zest-tier ${command}\n${out}`);
    }
  console.log(`${reached} of ${tried} reached a rehearsed upload, ${whole} of them with all records`);
}

import { cpSync, existsSync, readdirSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import {
  compareSnapshots,
  meantByTarget,
  placed,
  readbackSnapshot,
  rehearse,
  type Upload,
  type Verdict,
} from "zest-tier";
import { nodeFiles } from "zest-tier/node";
import { startStandIn } from "@zest-tier/standins";
import { type Command, formatOption, type Given, isJson, WrongUse } from "../command.js";
import { deliver, readBack, type Delivered } from "../deliver.js";
import { coloursOf, type Io } from "../io.js";
import { renderSources } from "../render/catalogue.js";
import { summarise } from "../render/findings.js";
import { detailsOf } from "../render/plan.js";
import { columns, counted } from "../render/text.js";
import { renderDifferences, renderVerdict, verdictToJson } from "../render/verdict.js";
import { sayFindings, sayReport } from "../report.js";
import { openSession, type Session, shortPath } from "../session.js";
import { buildFolder } from "./build.js";

const presetFolder = "bramblecomb";

export const demo: Command = {
  name: "demo",
  summary: "the main job from end to end, on the made-up shop Bramblecomb Bee Supply",
  argument: {
    flags: "[folder]",
    means: `where to put the demo project; an earlier copy there is used as it is (default: ${presetFolder})`,
  },
  options: [formatOption],
  examples: [
    {
      line: "zest-tier demo",
      does: "copies the project, checks, plans, builds, rehearses, uploads, reads back, compares",
    },
  ],
  async run(given, io) {
    const folder = resolve(io.cwd, given.argument ?? presetFolder);
    copyProject(folder, io);
    const stages = new Stages(given, io);
    const opened = await openSession({ argument: folder, options: given.options }, io);
    if (!opened.ok) {
      sayReport({ text: "", data: { command: "demo", rebuilt: false } }, opened.findings, given, io);
      return 1;
    }
    const { session } = opened;
    const colours = coloursOf(io);
    stages.say(
      "Check",
      `${renderSources(session.project, session.read, colours)}  ${summarise(session.findings.list(), colours)}`,
    );
    const upload = await buildFolder(session, io);
    if (!upload) {
      sayReport({ text: "", data: { command: "demo", rebuilt: false } }, session.findings, given, io);
      return 1;
    }
    const steps = upload.plan.steps.map((step) => [
      `${step.number}.`,
      step.title,
      colours.dim(detailsOf(step).join(", ")),
    ]);
    stages.say("Plan", columns(steps).trimEnd());
    stages.say(
      "Build",
      `${columns(
        upload.files.map((file) => [file.name, counted(file.bytes, "byte")]),
        [1],
      )}  in ${shortPath(session.uploadFolder, io)}`,
    );
    const verdict = await rehearseBuilt(session, upload);
    stages.say("Rehearse", indent(renderVerdict(verdict, colours)));
    const proof = await proveOnStandIn(session, upload, verdict);
    stages.say(
      "Upload",
      `${columns(proof.delivered.map((file) => [file.name, outcomesOf(file)])).trimEnd()}\n  to stand-in ${session.target.name}, over HTTP`,
    );
    stages.say("Compare", indent(renderProof(proof, io)));
    const rebuilt = verdict.rebuilt && proof.differences.length === 0 && proof.disagreements.length === 0;
    if (isJson(given))
      sayReport(
        { text: "", data: { command: "demo", folder, rebuilt, rehearsal: verdictToJson(verdict), ...proof } },
        session.findings,
        given,
        io,
      );
    else {
      sayFindings(
        session.findings.list().filter((one) => one.severity !== "note"),
        given,
        io,
      );
      io.out(
        `\nLook around in ${colours.bold(shortPath(folder, io))}: change a source, then ${colours.bold(`npx zest-tier check ${shortPath(folder, io)}`)}\n`,
      );
    }
    return rebuilt ? 0 : 1;
  },
};

/** Says each stage as it is done, under its name; nothing for programs. */
class Stages {
  constructor(
    readonly given: Given,
    readonly io: Io,
  ) {}

  say(name: string, text: string): void {
    if (!isJson(this.given)) this.io.out(`\n${coloursOf(this.io).bold(coloursOf(this.io).cyan(name))}\n${text}\n`);
  }
}

function copyProject(folder: string, io: Io): void {
  if (existsSync(join(folder, "project.yaml"))) return;
  if (existsSync(folder) && readdirSync(folder).length > 0)
    throw new WrongUse(
      `${shortPath(folder, io)} holds something else`,
      "Name a new folder, or an empty one: zest-tier demo FOLDER",
    );
  const shipped = dirname(fileURLToPath(import.meta.resolve("@zest-tier/demo/package.json")));
  cpSync(join(shipped, "clean"), folder, { recursive: true });
}

async function rehearseBuilt(session: Session, upload: Upload): Promise<Verdict> {
  const rehearsed = await rehearse({
    catalogue: session.read.catalogue,
    target: session.target,
    ...upload,
    files: nodeFiles(session.uploadFolder),
  });
  if (!rehearsed.ok) throw new Error("a file that was just built is gone");
  return rehearsed.verdict;
}

interface Proof {
  readonly delivered: readonly Delivered[];
  /** What the platform holds against what is meant. */
  readonly differences: readonly ReturnType<typeof placed>[];
  /** Rows of which the rehearsal had said something else. */
  readonly disagreements: readonly string[];
}

/** Uploads to an empty stand-in, reads back what it holds, and compares: with what is meant, and with what was predicted. */
async function proveOnStandIn(
  { read, target, uploadFolder }: Session,
  upload: Upload,
  verdict: Verdict,
): Promise<Proof> {
  const shop = await startStandIn("pennywort");
  try {
    const delivered = await deliver(shop.url, target, upload.plan, uploadFolder);
    const meant = meantByTarget(read.catalogue, target, upload.heldBack);
    const held = readbackSnapshot(await readBack(shop.url, target), target);
    const differences = compareSnapshots(meant.snapshot, held).map((one) => placed(read.catalogue, meant, one));
    return { delivered, differences, disagreements: disagreementsOf(verdict, delivered) };
  } finally {
    await shop.stop();
  }
}

function disagreementsOf(verdict: Verdict, delivered: readonly Delivered[]): string[] {
  return delivered.flatMap(({ name, refused, rows }) => {
    const rehearsed = verdict.files.find((file) => file.name === name)!;
    if ((refused === null) !== (rehearsed.refused === undefined) || rows.length !== rehearsed.rows.length)
      return [`${name}: ${refused ?? "taken"}`];
    return rows.flatMap((row, at) =>
      row.outcome === rehearsed.rows[at]!.outcome
        ? []
        : [`${name}:${row.line} ${rehearsed.rows[at]!.outcome} predicted, ${row.outcome}`],
    );
  });
}

function outcomesOf({ refused, rows }: Delivered): string {
  if (refused !== null) return `refused: ${refused}`;
  const counts = new Map<string, number>();
  for (const row of rows) counts.set(row.outcome, (counts.get(row.outcome) ?? 0) + 1);
  return [...counts].map(([outcome, count]) => `${counted(count, "row")} ${outcome}`).join(", ");
}

function renderProof(proof: Proof, io: Io): string {
  const colours = coloursOf(io);
  const meant =
    proof.differences.length === 0
      ? colours.green("What the platform holds is what was meant: nothing lost.")
      : renderDifferences(proof.differences, colours);
  const predicted =
    proof.disagreements.length === 0
      ? colours.green("Every row came out as the rehearsal said.")
      : colours.red(proof.disagreements.slice(0, 10).join("\n"));
  return `${meant}\n${predicted}`;
}

const indent = (text: string): string =>
  text
    .trim()
    .split("\n")
    .map((line) => (line === "" ? line : `  ${line.trimStart()}`))
    .join("\n");

import { existsSync, readdirSync, rmSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import { rehearse, say, type Finding, type Language, safeJson } from "zest-tier";
import { copyWholeFolder, IoTrouble, lockAll, nodeFiles } from "zest-tier/node";
import { type CommandLine, isJson, languageOf, portOf, textOption, UsageError, type Run } from "../command.js";
import type { DeliveredFile } from "../deliver.js";
import { coloursOf, type Io } from "../io.js";
import { runLaterImport, type LaterImport } from "../later-import.js";
import { runOnStandIn, withEmptyLedger, type StandInRun, type Round } from "../stand-in-run.js";
import { renderSources } from "../render/catalogue.js";
import { summarise } from "../render/findings.js";
import { detailsOf } from "../render/plan.js";
import { columns, counted } from "../render/text.js";
import { renderLaterImport } from "../render/later-import.js";
import {
  noPlaceText,
  renderDifferences,
  renderVerdict,
  scopeOf,
  verdictToJson,
  type VerdictScope,
} from "../render/verdict.js";
import { sayFindings, sayReport } from "../report.js";
import { openSession, type Session, shortPath } from "../session.js";
import { openShopfront, type OpenShop } from "../shopfront.js";
import { buildFolder } from "./build.js";
import { presetFolder } from "../commands/demo.js";

export const run: Run = async (given, io) => {
  const folder = resolve(io.cwd, given.argument ?? presetFolder);
  // The folder while it is made; then what any other command would lock.
  const { code, shops } = await locked(folder, async () => {
    await copyProject(folder, io);
    return locked(join(folder, "project.yaml"), () => runDemo(folder, given, io));
  });
  // Pages that are left open write nothing: other commands may use the project meanwhile.
  if (shops) await leaveOpen(shops, given, io);
  return code;
};

interface DemoRun {
  readonly code: number;
  /** Stand-ins that are left open. */
  readonly shops?: readonly OpenShop[];
}

/** @throws IoTrouble when another run has it. */
async function locked<T>(path: string, work: () => Promise<T>): Promise<T> {
  const taken = await lockAll([path]);
  if (!taken.ok) throw new IoTrouble(taken.findings.list()[0]!);
  try {
    return await work();
  } finally {
    await taken.value.release();
  }
}

async function runDemo(folder: string, given: CommandLine, io: Io): Promise<DemoRun> {
  const stages = new Stages(given, io);
  if (given.options["later"] === true) return { code: await runLaterImports(folder, stages, given, io) };
  const colours = coloursOf(io);
  const one = textOption(given, "for");
  const opened = await openSession({ argument: folder, options: given.options }, io);
  if (!opened.ok) {
    sayReport({ text: "", data: { command: "demo", rebuilt: false } }, opened.findings, given, io);
    return { code: 1 };
  }
  const { project, read, findings } = opened.session.opened;
  const found = summarise(findings.list(), colours, languageOf(given));
  stages.say("Check", `${renderSources(project, read, colours)}  ${found}`);
  const results: object[] = [];
  const shops: OpenShop[] = [];
  const isLeftOpen = given.options["open"] === true;
  let rebuilt = true;
  for (const { name } of project.targets) {
    if (one !== undefined && one !== name) continue;
    const isFirst = opened.session.opened.target.name === name;
    const again = isFirst ? opened : await openSession({ argument: folder, options: { for: name } }, io);
    const standIn = isLeftOpen ? await startStandIn(name as StandInName) : undefined;
    const result = again.ok
      ? await runTarget(withEmptyLedger(again.session), stages, io, languageOf(given), standIn)
      : undefined;
    rebuilt &&= result?.rebuilt ?? false;
    if (again.ok && standIn && result?.heldBack)
      shops.push({ opened: again.session.opened, heldBack: result.heldBack, standIn });
    results.push({ target: name, ...result, heldBack: undefined });
  }
  if (isJson(given))
    sayReport({ text: "", data: { command: "demo", folder, rebuilt, targets: results } }, findings, given, io);
  else {
    sayFindings(
      findings.list().filter((finding) => finding.severity !== "note"),
      given,
      io,
    );
    io.out(
      `\nThe project is in ${colours.bold(shortPath(folder, io))}. Change a source, then run ${colours.bold(`npx zest-tier check ${shortPath(folder, io)}`)}\n`,
    );
  }
  return { code: rebuilt ? 0 : 1, ...(isLeftOpen ? { shops } : {}) };
}

/** The shopfront, until it is stopped. */
async function leaveOpen(shops: readonly OpenShop[], given: CommandLine, io: Io): Promise<void> {
  const shopfront = await openShopfront(shops, portOf(given));
  const colours = coloursOf(io);
  io.err(
    `\nThe shopfront is open at ${colours.bold(shopfront.url)}\n  Ctrl-C closes it. Nothing on the platforms is kept.\n`,
  );
  await io.stopped();
  await shopfront.stop();
  for (const { standIn } of shops) await standIn.stop();
}

/** A later import, on each platform by itself: each begins with the clean project. */
async function runLaterImports(folder: string, stages: Stages, given: CommandLine, io: Io): Promise<number> {
  const wanted = textOption(given, "for");
  const quiet: Io = { ...io, out: () => undefined, err: () => undefined };
  const imports: LaterImport[] = [];
  for (const target of laterTargets) {
    if (wanted !== undefined && wanted !== target) continue;
    const own = join(folder, `later-${target}`);
    rmSync(own, { recursive: true, force: true });
    await copyProject(own, io);
    stages.title(target);
    const later = await runLaterImport(own, target, quiet);
    imports.push(later);
    if (!isJson(given)) io.out(renderLaterImport(later, coloursOf(io)));
  }
  if (isJson(given)) io.out(`${safeJson({ command: "demo", imports }, 2)}\n`);
  else
    io.out(
      `\nThe projects are in ${coloursOf(io).bold(shortPath(folder, io))}, each with the changed sources and an export of what is on the platform now.\n`,
    );
  return imports.every(
    ({ left, again, rounds }) => left.length === 0 && again === 0 && rounds.every(({ asExpected }) => asExpected),
  )
    ? 0
    : 1;
}

const laterTargets = ["pennywort", "saltmarsh", "tollgate"] as const;

/** From the plan to what is on the stand-in at the end, for one platform. */
async function runTarget(session: Session, stages: Stages, io: Io, language: Language, standIn: StandIn | undefined) {
  const colours = coloursOf(io);
  const { opened, uploadFolder } = session;
  const { target } = opened;
  stages.title(target.name);
  const built = await buildFolder(session, io, { language });
  if (!built.ok) {
    stages.findings(built.findings.list().filter((finding) => finding.severity === "error"));
    return { rebuilt: false, heldBack: undefined };
  }
  const upload = built.value;
  const { plan, files, stopsAt } = upload;
  const { collections, uploads } = plan.cost;
  const steps = plan.steps.map((step) => [
    `${step.number}.`,
    say(step.title, language),
    colours.dim(detailsOf(step).join(", ")),
  ]);
  const shown =
    steps.length > mostSteps
      ? [
          ...steps.slice(0, mostSteps),
          ["", colours.dim(`and ${steps.length - mostSteps} more: zest-tier plan --for ${target.name}`), ""],
        ]
      : steps;
  stages.say(
    "Plan",
    `  ${counted(plan.steps.length, "step")}, ${counted(uploads, "upload")}, ${counted(collections, "collection")} of ids\n${columns(shown).trimEnd()}`,
  );
  const stop = stopsAt === undefined ? "" : `, up to step ${stopsAt}, where ids have to be collected`;
  stages.say("Build", `  ${counted(files.length, "file")} in ${shortPath(uploadFolder, io)}${stop}`);
  const rehearsed = await rehearse(opened, upload, { ...session.choices, files: nodeFiles(uploadFolder) });
  if (!rehearsed.ok) throw new Error("a file that was just built is missing");
  const verdict = rehearsed.value;
  const scope = scopeOf(opened, built.findings, upload.heldBack);
  stages.say("Rehearse", indent(renderVerdict(verdict, colours, scope)));
  const { stopped, ...run } = await runOnStandIn(session, upload, verdict, io, standIn);
  if (stopped) stages.findings(stopped.list().filter((finding) => finding.severity === "error"));
  stages.say(
    "Upload",
    `${columns(run.rounds.flatMap((round, at) => roundLines(round, at, run.rounds.length))).trimEnd()}\n  to the stand-in ${target.name}, over HTTP`,
  );
  stages.say("Compare", indent(renderRun(run, { ...scope, heldBack: "" }, io)));
  const rebuilt = !stopped && verdict.rebuilt && run.differences.length === 0 && run.disagreements.length === 0;
  return { rebuilt, rehearsal: verdictToJson(verdict), heldBack: upload.heldBack, ...run };
}

/** Steps that are listed; a plan with more is shown by its own command. */
const mostSteps = 8;

/** Files one by one where there are few; else a line for each round, between which ids were collected. */
function roundLines({ delivered, ids }: Round, at: number, rounds: number): string[][] {
  if (rounds === 1) return delivered.map((file) => [file.name, outcomesOf(file)]);
  const rows = delivered.reduce((sum, file) => sum + file.rows.length, 0);
  const refused = delivered.reduce((sum, file) => sum + file.rows.filter((row) => row.outcome === "refused").length, 0);
  return [
    [
      `round ${at + 1}`,
      `${counted(delivered.length, "file")}, ${counted(rows, "row")} taken${refused > 0 ? `, ${refused} refused` : ""}`,
      ids > 0 ? `${counted(ids, "id")} collected` : "",
    ],
  ];
}

/** Shows each stage as it is done, under its name; nothing for programs. */
class Stages {
  constructor(
    readonly given: CommandLine,
    readonly io: Io,
  ) {}

  title(name: string): void {
    if (!isJson(this.given))
      this.io.out(`\n${coloursOf(this.io).bold(`── ${name} ${"─".repeat(Math.max(0, 60 - name.length))}`)}\n`);
  }

  findings(list: readonly Finding[]): void {
    if (!isJson(this.given)) sayFindings(list, this.given, this.io);
  }

  say(name: string, text: string): void {
    if (!isJson(this.given)) this.io.out(`\n${coloursOf(this.io).bold(coloursOf(this.io).cyan(name))}\n${text}\n`);
  }
}

async function copyProject(folder: string, io: Io): Promise<void> {
  if (existsSync(join(folder, "project.yaml"))) return;
  if (existsSync(folder) && readdirSync(folder).length > 0)
    throw new UsageError(
      `${shortPath(folder, io)} contains other files`,
      "Give a new or an empty folder: zest-tier demo FOLDER",
    );
  const shipped = dirname(fileURLToPath(import.meta.resolve("@zest-tier/demo/package.json")));
  await copyWholeFolder(join(shipped, "clean"), folder);
}

function outcomesOf({ refused, rows }: DeliveredFile): string {
  if (refused !== null) return `refused: ${refused}`;
  const counts = new Map<string, number>();
  for (const row of rows) counts.set(row.outcome, (counts.get(row.outcome) ?? 0) + 1);
  return [...counts].map(([outcome, count]) => `${counted(count, "row")} ${outcome}`).join(", ");
}

function renderRun(run: Omit<StandInRun, "stopped">, scope: VerdictScope, io: Io): string {
  const colours = coloursOf(io);
  const result =
    run.differences.length === 0
      ? colours.green(`Everything that ${scope.target} can store is on it as intended.`)
      : renderDifferences(run.differences, colours, scope.currency);
  const expected =
    run.disagreements.length === 0
      ? colours.green("Every row came out as the rehearsal expected.")
      : colours.red(listed(run.disagreements));
  return [result, noPlaceText(scope), expected].filter((line) => line !== "").join("\n");
}

const mostDisagreements = 10;

const listed = (lines: readonly string[]): string =>
  [
    ...lines.slice(0, mostDisagreements),
    ...(lines.length > mostDisagreements
      ? [`and ${lines.length - mostDisagreements} more: --format json lists them`]
      : []),
  ].join("\n");

const indent = (text: string): string =>
  text
    .trim()
    .split("\n")
    .map((line) => (line === "" ? line : `  ${line.trimStart()}`))
    .join("\n");

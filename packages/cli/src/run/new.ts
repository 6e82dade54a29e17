import { existsSync, readdirSync, statSync } from "node:fs";
import { copyFile, mkdir, mkdtemp, readdir, readFile, rename, rm } from "node:fs/promises";
import { basename, dirname, extname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import {
  layoutName,
  planUpload,
  proposeProject,
  type NewProject,
  type NewTarget,
  type ReadonlyFindings,
} from "zest-tier";
import { nodeFiles, nodePorts, shippedTargetNames, writeWholeFile } from "zest-tier/node";
import { isJson, textOption, UsageError, type CommandLine, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { plainNewProject, renderNewProject } from "../render/new-project.js";
import { refuseUnknown, repliesOf } from "../replies.js";
import { exitCode, failureCode, sayReport } from "../report.js";
import { openSession } from "../session.js";

export const run: Run = async (given, io) => {
  const folder = resolve(io.cwd, given.argument!);
  await refuseTaken(folder, given.argument!);
  const { sources, pictures } = filesOf(given, io);
  const target = await targetOf(given, io);
  const files = (path: string) => nodeFiles(dirname(path)).read(basename(path));
  const ports = { ...nodePorts(io.cwd), files: { read: files, list: () => Promise.resolve([]) } };
  const named =
    pictures.length === 0 ? undefined : { folder: "pictures", names: pictures.map((path) => basename(path)) };
  const input = { name: layoutName(basename(folder), undefined) || "project", sources, pictures: named, ports, target };
  const asking = isJson(given) || given.options["yes"] === true ? undefined : io.ask;
  const replies = repliesOf(given, "currency=CHF");
  let proposed = await proposeProject({ ...input, replies });
  for (let round = 0; proposed.ok && asking && round < maxRounds; round++) {
    const open = proposed.value.questions.filter(({ answer }) => answer === undefined);
    if (open.length === 0) break;
    for (const { name, asks, choices, preset } of open) replies.set(name, await replyTo(asking, asks, preset, choices));
    proposed = await proposeProject({ ...input, replies });
  }
  if (!proposed.ok) {
    sayReport({ text: "", data: { command: "new", ok: false } }, proposed.findings, given, io);
    return failureCode(proposed.findings);
  }
  refuseUnknown(replies, proposed.value.questions);
  await write(folder, proposed.value, sources, pictures);
  const { findings, isOpened } = await checked(folder, io);
  const code = isOpened ? exitCode(findings) : failureCode(findings);
  const scope = { folder: given.argument!, errors: errorsIn(findings) };
  const text = renderNewProject(proposed.value, scope, coloursOf(io));
  sayReport(
    { text, data: { command: "new", ok: code === 0, ...plainNewProject(proposed.value, scope) } },
    findings,
    given,
    io,
  );
  return code;
};

/** What a reply gives rise to may be asked too. */
const maxRounds = 3;

async function refuseTaken(folder: string, typed: string): Promise<void> {
  if (!existsSync(folder)) {
    if (existsSync(dirname(folder))) return;
    throw new UsageError(`there is no folder ${dirname(folder)}`, "Create it first.");
  }
  if (!statSync(folder).isDirectory() || (await readdir(folder)).length > 0)
    throw new UsageError(`${typed} already exists`, "Name a folder that does not exist yet. Nothing is overwritten.");
}

interface GivenSource {
  readonly file: string;
  readonly path: string;
}

interface GivenFiles {
  readonly sources: readonly GivenSource[];
  /** Their paths. */
  readonly pictures: readonly string[];
}

const isPicture = (path: string): boolean => /\.(png|jpe?g|webp|gif|avif|svg|tiff?)$/i.test(path);

/** Each file, and a path in the project that no other has. Pictures are given by themselves, or as folders. */
function filesOf(given: CommandLine, io: Io): GivenFiles {
  const taken = new Set<string>();
  const hint = "Name the files that the supplier sent, and the folder of the pictures.";
  const all = (given.more ?? []).flatMap((typed) => {
    const file = resolve(io.cwd, typed);
    if (!existsSync(file)) throw new UsageError(`there is no file ${typed}`, hint);
    if (statSync(file).isFile()) return [file];
    const inside = readdirSync(file).filter(isPicture);
    if (inside.length === 0) throw new UsageError(`the folder ${typed} contains no pictures`, hint);
    return inside.map((name) => join(file, name));
  });
  const pictures = all.filter(isPicture);
  const sources = all.filter((file) => !isPicture(file));
  if (sources.length === 0) throw new UsageError("there are pictures alone", hint);
  return { pictures, sources: sources.map((file) => placed(file, taken)) };
}

function placed(file: string, taken: Set<string>): GivenSource {
  const [name, end] = [basename(file, extname(file)), extname(file)];
  let path = `sources/${name}${end}`;
  for (let n = 2; taken.has(path.toLowerCase()); n++) path = `sources/${name}-${n}${end}`;
  taken.add(path.toLowerCase());
  return { file, path };
}

async function targetOf(given: CommandLine, io: Io): Promise<NewTarget> {
  const shipped = await shippedTargetNames();
  const named = textOption(given, "for");
  const hint = `Add --for with ${shipped.join(", ")}, a target of your own, or a platform's import sample.`;
  if (named === undefined) throw new UsageError("for which platform is not known", hint);
  if (shipped.includes(named)) return { is: "shipped", name: named };
  const path = resolve(io.cwd, named);
  if (!existsSync(path)) throw new UsageError(`there is no platform or file ${named}`, hint);
  if (/\.ya?ml$/i.test(named)) return { is: "target", path: basename(named), text: await readFile(path, "utf8") };
  return { is: "sample", name: layoutName(named, undefined) || "platform", file: path };
}

/** Asks until the reply is one that may be given; a blank one takes what is assumed. */
async function replyTo(
  ask: NonNullable<Io["ask"]>,
  asks: string,
  preset: string,
  choices: readonly string[] | undefined,
): Promise<string> {
  const among = choices ? ` ${choices.join(" | ")}` : "";
  for (;;) {
    const reply = (await ask(`${asks}${among} [${preset}] `)).trim();
    if (reply === "") return preset;
    if (!choices || choices.includes(reply)) return reply;
  }
}

/** Writes everything beside the folder first: a project is there as a whole, or not at all. */
async function write(
  folder: string,
  project: NewProject,
  sources: readonly GivenSource[],
  pictures: readonly string[],
): Promise<void> {
  // A name that no other folder has: what lies beside it stays.
  const beside = await mkdtemp(`${folder}.`);
  const part = join(beside, "project");
  const at = async (path: string): Promise<string> => {
    const whole = join(part, path);
    await mkdir(dirname(whole), { recursive: true });
    return whole;
  };
  try {
    for (const { file, path } of sources) await copyFile(file, await at(path));
    for (const path of pictures) await copyFile(path, await at(`pictures/${basename(path)}`));
    for (const [path, text] of project.written) await writeWholeFile(await at(path), text);
    for (const name of ["layout", "project", "target"]) {
      const schema = fileURLToPath(import.meta.resolve(`zest-tier/schemas/${name}.schema.json`));
      await copyFile(schema, await at(`schemas/${name}.schema.json`));
    }
    await rename(part, folder);
  } finally {
    await rm(beside, { recursive: true, force: true });
  }
}

async function checked(
  folder: string,
  io: Io,
): Promise<{ readonly findings: ReadonlyFindings; readonly isOpened: boolean }> {
  // The project is there by now: from its beginning the command would find it, and stop.
  const opened = await openSession({ argument: folder, options: {} }, { ...io, mayRunAgain: false });
  if (!opened.ok) return { findings: opened.findings, isOpened: false };
  const { findings } = await planUpload(opened.session.opened, opened.session.choices);
  return { findings, isOpened: true };
}

const errorsIn = (findings: ReadonlyFindings): number =>
  findings.list().filter(({ severity }) => severity === "error").length;

import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { join, resolve } from "node:path";
import {
  collectIds,
  encodeFile,
  fileRows,
  finding,
  Findings,
  isHeldBack,
  noteDelivered,
  stepsNow,
  type Collected,
  type Prepared,
} from "zest-tier";
import { nodeSha256 } from "zest-tier/node";
import { exportReader, readReports } from "../answers.js";
import {
  allOption,
  type Command,
  exportOption,
  replaceOption,
  trialOption,
  formatOption,
  leniencyOptions,
  projectArgument,
  targetOption,
  textOption,
  uploadOption,
} from "../command.js";
import { coloursOf } from "../io.js";
import { counted } from "../render/text.js";
import { sayReport } from "../report.js";
import { openSession, prepare, type Session } from "../session.js";

export const collect: Command = {
  name: "collect",
  summary: "take the ids that the platform gave out into the ledger, from its reports and exports",
  argument: projectArgument,
  options: [
    targetOption,
    exportOption,
    replaceOption,
    trialOption,
    uploadOption,
    {
      flags: "--answers <folder>",
      means: "where its reports and exports are (default: answers-TARGET beside the project)",
    },
    ...leniencyOptions,
    allOption,
    formatOption,
  ],
  examples: [
    {
      line: "zest-tier collect --target saltmarsh",
      does: "reads 02-goods.tsv.report.json, goods.export.tsv … in answers-saltmarsh; then build again",
    },
  ],
  async run(given, io) {
    const opened = await openSession(given, io);
    const prepared = opened.ok ? await prepare(opened.session) : undefined;
    if (!opened.ok || !prepared) {
      const findings = opened.ok ? opened.session.findings : opened.findings;
      sayReport({ text: "", data: { command: "collect", collected: null } }, findings, given, io);
      return 1;
    }
    const { session } = opened;
    const answers = resolve(
      io.cwd,
      textOption(given, "answers") ?? join(session.folder, `answers-${session.target.name}`),
    );
    const collected = await collectAnswers(session, prepared, answers);
    const colours = coloursOf(io);
    const text = collected
      ? `${colours.bold("Collected")} ${counted(collected.ids, "id")}; ${counted(collected.confirmed, "record")} confirmed besides, ${collected.refused} refused.\n  ${collected.refused > 0 ? "What was refused is tried again by the next build, once it is corrected." : `Go on with ${colours.bold("zest-tier build")}.`}\n`
      : "";
    sayReport({ text, data: { command: "collect", collected: collected ?? null } }, session.findings, given, io);
    return collected && !hasErrorsOf(session, "collect/") ? 0 : 1;
  },
};

const hasErrorsOf = ({ findings }: Session, stage: string): boolean =>
  findings
    .list()
    .some((one) => one.severity === "error" && (one.code.startsWith(stage) || one.code.startsWith("ledger/")));

/** Undefined when the upload folder is another than the project would build now: then lines would be taken for others. */
export async function collectAnswers(
  session: Session,
  prepared: Prepared,
  answers: string,
): Promise<Collected | undefined> {
  const { read, project, target, ledger, findings, uploadFolder } = session;
  const files = stepsNow(prepared.plan).flatMap((step) =>
    step.is === "upload" ? step.files.map(({ name }) => name) : [],
  );
  if (!(await isBuiltFrom(session, prepared))) {
    findings.add(finding("collect/other-upload", {}, { file: uploadFolder }));
    return undefined;
  }
  const collected = await collectIds({
    catalogue: read.catalogue,
    kinds: project.kinds,
    target,
    plan: prepared.plan,
    heldBack: prepared.heldBack,
    ledger: ledger.ledger,
    findings,
    reports: await readReports(answers, files, findings),
    readExport: exportReader(answers, findings),
    run: await runOf(uploadFolder),
  });
  const { plan, heldBack } = prepared;
  const run = await runOf(uploadFolder);
  const kept = session.compared?.changes.settled.kept;
  noteDelivered({
    catalogue: read.catalogue,
    target,
    plan,
    heldBack,
    ledger: ledger.ledger,
    sha256: nodeSha256,
    run,
    kept,
  });
  await ledger.save();
  return collected;
}

interface Manifest {
  readonly resources: readonly { readonly path: string; readonly hash: string }[];
}

async function manifestOf(folder: string): Promise<Manifest | undefined> {
  const path = join(folder, "datapackage.json");
  return existsSync(path) ? (JSON.parse(await readFile(path, "utf8")) as Manifest) : undefined;
}

/** Whether the folder's files of rows are, to the byte, those that the project would build now: only then are its lines known. */
async function isBuiltFrom({ uploadFolder, read, target }: Session, { plan, heldBack }: Prepared): Promise<boolean> {
  const manifest = await manifestOf(uploadFolder);
  const built = new Map(manifest?.resources.map(({ path, hash }) => [path, hash]));
  const isLeftOut = isHeldBack(heldBack);
  for (const step of stepsNow(plan)) {
    if (step.is !== "upload") continue;
    const file = target.files.get(step.slot.file)!;
    for (const { name, blocks } of step.files) {
      const rows = fileRows(read.catalogue, file, { blocks, step, isLeftOut }, new Findings(0));
      const hasher = nodeSha256();
      for (const chunk of await encodeFile(file, rows, () => undefined)) hasher.update(chunk);
      if (built.get(name) !== `sha256:${hasher.digest()}`) return false;
    }
  }
  return manifest !== undefined && stepsNow(plan).length > 0;
}

/** A run is known by what it built. */
async function runOf(folder: string): Promise<string> {
  const manifest = await manifestOf(folder);
  return manifest?.resources.map(({ hash }) => hash.slice(7, 11)).join("") ?? "";
}

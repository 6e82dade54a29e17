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
import { exportReader, readReports } from "../platform-reports.js";
import {
  allOption,
  type Command,
  exportOption,
  wholeRangeOption,
  trialOption,
  outputOptions,
  leniencyOptions,
  projectArgument,
  targetOption,
  textOption,
  uploadOption,
} from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { counted } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { prepare, withLockedSession, type Session } from "../session.js";

export const collect: Command = {
  name: "collect",
  summary: "read the ids that the platform gave out from its reports and exports into the ledger",
  argument: projectArgument,
  options: [
    targetOption,
    exportOption,
    wholeRangeOption,
    trialOption,
    uploadOption,
    {
      flags: "--reports <folder>",
      means: "the folder with the reports and exports (default: reports-TARGET beside the project)",
    },
    ...leniencyOptions,
    allOption,
    ...outputOptions,
  ],
  examples: [
    {
      line: "zest-tier collect --for saltmarsh",
      does: "reads 02-goods.tsv.report.json, goods.export.tsv and so on in reports-saltmarsh",
    },
  ],
  run: (given, io) =>
    withLockedSession(given, io, async (opened) => {
      const prepared = opened.ok ? await prepare(opened.session) : undefined;
      if (!opened.ok || !prepared) {
        const findings = opened.ok ? opened.session.findings : opened.findings;
        sayReport({ text: "", data: { command: "collect", collected: null } }, findings, given, io);
        return failureCode(findings);
      }
      const { session } = opened;
      const reportsFolder = resolve(
        io.cwd,
        textOption(given, "reports") ?? join(session.folder, `reports-${session.target.name}`),
      );
      const collected = await collectReports(session, prepared, reportsFolder);
      const text = renderCollected(collected, io);
      const { ids, confirmed, refused } = collected ?? {};
      const data = { command: "collect", collected: collected ? { ids, confirmed, refused } : null };
      sayAfterCheck({ text, data }, session.findings, given, io);
      return collected && collected.refused === 0 ? 0 : failureCode(session.findings);
    }),
};

function renderCollected(collected: Collected | undefined, io: Io): string {
  const colours = coloursOf(io);
  if (!collected)
    return `${colours.red(colours.bold("Nothing was collected"))}: the ledger is unchanged. Fix what is listed, then collect again.\n`;
  const { ids, confirmed, refused } = collected;
  const next =
    refused > 0
      ? "Refused rows are not in the ledger. Correct their sources; the next build includes them again."
      : `Next: ${colours.bold("zest-tier build")}`;
  return `${colours.bold("Collected")} ${counted(ids, "id")}. ${counted(confirmed, "other record")} confirmed, ${counted(refused, "row")} refused.\n  ${next}\n`;
}

/**
 * All or nothing: undefined when anything is missing, or when the upload folder is another than the project would build now, as lines would
 * be taken for others. Then the ledger is as it was.
 */
export async function collectReports(
  session: Session,
  prepared: Prepared,
  reportsFolder: string,
): Promise<Collected | undefined> {
  const { catalogue, project, target, ledger, uploadFolder } = session;
  const findings = new Findings();
  const collected = await collectAll();
  session.findings.add(...findings.list());
  if (!collected) return undefined;
  noteDelivered({
    catalogue,
    target,
    heldBack: prepared.heldBack,
    taken: collected.taken,
    ledger: ledger.ledger,
    sha256: nodeSha256,
    run: await runOf(uploadFolder),
    kept: session.compared?.changes.settled.kept,
  });
  await ledger.save();
  return collected;

  async function collectAll(): Promise<Collected | undefined> {
    const files = stepsNow(prepared.plan).flatMap((step) =>
      step.is === "upload" ? step.files.map(({ name }) => name) : [],
    );
    if (!(await isBuiltFrom(session, prepared))) {
      findings.add(finding("collect/other-upload", {}, { file: uploadFolder }));
      return undefined;
    }
    const reports = await readReports(reportsFolder, files, findings);
    if (findings.hasErrors) return undefined;
    return collectIds({
      catalogue,
      kinds: project.kinds,
      target,
      plan: prepared.plan,
      heldBack: prepared.heldBack,
      ledger: ledger.ledger,
      findings,
      reports,
      readExport: exportReader(reportsFolder, findings),
      run: await runOf(uploadFolder),
    });
  }
}

interface Manifest {
  readonly resources: readonly { readonly path: string; readonly hash: string }[];
}

async function manifestOf(folder: string): Promise<Manifest | undefined> {
  const path = join(folder, "datapackage.json");
  return existsSync(path) ? (JSON.parse(await readFile(path, "utf8")) as Manifest) : undefined;
}

/** Whether the folder's files of rows are, to the byte, those that the project would build now: only then are its lines known. */
async function isBuiltFrom(
  { uploadFolder, catalogue, target }: Session,
  { plan, heldBack }: Prepared,
): Promise<boolean> {
  const manifest = await manifestOf(uploadFolder);
  const built = new Map(manifest?.resources.map(({ path, hash }) => [path, hash]));
  const isLeftOut = isHeldBack(heldBack);
  for (const step of stepsNow(plan)) {
    if (step.is !== "upload") continue;
    const file = target.files.get(step.slot.file)!;
    for (const { name, blocks } of step.files) {
      const rows = fileRows(catalogue, file, { blocks, step, isLeftOut }, new Findings(0));
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

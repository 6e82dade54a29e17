/**
 * Opening: the project file with its layouts and targets; its sources, read once; then each target of it by itself.
 *
 * Nothing that is opened changes. `findings` of each are all that led there.
 */

import { compareExport, type GivenExport, type ComparedExport } from "./compare.js";
import { entryOf } from "../checked.js";
import { asTargetView, type ResolvedCatalogue, type TargetView } from "../catalogue/catalogue.js";
import { picturesNamed } from "../check/pictures.js";
import { withPairs } from "../compare/pairs.js";
import { finding, Findings, type ReadonlyFindings, type Result } from "../findings/finding.js";
import { isMissingFile, resultOf, success } from "../findings/result.js";
import { Ledger, parseLedger } from "../ledger/ledger.js";
import { withIds, withSourceIds } from "../ledger/there.js";
import { phrase } from "../phrases/phrase.js";
import { loadProject } from "../project/load.js";
import { readTables } from "../project/tables.js";
import { reportNotListed } from "../target/listed-names.js";
import { reportNotThere } from "../target/records-there.js";
import { readProject, viewForTarget, type Project, type ReadProject } from "../project/project.js";
import type { Progress } from "../project/sources.js";
import { readUtf8 } from "../formats/read-whole.js";
import { nearestSpelling } from "../spelling.js";
import type { Target } from "../target/target.js";
import { chooseTrial, trialCatalogue, type Trial } from "../trial/trial.js";
import { pairsFileName, readPairs } from "./pairs.js";
import type { ProjectPorts } from "./ports.js";

/** A project file that is loaded, with its layouts and targets. */
export interface OpenedProject {
  /** The project file, in the folder of the ports. */
  readonly file: string;
  readonly project: Project;
  readonly ports: ProjectPorts;
  readonly findings: ReadonlyFindings;
}

/** With all sources read, resolved, derived, reshaped and checked. */
export interface OpenedSources extends OpenedProject {
  readonly read: ReadProject;
}

/** One target of a project, with all that is needed to plan, build, rehearse and compare. */
export interface OpenedTarget extends OpenedSources {
  readonly target: Target;
  /** With what is made for the target alone: its fields, ids, answered pairs, redirects; only the trial, where one is wanted. */
  readonly catalogue: TargetView;
  readonly ledger: Ledger;
  /** Pictures that records name and that are there. */
  readonly pictureNames: readonly string[];
  /** What is on the platform, compared with what is intended; undefined where no export was given. */
  readonly compared: ComparedExport | undefined;
  /** Which products a first upload takes, and of what; undefined where the whole is wanted. */
  readonly trial: { readonly of: Trial; readonly whole: ResolvedCatalogue } | undefined;
}

/** How a target is opened. */
export interface TargetChoices {
  /** By name; the project's first, if left out. */
  readonly target?: string | undefined;
  /** Read from the project's folder, if left out. */
  readonly ledger?: Ledger | undefined;
  readonly export?: GivenExport | undefined;
  /** Only the few products that use every feature. */
  readonly isTrial?: boolean | undefined;
}

/**
 * Loads a project file with the layouts and targets that it names. Its sources are not read yet.
 *
 * @param file in the folder of the ports. Fails where anything in these files is wrong.
 */
export async function openProject(ports: ProjectPorts, file = "project.yaml"): Promise<Result<OpenedProject>> {
  const loaded = await loadProject(file, ports.files, ports.shippedTarget, ports.shippedLayout);
  if (!loaded.ok) return loaded;
  const { value: project, findings } = loaded;
  const files = ports.files.within?.(project.outside) ?? ports.files;
  return success({ file, project, ports: { ...ports, files }, findings });
}

/** Reads all sources of a project, once for all of its targets. @param tell receives what is being read, and how many bytes of it. */
export async function readSourcesOf(opened: OpenedProject, tell?: Progress): Promise<Result<OpenedSources>> {
  const findings = opened.findings.copy();
  const read = await readProject(opened.project, opened.ports.files, findings, tell);
  return resultOf({ ...opened, read, findings }, findings);
}

/** The project's target of a name; its first, where none is given. */
export function targetNamed({ targets }: Project, name: string | undefined): Target | undefined {
  return name === undefined ? targets[0] : targets.find((target) => target.name === name);
}

/**
 * Opens one target of a project whose sources are read. Fails where there is no such target, or the export is none of its platform's.
 */
export async function openTarget(opened: OpenedSources, choices: TargetChoices = {}): Promise<Result<OpenedTarget>> {
  const { project, ports, read } = opened;
  const findings = opened.findings.copy();
  const named = targetNamed(project, choices.target);
  if (!named) {
    const names = project.targets.map(({ name }) => name);
    const word = choices.target ?? "";
    const facts = { problem: phrase('there is no target "{0}"', word), nearest: nearestSpelling(word, names) };
    findings.add(finding("project/mistake", facts, { file: opened.file }));
    return { ok: false, findings };
  }
  const target = { ...named, has: await listsGiven(opened, named, findings) };
  const whole = await viewForTarget(project, read.catalogue, target, ports.files, findings);
  const trial = choices.isTrial ? { of: chooseTrial(whole), whole } : undefined;
  const mine = trial ? asTargetView(trialCatalogue(whole, trial.of)) : whole;
  const own = choices.ledger ?? (await readLedger(opened, target, findings));
  if (!own) return { ok: false, findings };
  const pairs = choices.export ? await readPairs(ports.files, target.name, findings) : [];
  const lineOf = (at: number) => ({ file: pairsFileName(target.name), line: at + 2 });
  const paired = pairs.length > 0 ? withPairs(mine, pairs, lineOf, findings) : mine;
  // Which records an export has is known once it is read.
  const assumed = choices.export ? own : withSourceIds(own, paired, target, findings);
  const before = { ...opened, target, ledger: assumed, catalogue: withIds(paired, assumed) };
  const compared = choices.export && (await compareExport(before, choices.export, pairs, findings));
  if (choices.export && !compared) return { ok: false, findings };
  reportNotListed(before.catalogue, target, findings);
  reportNotThere(before.catalogue, target, findings);
  const catalogue = compared?.changes.input.catalogue ?? before.catalogue;
  const pictureNames = picturesNamed(catalogue).filter((name) => read.pictureNames?.has(name));
  const ledger = compared?.ledger ?? assumed;
  return resultOf({ ...before, ledger, catalogue, pictureNames, compared, trial, findings }, findings);
}

/** What the project says is in the lists of a platform. */
async function listsGiven(
  { project, ports }: OpenedSources,
  { name }: Target,
  findings: Findings,
): Promise<Target["has"]> {
  const given = Object.entries(entryOf(project.wishes, name).has);
  const wanted = new Set(given.flatMap(([, names]) => ("table" in names ? [names.table] : [])));
  const files = new Map([...project.tables].filter(([table]) => wanted.has(table)));
  const tables = await readTables(files, ports.files, findings);
  return new Map(
    given.map(([list, names]) => [
      list,
      new Set("table" in names ? (tables.get(names.table) ?? new Map()).keys() : names),
    ]),
  );
}

/** The same target with another ledger: what is on the platform has changed. */
export function withLedger(opened: OpenedTarget, ledger: Ledger): OpenedTarget {
  return { ...opened, ledger, catalogue: withIds(opened.catalogue, ledger) };
}

/** A ledger that is not there is an empty one. */
async function readLedger(
  { project, ports }: OpenedSources,
  target: Target,
  findings: Findings,
): Promise<Ledger | undefined> {
  const { ledger: file } = entryOf(project.wishes, target.name);
  const opened = await readUtf8(ports.files, file);
  if (isMissingFile(opened)) return new Ledger();
  const text = findings.took(opened);
  return text === undefined ? undefined : parseLedger(text, file, findings).ledger;
}

/**
 * One state of a project's files, and what comes of it: read, prepared, built, rehearsed. Each stage is worked out once, when it is
 * first asked for. An edit makes a new job; the old one is what undo goes back to.
 */

import {
  buildUpload,
  Findings,
  isOfRecords,
  Ledger,
  loadProject,
  viewForTarget,
  parseLedger,
  heldBackText,
  picturesNamed,
  prepareBuild,
  readProject,
  rehearse,
  rehearseThrough,
  stoppingErrors,
  thereBy,
  type FilesPort,
  type PlayedStep,
  type Prepared,
  type Progress,
  type Project,
  type ReadProject,
  type Target,
  type Upload,
  type Verdict,
  say,
  type Language,
  withIds,
  type TargetView,
} from "zest-tier";
import { blobFiles, memoryFolder, webSha256 } from "zest-tier/web";
import { shippedLayout, shippedTarget } from "./shipped.js";

export const projectFile = "project.yaml";

export interface Loaded {
  readonly project: Project | undefined;
  readonly findings: Findings;
}

/** Read for one target. */
export interface Reading {
  readonly project: Project;
  readonly target: Target;
  readonly read: ReadProject;
  /** With what is made for the target alone. */
  readonly catalogue: TargetView;
  /** What reading found. */
  readonly findings: Findings;
  readonly ledger: Ledger;
  readonly pictureNames: readonly string[];
}

export interface Planned {
  /** Undefined where there is no plan. */
  readonly prepared: Prepared | undefined;
  /** All that is to be reported, with what the target has to say. */
  readonly findings: Findings;
  /** How many of them stop a build. */
  readonly stopping: number;
  /** How much is held back, where that is all there was to upload. */
  readonly nothingLeft: string | undefined;
}

/** There is none where errors block it. */
export interface Built {
  readonly upload: Upload;
  readonly files: ReadonlyMap<string, Blob>;
}

export interface Played {
  readonly verdict: Verdict;
  readonly steps: readonly PlayedStep[];
}

export type Files = ReadonlyMap<string, Blob>;

const noneHeld: ReadonlySet<string> = new Set();

export class Job {
  readonly port: FilesPort;
  #loaded: Promise<Loaded> | undefined;
  #reading: Promise<Reading | undefined> | undefined;
  #planned: Promise<Planned | undefined> | undefined;
  #built: Promise<Built | undefined> | undefined;
  #played: Promise<Played | undefined> | undefined;

  constructor(
    readonly files: Files,
    /** The name of the target; the project's first, if left out. */
    readonly targetName: string | undefined,
    readonly holdBack: boolean,
    private language: Language,
    readonly progress: Progress,
  ) {
    this.port = blobFiles(files);
  }

  /** Of what is built from now on: the run sheet. */
  setLanguage(language: Language): void {
    this.language = language;
    this.#planned = undefined;
    this.#built = undefined;
  }

  loaded(): Promise<Loaded> {
    return (this.#loaded ??= this.#load());
  }

  async #load(): Promise<Loaded> {
    const findings = new Findings();
    const project = await loadProject(projectFile, this.port, shippedTarget, findings, shippedLayout);
    return { project, findings };
  }

  /** Undefined where the project, a layout or a target of it is not right: `loaded` says what. */
  reading(): Promise<Reading | undefined> {
    return (this.#reading ??= this.#read());
  }

  async #read(): Promise<Reading | undefined> {
    const { project, findings: first } = await this.loaded();
    if (!project) return undefined;
    const target = project.targets.find(({ name }) => name === this.targetName) ?? project.targets[0];
    if (!target) return undefined;
    const findings = new Findings();
    findings.add(...first.list());
    const read = await readProject(project, this.port, findings, this.progress);
    const view = await viewForTarget(project, read.catalogue, target, this.port, findings);
    const ledger = await this.#ledgerOf(project, target, findings);
    const catalogue = withIds(view, ledger);
    const pictureNames = picturesNamed(catalogue).filter((name) => read.pictureNames?.has(name));
    return { project, target, read, catalogue, findings, ledger, pictureNames };
  }

  async #ledgerOf(project: Project, target: Target, findings: Findings): Promise<Ledger> {
    const { ledger } = project.wishes.get(target.name)!;
    const blob = this.files.get(ledger);
    return blob ? parseLedger(await blob.text(), ledger, findings).ledger : new Ledger();
  }

  /** The plan, with all that the target has to say. */
  planned(): Promise<Planned | undefined> {
    return (this.#planned ??= this.#plan());
  }

  async #plan(): Promise<Planned | undefined> {
    const reading = await this.reading();
    if (!reading) return undefined;
    this.progress("plan", 0);
    const findings = copyOf(reading.findings);
    const prepared = prepareBuild({ ...this.#choices(reading), pictureNames: reading.pictureNames }, findings);
    const stopping = stoppingErrors(findings, noneHeld);
    const isEmpty = stopping.some(({ code }) => code === "build/nothing-left");
    const nothingLeft = isEmpty && prepared ? say(heldBackText(prepared.heldBack), this.language) : undefined;
    return { prepared, findings, stopping: stopping.length, nothingLeft };
  }

  #choices({ project, target, catalogue, ledger }: Reading) {
    return {
      catalogue,
      target,
      holdBack: this.holdBack,
      despite: noneHeld,
      there: thereBy(ledger, catalogue),
      manualSteps: project.wishes.get(target.name)!.manualSteps,
    };
  }

  /** The upload folder, to the byte as the command line writes it. */
  built(): Promise<Built | undefined> {
    return (this.#built ??= this.#build());
  }

  async #build(): Promise<Built | undefined> {
    const reading = await this.reading();
    if (!reading) return undefined;
    const { project, pictureNames, findings } = reading;
    const pictures = new Map<string, Uint8Array>();
    for (const name of pictureNames) {
      const blob = this.files.get(`${project.pictures ?? "."}/${name}`);
      if (blob) pictures.set(name, new Uint8Array(await blob.arrayBuffer()));
    }
    const folder = memoryFolder();
    const input = {
      ...this.#choices(reading),
      project: project.name,
      pictures,
      sha256: webSha256,
      progress: (file: string) => this.progress(file, 0),
      language: this.language,
    };
    const upload = await buildUpload(input, folder.sink, copyOf(findings));
    return upload && { upload, files: folder.files };
  }

  /** What the simulated platform makes of it; where ids are needed in between, all the way through. */
  played(): Promise<Played | undefined> {
    return (this.#played ??= this.#play());
  }

  async #play(): Promise<Played | undefined> {
    const [reading, built] = [await this.reading(), await this.built()];
    if (!reading || !built) return undefined;
    this.progress("rehearsal", 0);
    const { catalogue, target, pictureNames, ledger } = reading;
    const { upload, files } = built;
    const steps: PlayedStep[] = [];
    const common = { catalogue, target, played: (step: PlayedStep) => void steps.push(step) };
    const isInRounds = upload.plan.steps.some((step) => step.is === "collect") || !ledger.isEmpty;
    if (isOfRecords(target) && isInRounds) {
      const verdict = await rehearseThrough({ ...common, heldBack: upload.heldBack, pictureNames, ledger });
      return { verdict, steps };
    }
    const rehearsed = await rehearse({ ...common, ...upload, files: blobFiles(files) });
    if (!rehearsed.ok) throw new Error("a file that was just built is gone");
    return { verdict: rehearsed.verdict, steps };
  }
}

function copyOf(findings: Findings): Findings {
  const copy = new Findings();
  copy.add(...findings.list());
  return copy;
}

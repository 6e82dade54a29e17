/**
 * One state of a project's files, and what comes of it: read, prepared, built, rehearsed. Each stage is worked out once, when it is
 * first asked for. An edit makes a new job; the old one is what undo goes back to.
 */

import {
  build,
  heldBackText,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
  rehearse,
  say,
  stoppingErrors,
  targetNamed,
  type BuiltUpload,
  type FilesPort,
  type Language,
  type OpenedTarget,
  type PlannedUpload,
  type PlayedStep,
  type Progress,
  type Project,
  type ReadonlyFindings,
  type Result,
  type OpenedProject,
  type Verdict,
} from "zest-tier";
import { blobFiles, memoryFolder, webPorts } from "zest-tier/web";
import { shippedLayout, shippedTarget } from "./shipped.js";

export const projectFile = "project.yaml";

export interface Loaded {
  readonly project: Project | undefined;
  readonly findings: ReadonlyFindings;
}

export interface Planned {
  /** Undefined where there is no plan. */
  readonly prepared: PlannedUpload | undefined;
  /** All that is to be reported, with what the target has to say. */
  readonly findings: ReadonlyFindings;
  /** How many of them stop a build. */
  readonly stopping: number;
  /** How much is held back, where that is all there was to upload. */
  readonly nothingLeft: string | undefined;
}

/** There is none where errors block it. */
export interface Built {
  readonly upload: BuiltUpload;
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
  #opened: Promise<Result<OpenedProject>> | undefined;
  #reading: Promise<OpenedTarget | undefined> | undefined;
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

  #open(): Promise<Result<OpenedProject>> {
    return (this.#opened ??= openProject(webPorts(this.files, shippedTarget, shippedLayout), projectFile));
  }

  async loaded(): Promise<Loaded> {
    const opened = await this.#open();
    return { project: opened.ok ? opened.value.project : undefined, findings: opened.findings };
  }

  /** Undefined where the project, a layout or a target of it is not right: `loaded` says what. */
  reading(): Promise<OpenedTarget | undefined> {
    return (this.#reading ??= this.#read());
  }

  async #read(): Promise<OpenedTarget | undefined> {
    const opened = await this.#open();
    if (!opened.ok) return undefined;
    const { project } = opened.value;
    const target = targetNamed(project, this.targetName) ?? project.targets[0];
    if (!target) return undefined;
    const sources = await readSourcesOf(opened.value, this.progress);
    const reading = sources.ok ? await openTarget(sources.value, { target: target.name }) : sources;
    return reading.ok ? reading.value : undefined;
  }

  /** The plan, with all that the target has to say. */
  planned(): Promise<Planned | undefined> {
    return (this.#planned ??= this.#plan());
  }

  async #plan(): Promise<Planned | undefined> {
    const reading = await this.reading();
    if (!reading) return undefined;
    this.progress("plan", 0);
    const planned = await planUpload(reading, { holdBack: this.holdBack });
    const { findings } = planned;
    const prepared = planned.ok ? planned.value : undefined;
    const stopping = stoppingErrors(findings, noneHeld);
    const isEmpty = stopping.some(({ code }) => code === "build/nothing-left");
    const nothingLeft = isEmpty && prepared ? say(heldBackText(prepared.heldBack), this.language) : undefined;
    return { prepared, findings, stopping: stopping.length, nothingLeft };
  }

  /** The upload folder, to the byte as the command line writes it. */
  built(): Promise<Built | undefined> {
    return (this.#built ??= this.#build());
  }

  async #build(): Promise<Built | undefined> {
    const reading = await this.reading();
    if (!reading) return undefined;
    const { sink, files } = memoryFolder();
    const { holdBack, language } = this;
    const tell = (file: string) => this.progress(file, 0);
    const built = await build(reading, { sink, holdBack, language, tell });
    return built.ok ? { upload: built.value, files } : undefined;
  }

  /** What the simulated platform makes of it; where ids are needed in between, all the way through. */
  played(): Promise<Played | undefined> {
    return (this.#played ??= this.#play());
  }

  async #play(): Promise<Played | undefined> {
    const [reading, built] = [await this.reading(), await this.built()];
    if (!reading || !built) return undefined;
    this.progress("rehearsal", 0);
    const steps: PlayedStep[] = [];
    const rehearsed = await rehearse(reading, built.upload, {
      files: blobFiles(built.files),
      holdBack: this.holdBack,
      played: (step) => void steps.push(step),
    });
    if (!rehearsed.ok) throw new Error("a file that was just built is gone");
    return { verdict: rehearsed.value, steps };
  }
}

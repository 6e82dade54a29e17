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
  type PlanChoices,
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

/** The rows of all sources. */
export const rowsRead = ({ read }: OpenedTarget): number => read.counts.reduce((sum, { rows }) => sum + rows, 0);

export class Job {
  readonly port: FilesPort;
  #isStopped = false;
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
    /** Whether a rehearsal takes too much memory to be played unasked. @param rows that were read. */
    readonly isTooLargeToRehearse: (rows: number) => boolean,
  ) {
    const port = blobFiles(files);
    const until = (pieces: AsyncIterable<Uint8Array>) => this.#untilStopped(pieces);
    this.port = {
      ...port,
      async read(path) {
        const read = await port.read(path);
        return read.ok ? { ...read, value: until(read.value) } : read;
      },
    };
  }

  /** Another has taken its place: it goes no further, and what it holds becomes free. What was asked of it stays unanswered. */
  stop(): void {
    this.#isStopped = true;
  }

  /** Never there of a job that was stopped. */
  #goesOn(): Promise<void> {
    return this.#isStopped ? new Promise(() => undefined) : Promise.resolve();
  }

  async *#untilStopped(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    for await (const piece of pieces) {
      await this.#goesOn();
      yield piece;
    }
  }

  /** Of what is built from now on: the run sheet. */
  setLanguage(language: Language): void {
    this.language = language;
    this.#planned = undefined;
    this.#built = undefined;
  }

  #open(): Promise<Result<OpenedProject>> {
    const ports = webPorts(this.files, shippedTarget, shippedLayout);
    return (this.#opened ??= openProject({ ...ports, files: this.port }, projectFile));
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
    await this.#goesOn();
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
    await this.#goesOn();
    this.progress("plan", 0);
    const planned = await planUpload(reading, this.#choicesFor(reading));
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
    await this.#goesOn();
    const { sink, files } = memoryFolder();
    const tell = (file: string) => this.progress(file, 0);
    const built = await build(reading, { ...this.#choicesFor(reading), sink, language: this.language, tell });
    return built.ok ? { upload: built.value, files } : undefined;
  }

  #choicesFor(reading: OpenedTarget): PlanChoices {
    return { holdBack: this.holdBack, isUnrehearsed: this.isTooLargeToRehearse(rowsRead(reading)) };
  }

  /** What the simulated platform makes of it; where ids are needed in between, all the way through. */
  played(): Promise<Played | undefined> {
    return (this.#played ??= this.#play());
  }

  async #play(): Promise<Played | undefined> {
    const [reading, built] = [await this.reading(), await this.built()];
    if (!reading || !built) return undefined;
    await this.#goesOn();
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

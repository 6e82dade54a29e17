/**
 * The workspace: the open project, in a worker of its own. Pages ask it and get plain data (views.ts).
 *
 * Every edit is a new state of the files. Undo and redo go from state to state; nothing is changed in place.
 */

import { addTarget, bindColumn, writeZip, type Language, type Question } from "zest-tier";
import { memoryToRead, memoryToRehearse, unaskedMemory } from "./expected-memory.js";
import { countFindings, FindingIndex, noFindings } from "./finding-index.js";
import { Job, projectFile, rowsRead, type Files } from "./job.js";
import { layoutView } from "./layouts.js";
import { openDropped, withMore, type Dropped } from "./opening.js";
import { chainOf, planView } from "./plan.js";
import { playedView } from "./rehearsal.js";
import { languagesOf, ProductShelf } from "./products.js";
import { UploadShelf } from "./rows.js";
import { shippedLayout, shippedTargetNames } from "./shipped.js";
import type {
  Large,
  Did,
  FindingFilter,
  FindingView,
  LayoutView,
  Mark,
  Overview,
  PlayedView,
  SourceView,
} from "./views.js";

/** How often it is reported how far something is. */
const tellEveryMs = 200;

interface State {
  readonly files: Files;
  readonly isDemo: boolean;
  readonly did: Did;
  /** What the project was made of, and what was asked about it; until something else is changed. */
  readonly asked?: Asked | undefined;
}

interface Asked {
  readonly dropped: Dropped;
  readonly questions: readonly Question[];
}

/** How far the overview is to go; each further one takes longer. */
export type Stage = "loaded" | "planned";

export type OpenResult = { readonly ok: true } | { readonly ok: false; readonly reason: string };

export class Workspace {
  #past: State[] = [];
  #now: State | undefined;
  #future: State[] = [];
  readonly #allowed = new Set<Large>();
  #target: string | undefined;
  #holdBack = false;
  #language: Language = "en";
  #version = 0;
  #files = 0;
  readonly #numbers = new WeakMap<Blob, number>();
  #job: Job | undefined;
  #found: FindingIndex | undefined;
  #shelf: ProductShelf | undefined;
  #upload: UploadShelf | undefined;
  #told = { what: "", at: 0 };
  #tell: (what: string, bytes: number) => void = () => undefined;

  /** @param tell receives what is being done, and how many bytes of a file are through. */
  listen(tell: (what: string, bytes: number) => void): void {
    this.#tell = tell;
  }

  async open(dropped: Dropped, isDemo: boolean): Promise<OpenResult> {
    const opening = await openDropped(dropped, new Map());
    if (!opening.ok) return opening;
    const { files, questions } = opening;
    this.#allowed.clear();
    this.#target = undefined;
    this.#holdBack = false;
    // What was open before can be gone back to.
    this.#edit(files, { what: "opened", to: dropped[0]?.[0] ?? "" }, isDemo, { dropped, questions });
    return { ok: true };
  }

  /** Makes the project anew, with replies to what was asked. @param replies by the names of questions. */
  async reply(replies: Readonly<Record<string, string>>): Promise<OpenResult> {
    const asked = this.#now?.asked;
    if (!asked) return { ok: false, reason: "failed" };
    const opening = await openDropped(asked.dropped, new Map(Object.entries(replies)));
    if (!opening.ok) return opening;
    const { files, questions } = opening;
    const did = { what: "replied", to: Object.keys(replies).join(", ") } as const;
    this.#edit(files, did, false, { dropped: asked.dropped, questions });
    return { ok: true };
  }

  /** Files that come to the project that is open. */
  async add(dropped: Dropped): Promise<OpenResult> {
    if (!this.#now) return this.open(dropped, false);
    const { project } = await this.#here.loaded();
    const known = (project?.sources ?? []).map(({ file }) => file);
    const opening = await withMore(this.#now.files, dropped, known, project?.pictures);
    if (!opening.ok) return opening;
    this.#edit(opening.files, { what: "files", to: dropped.map(([path]) => path).join(", ") });
    return { ok: true };
  }

  get #here(): Job {
    if (!this.#job) throw new Error("nothing is open");
    return this.#job;
  }

  #edit(files: Files, did: Did, isDemo = this.#now?.isDemo ?? false, asked?: Asked): void {
    if (this.#now) this.#past.push(this.#now);
    this.#future = [];
    this.#goTo({ files, did, isDemo, asked });
  }

  #goTo(state: State): void {
    this.#now = state;
    this.#renew();
  }

  #renew(): void {
    this.#version++;
    this.#job?.stop();
    this.#found = undefined;
    this.#shelf = undefined;
    this.#upload = undefined;
    const tell = (what: string, bytes: number): void => {
      const now = performance.now();
      if (what === this.#told.what && now - this.#told.at < tellEveryMs) return;
      this.#told = { what, at: now };
      this.#tell(what, bytes);
    };
    const isTooLarge = (rows: number) => this.#isHeld("rehearsal", memoryToRehearse(rows));
    this.#job = new Job(this.#now!.files, this.#target, this.#holdBack, this.#language, tell, isTooLarge);
  }

  undo(): void {
    const before = this.#past.pop();
    if (!before) return;
    this.#future.push(this.#now!);
    this.#goTo(before);
  }

  redo(): void {
    const after = this.#future.pop();
    if (!after) return;
    this.#past.push(this.#now!);
    this.#goTo(after);
  }

  allowLarge(what: Large): void {
    this.#allowed.add(what);
    this.#renew();
  }

  /** @returns whether it was another one. What was read stays. */
  setLanguage(language: Language): boolean {
    if (language === this.#language) return false;
    this.#language = language;
    this.#version++;
    this.#found = undefined;
    this.#shelf = undefined;
    this.#upload = undefined;
    this.#job?.setLanguage(language);
    return this.#job !== undefined;
  }

  setHoldBack(isOn: boolean): void {
    this.#holdBack = isOn;
    this.#renew();
  }

  /** Chooses the target; one that the project does not have yet is added to it. */
  async setTarget(name: string): Promise<void> {
    const { project } = await this.#here.loaded();
    this.#target = name;
    if (project?.targets.some((one) => one.name === name)) return this.#renew();
    const text = addTarget(await this.#text(projectFile), name);
    if (text !== undefined) this.#edit(this.#with(projectFile, text), { what: "target", to: name });
  }

  async #text(path: string): Promise<string> {
    return (await this.#now?.files.get(path)?.text()) ?? "";
  }

  #with(path: string, text: string): Files {
    return new Map([...this.#now!.files, [path, new Blob([text])]]);
  }

  async overview(stage: Stage): Promise<Overview> {
    const job = this.#here;
    const { project, findings } = await job.loaded();
    const memory = project ? await memoryToRead(project, this.#now!.files) : 0;
    const isLarge = this.#isHeld("sources", memory);
    const isRead = stage === "planned" && project !== undefined && !isLarge;
    const reading = isRead ? await job.reading() : undefined;
    const found = reading ? await this.#findings() : new FindingIndex(findings.list(), project, this.#language);
    const sources = (project?.sources ?? []).map(({ file, within, layout }, at): SourceView => {
      const counts = reading?.read.counts[at];
      const { format } = layout;
      return {
        file,
        within,
        sheet: format.is === "workbook" && format.sheet !== undefined ? String(format.sheet) : undefined,
        layout: layout.file,
        isShipped: !this.#now!.files.has(layout.file),
        rows: counts?.rows,
        form: counts?.form,
        found: reading ? found.counts(at) : noFindings,
      };
    });
    const targets = project?.targets.map(({ name }) => name) ?? [];
    const tables = reading?.catalogue.kinds.roots.map(({ name }) => reading.catalogue.table(name)) ?? [];
    return {
      name: project?.name ?? "",
      isDemo: this.#now!.isDemo,
      questions: this.#now!.asked?.questions ?? [],
      sources,
      targets: [...targets, ...shippedTargetNames.filter((name) => !targets.includes(name))],
      target: project?.targets.find(({ name }) => name === this.#target)?.name ?? targets[0],
      languages: reading ? languagesOf(reading) : (project?.languages ?? []),
      holdBack: this.#holdBack,
      records: tables.flatMap(({ name, size }): [string, number][] => (size > 0 ? [[name, size]] : [])),
      found: countFindings(found.all),
      state: !project || (isRead && !reading) ? "broken" : isLarge ? "too large" : "read",
      bytes: (project?.sources ?? []).reduce((sum, { file }) => sum + (this.file(file)?.size ?? 0), 0),
      large: isLarge ? { what: "sources", memory } : reading && this.#largeRehearsal(rowsRead(reading)),
      undo: this.#past.length > 0 ? this.#now!.did : undefined,
      redo: this.#future[this.#future.length - 1]?.did,
      version: this.#version,
    };
  }

  #largeRehearsal(rows: number): Overview["large"] {
    const memory = memoryToRehearse(rows);
    return this.#isHeld("rehearsal", memory) ? { what: "rehearsal", memory } : undefined;
  }

  /** Whether something waits until it is asked for. @param memory that it is expected to take. */
  #isHeld(what: Large, memory: number): boolean {
    return !this.#allowed.has(what) && memory > unaskedMemory(navigator as { readonly deviceMemory?: number });
  }

  async #findings(): Promise<FindingIndex> {
    if (this.#found) return this.#found;
    const job = this.#here;
    const { project, findings } = await job.loaded();
    const isHeld = project && this.#isHeld("sources", await memoryToRead(project, job.files));
    const planned = isHeld ? undefined : await job.planned();
    const found = new FindingIndex((planned?.findings ?? findings).list(), project, this.#language);
    if (job === this.#job) this.#found = found;
    return found;
  }

  /** @returns the bytes of a file of the project. */
  file(path: string): Blob | undefined {
    return this.#now?.files.get(path);
  }

  /** Tells files apart: the same number as long as it is the same file. */
  fileNumber(path: string): number {
    const blob = this.file(path);
    if (!blob) return 0;
    const number = this.#numbers.get(blob) ?? ++this.#files;
    this.#numbers.set(blob, number);
    return number;
  }

  /** The text of a source's layout, to read its sheet by. */
  async layoutText(source: number): Promise<string> {
    const { project } = await this.#here.loaded();
    const layout = project?.sources[source]?.layout;
    if (!layout) return "";
    return this.#now!.files.has(layout.file)
      ? this.#text(layout.file)
      : ((await shippedLayout(layout.file.replace(" (shipped)", ""))) ?? "");
  }

  /** @param headers of its sheet. @param isRead whether what reading has found is wanted: it may have to be read first. */
  async layout(source: number, headers: readonly string[], isRead: boolean): Promise<LayoutView> {
    const { project, findings } = await this.#here.loaded();
    const file = project?.sources[source]?.layout.file ?? "";
    const given = { file, isShipped: !this.#now!.files.has(file), text: await this.layoutText(source) };
    const found = isRead ? await this.#findings() : undefined;
    const reading = isRead ? await this.#here.reading() : undefined;
    const languages = reading ? languagesOf(reading) : (project?.languages ?? []);
    return layoutView(
      given,
      project,
      { source, headers, languages },
      found,
      this.#mistakesIn(file, new FindingIndex(findings.list(), project, this.#language)),
    );
  }

  #mistakesIn(file: string, found: FindingIndex): FindingView[] {
    return found.all.filter(({ at }) => at?.file === file).map((one) => found.view(one));
  }

  /**
   * Binds a column of a source's layout.
   *
   * @param binding as it is written in a layout; `"ignored"`; undefined to leave it unbound.
   * @returns false where it is not a YAML: then nothing is changed.
   */
  async bindColumn(source: number, header: string, binding: string | undefined): Promise<boolean> {
    const { project } = await this.#here.loaded();
    const file = project?.sources[source]?.layout.file;
    if (file === undefined) return false;
    const text = bindColumn(await this.#text(file), header, binding);
    if (text === undefined) return false;
    this.#edit(this.#with(file, text), { what: "bound", to: header });
    return true;
  }

  /** WorkbenchTexts of the project and its layouts that are not right, with what is wrong: to be corrected by hand. */
  async broken(): Promise<{ readonly file: string; readonly text: string; readonly mistakes: FindingView[] }[]> {
    const { project, findings } = await this.#here.loaded();
    const found = new FindingIndex(findings.list(), project, this.#language);
    const files = [...new Set(found.all.flatMap(({ at }) => (at ? [at.file] : [])))];
    return Promise.all(
      files.map(async (file) => ({ file, text: await this.#text(file), mistakes: this.#mistakesIn(file, found) })),
    );
  }

  setText(file: string, text: string): void {
    this.#edit(this.#with(file, text), { what: "layout", to: file });
  }

  /** The marks on some lines of a source. */
  async marks(source: number, from: number, to: number): Promise<readonly Mark[]> {
    const found = await this.#findings();
    const marks = found.marks(source);
    return marks.slice(firstFrom(marks, from), firstFrom(marks, to + 1));
  }

  /** The next mark of a source after a line, or the one before it; round at the ends. */
  async nextMark(source: number, line: number, goes: "down" | "up"): Promise<Mark | undefined> {
    const marks = (await this.#findings()).marks(source);
    if (goes === "down") return marks[firstFrom(marks, line + 1)] ?? marks[0];
    return marks[firstFrom(marks, line) - 1] ?? marks[marks.length - 1];
  }

  async groups(filter: FindingFilter) {
    const found = await this.#findings();
    const files = [...new Set(found.all.flatMap(({ at }) => (at ? [at.file] : [])))].sort();
    return { groups: found.groups(filter), files, counts: countFindings(found.all) };
  }

  async findings(filter: FindingFilter, from: number, count: number) {
    return (await this.#findings()).list(filter, from, count);
  }

  async #products(): Promise<ProductShelf | undefined> {
    const job = this.#here;
    const [reading, found] = [await job.reading(), await this.#findings()];
    if (!reading) return undefined;
    if (job !== this.#job) return new ProductShelf(reading, found);
    return (this.#shelf ??= new ProductShelf(reading, found));
  }

  async tree() {
    return (await this.#products())?.tree() ?? { roots: [], loose: 0, all: 0 };
  }

  async products(category: string | undefined, search: string, from: number, count: number) {
    return (await this.#products())?.products(category, search, from, count) ?? { total: 0, rows: [] };
  }

  async product(key: string) {
    return (await this.#products())?.product(key);
  }

  /** The bytes of a picture that the project has. */
  async picture(name: string): Promise<Blob | undefined> {
    const { project } = await this.#here.loaded();
    return this.file(project?.pictures === undefined ? name : `${project.pictures}/${name}`);
  }

  async plan() {
    const planned = await this.#here.planned();
    return planned?.prepared && { ...planView(planned.prepared.plan, this.#language), stopping: planned.stopping };
  }

  async chain(word: string) {
    const [reading, planned] = [await this.#here.reading(), await this.#here.planned()];
    return reading && planned?.prepared ? chainOf(reading, planned.prepared, word, this.#language) : [];
  }

  async #uploads(): Promise<UploadShelf | undefined> {
    const job = this.#here;
    const [reading, planned, found] = [await job.reading(), await job.planned(), await this.#findings()];
    if (!reading || !planned?.prepared) return undefined;
    if (job !== this.#job) return new UploadShelf(reading, planned.prepared, found);
    return (this.#upload ??= new UploadShelf(reading, planned.prepared, found));
  }

  async uploadFiles() {
    const [shelf, built, planned] = [await this.#uploads(), await this.#here.built(), await this.#here.planned()];
    const sizes = new Map([...(built?.files ?? [])].map(([name, blob]) => [name, blob.size]));
    return { files: shelf?.files(sizes) ?? [], isBuilt: built !== undefined, stopping: planned?.stopping ?? 0 };
  }

  async uploadRows(name: string, from: number, count: number) {
    return (await this.#uploads())?.window(name, from, count) ?? { headers: [], rows: [], total: 0 };
  }

  async uploadRowOf(name: string, line: number) {
    return (await this.#uploads())?.rowOf(name, line) ?? 0;
  }

  async trace(file: string, line: number, header: string) {
    return (await this.#uploads())?.trace(file, line, header);
  }

  async traceFrom(source: number, line: number, column: string | undefined) {
    return (await this.#uploads())?.traceFrom(source, line, column) ?? [];
  }

  /** `nothingLeft`: how much is held back, where that is all there was to upload. */
  async rehearse(): Promise<{
    readonly stopping: number;
    readonly nothingLeft?: string | undefined;
    readonly played?: PlayedView;
  }> {
    const [reading, played, planned] = [
      await this.#here.reading(),
      await this.#here.played(),
      await this.#here.planned(),
    ];
    const found = await this.#findings();
    if (!reading || !played) return { stopping: planned?.stopping ?? 0, nothingLeft: planned?.nothingLeft };
    return { stopping: 0, played: playedView(played, reading, found, this.#language) };
  }

  /** The upload folder as an archive; undefined where errors block the upload. */
  async saveUpload(): Promise<Blob | undefined> {
    const built = await this.#here.built();
    return built && zipOf(built.files);
  }

  async runSheet(): Promise<Blob | undefined> {
    return (await this.#here.built())?.files.get("run-sheet.html");
  }

  /** Layouts and the project file, as an archive. */
  saveLayouts(): Promise<Blob> {
    const texts = [...this.#now!.files].filter(([path]) => /\.ya?ml$/.test(path));
    return zipOf(new Map(texts));
  }

  /** All files of the project, as an archive that can be opened again. */
  saveProject(): Promise<Blob> {
    return zipOf(this.#now!.files);
  }
}

/** The number of the first mark on a line or below it. */
function firstFrom(marks: readonly Mark[], line: number): number {
  let [low, high] = [0, marks.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (marks[middle]!.line < line) low = middle + 1;
    else high = middle;
  }
  return low;
}

async function zipOf(files: Files): Promise<Blob> {
  const bytes = new Map<string, Uint8Array>();
  for (const [name, blob] of files) bytes.set(name, new Uint8Array(await blob.arrayBuffer()));
  return new Blob([new Uint8Array(writeZip(bytes))], { type: "application/zip" });
}

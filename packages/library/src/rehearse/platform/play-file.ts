/**
 * Playing a file: row by row, in the units that a platform takes or refuses together. What a refused unit has done is taken back. A unit
 * that proves wrong only when the file is through was never taken: the file is played again without it.
 */

import { firstOf } from "../../checked.js";
import type { TargetFile } from "../../target/target.js";
import type { RehearsedFile } from "../outcome.js";
import { sheetCells } from "../../layout/cells.js";
import { byLanguage } from "../../layout/layout.js";
import { formOf } from "./columns.js";
import { problemsOf } from "./constraints.js";
import { contentsOf, type FileContents } from "./file.js";
import { FilePlan, type ImportHow } from "./file-plan.js";
import { BlockPlayer } from "./play-rows.js";
import { PlayedRow, type Waiting } from "./played.js";
import { RowReader } from "./row-reader.js";
import type { PlatformState } from "./state.js";
import { blocksOf, type RowBlock } from "./rows.js";
import type { HeldRecord } from "./held-record.js";
import { pushAll } from "../../lists.js";

/** Plays one file into a platform, which is changed. */
export async function playFile(
  platform: PlatformState,
  file: TargetFile,
  name: string,
  bytes: AsyncIterable<Uint8Array>,
  how: ImportHow,
): Promise<RehearsedFile> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of bytes) chunks.push(chunk);
  return new FileRehearsal(platform, file, name, how, chunks).play();
}

function headerProblem(contents: FileContents, { layouts, importing, mustHave }: TargetFile): string | undefined {
  const { header } = contents;
  const known = [...new Set(layouts.flatMap(({ columns }) => columns.map((column) => column.header)))];
  if (importing.header === "as it is")
    return isSameList(
      contents.is === "rows" ? contents.inFile : header,
      sheetCells(firstOf(layouts).cells, known).headers,
    )
      ? undefined
      : "the header is another";
  const unknown = header.find((column) => !known.includes(column));
  if (unknown !== undefined) return `unknown column "${unknown}"`;
  if (new Set(header).size < header.length) return "a column comes twice";
  const { shape } = firstOf(layouts);
  const needed = [...mustHave, ...(shape.is === "grouped" ? [shape.column] : [])];
  const missing = needed.find((column) => !header.includes(column));
  return missing === undefined ? undefined : `no column "${missing}"`;
}

const isSameList = (one: readonly string[], other: readonly string[]): boolean =>
  one.join("\u0000") === other.join("\u0000");

/** Counts the products of a file, where its platform takes no more than so many. */
class ProductCount {
  readonly #words = new Set<string>();
  readonly #most: number | undefined;
  readonly #language: string;
  #blocks = 0;

  constructor({ limits, layouts }: TargetFile) {
    this.#most = limits.products;
    this.#language = firstOf(byLanguage(firstOf(layouts)))[0];
  }

  see(block: RowBlock): void {
    const { language, word } = firstOf(block);
    const number = this.#blocks++;
    if (this.#most !== undefined && language === this.#language) this.#words.add(word || `${number}`);
  }

  get isOver(): boolean {
    return this.#most !== undefined && this.#words.size > this.#most;
  }
  get problem(): string | undefined {
    return this.isOver ? `more than ${this.#most} products` : undefined;
  }
}

type Reasons = ReadonlySet<string>;

const noWaiting: readonly Waiting[] = [];

class FileRehearsal {
  /** By the number of a unit: why it was never taken. */
  readonly #never = new Map<number, Reasons>();

  constructor(
    readonly platform: PlatformState,
    readonly file: TargetFile,
    readonly name: string,
    readonly how: ImportHow,
    readonly chunks: readonly Uint8Array[],
  ) {}

  async play(): Promise<RehearsedFile> {
    const { platform, file, name } = this;
    const { store } = platform;
    const begin = store.mark();
    platform.forgetLines(file.name);
    for (;;) {
      const contents = await contentsOf(name, file, this.chunks);
      if (typeof contents === "string") return { name, refused: contents, rows: [] };
      const run = new FileRun(platform, file, this.how, this.#never, begin);
      const refused = await run.play(contents);
      const isAgain = run.late.size > 0 && file.importing["refusal costs"] !== "file";
      const isThrough = refused === undefined && !isAgain;
      // No row can name a line of what is not taken.
      if (isThrough && !run.isRefused) run.noteLines();
      else platform.forgetLines(file.name);
      if (isThrough) {
        store.keep();
        pushAll(platform.waiting, run.afterImport);
        const refusedRows = run.isRefused ? "rows of it are refused" : undefined;
        const awaited = new Set(run.afterImport.map(({ played }) => played));
        return { name, refused: refusedRows, rows: run.played.map((row) => row.report(awaited.has(row))) };
      }
      store.back(begin);
      store.forget();
      if (refused !== undefined) return { name, refused, rows: [] };
      for (const [unit, reasons] of run.late) this.#never.set(unit, reasons);
    }
  }
}

/** How far a file had come, to go back to. */
interface Mark {
  readonly store: number;
  readonly waiting: number;
  readonly afterImport: number;
}

/** One time through a file. */
class FileRun {
  readonly #plan: FilePlan;
  readonly #reader: RowReader;
  readonly played: PlayedRow[] = [];
  /** The first row of each record, where something that is wrong only in the end is told of it. */
  readonly #firstOf = new Map<HeldRecord, PlayedRow>();
  readonly #asksFirst: boolean;
  readonly #waiting: Waiting[] = [];
  /** What is looked up when the whole import is through. */
  readonly afterImport: Waiting[] = [];
  /** Where a file is all that there is: what its rows name stays. */
  readonly #named = new Set<HeldRecord>();
  readonly late = new Map<number, Set<string>>();
  isRefused = false;
  #stoppedAt: number | undefined;
  #units = 0;

  constructor(
    readonly platform: PlatformState,
    readonly file: TargetFile,
    how: ImportHow,
    readonly never: ReadonlyMap<number, Reasons>,
    readonly begin: number,
  ) {
    this.#plan = new FilePlan(file, platform, how);
    this.#reader = new RowReader(this.#plan, (waiting, lookedUp) =>
      (lookedUp === "after the import" ? this.afterImport : this.#waiting).push(waiting),
    );
    const { importing } = file;
    this.#asksFirst = importing["refusal costs"] === "file" || importing["parent without children"] === "refuse";
  }

  /** @returns why the file is refused as a whole; then what was done is to be taken back. */
  async play(contents: FileContents): Promise<string | undefined> {
    const { file } = this;
    const { importing } = file;
    const children = new Set<string>();
    const ofHeader = headerProblem(contents, file);
    const count = new ProductCount(file);
    for await (const blocks of blocksOf(contents, formOf(file)))
      for (const block of blocks) {
        count.see(block);
        // What is wrong with a row further down comes before what is wrong with the header.
        if (ofHeader === undefined && !count.isOver) this.#block(block, children);
      }
    const ofRows = contents.is === "rows" ? contents.refused() : undefined;
    const refused = ofRows ?? ofHeader ?? count.problem;
    if (refused !== undefined) return refused;
    this.#lookUpAll();
    if (this.#plan.isWhole) this.#takeOut();
    this.#parentsWithoutChildren();
    if (importing["refusal costs"] === "file") {
      this.#check([...this.#firstOf.keys()], undefined);
      this.isRefused = this.played.some((row) => row.isRefused);
      if (this.isRefused) this.platform.store.back(this.begin);
      if (this.isRefused) for (const row of this.played) row.outcome = "refused";
    }
    return undefined;
  }

  /** Rows of later files may name the records by these lines. */
  noteLines(): void {
    for (const { isRefused, records, line } of this.played)
      if (!isRefused && records[0]) this.platform.noteLine(this.file.name, line, records[0]);
  }

  #block(block: RowBlock, children: Set<string>): void {
    const costs = this.file.importing["refusal costs"];
    const player = new BlockPlayer(this.#reader, children);
    const mark = this.#mark();
    const rows = block.map((row) => new PlayedRow(row));
    let unit = this.#units;
    for (const row of rows) {
      if (costs === "row") unit = this.#units++;
      this.played.push(row);
      row.unit = unit;
      player.before(row);
      const rowMark = this.#mark();
      this.#row(player, row, unit);
      if (costs !== "row") continue;
      this.#check(row.records, row);
      if (row.isRefused) this.#refuse([row], rowMark);
    }
    player.closeLanes();
    this.#notNamed(player, rows);
    if (costs !== "row") this.#units++;
    if (costs === "record") {
      this.#whole(player, rows);
      if (rows.some((row) => row.isRefused)) this.#refuse(rows, mark);
    }
    continueOutcomes(rows);
    for (const row of rows) if (!row.isRefused) this.#note(row, player);
    for (const from of this.#plan.left) this.#abandoned(from);
    this.#plan.left.clear();
    this.platform.store.close(mark.store);
    const awaited = this.#waitingSince(mark);
    for (const row of rows) if (!awaited.some(({ played }) => played === row)) row.leave();
  }

  #waitingSince({ waiting, afterImport }: Mark): readonly Waiting[] {
    if (this.#waiting.length === waiting && this.afterImport.length === afterImport) return noWaiting;
    return [...this.#waiting.slice(waiting), ...this.afterImport.slice(afterImport)];
  }

  #mark(): Mark {
    return { store: this.platform.store.mark(), waiting: this.#waiting.length, afterImport: this.afterImport.length };
  }

  #row(player: BlockPlayer, row: PlayedRow, unit: number): void {
    const never = this.never.get(unit);
    if (this.#stoppedAt !== undefined) row.refuse(`not reached: the import stopped at line ${this.#stoppedAt}`);
    for (const reason of never ?? []) row.refuse(reason);
    if (!row.isRefused) player.play(row);
  }

  /** What is refused together has the same reasons, and leaves nothing behind. */
  #refuse(rows: readonly PlayedRow[], mark: Mark): void {
    const reasons = new Set(rows.flatMap((row) => [...row.reasons]));
    for (const row of rows) for (const reason of reasons) row.refuse(reason);
    this.platform.store.back(mark.store);
    this.#waiting.splice(mark.waiting);
    this.afterImport.splice(mark.afterImport);
    if (this.file.importing["at an error"] === "stop") this.#stoppedAt ??= rows[0]?.line;
  }

  /** A record with all that its rows say of it. */
  #whole(player: BlockPlayer, rows: readonly PlayedRow[]): void {
    const { parent } = player;
    const { store } = this.platform;
    if (!parent?.isThere || rows.some((row) => row.isRefused)) return;
    const first = firstOf(rows);
    this.#check([parent], first);
    const { child } = firstOf(this.file.layouts).shape;
    const isBare = child !== undefined && store.childrenOf(parent).length === 0;
    if (isBare && this.file.importing["parent without children"] !== "kept") first.refuse("a new product needs a code");
  }

  /** What a record contains and its rows do not name is deleted, where the importer does so. */
  #notNamed({ parent, named }: BlockPlayer, rows: readonly PlayedRow[]): void {
    const isRefused = rows.every((row) => row.isRefused);
    if (!parent?.isThere || isRefused || this.file.importing["children not named"] === "kept") return;
    const { store } = this.platform;
    const all = new Set(named);
    for (const child of store.childrenOf(parent)) if (!all.has(child)) store.remove(child);
    this.#plan.left.add(parent);
  }

  /** What has to hold of records. @param row that it is told of; the first that speaks of each, if left out. */
  #check(records: readonly HeldRecord[], row: PlayedRow | undefined): void {
    const { store, kinds, axisLanguage } = this.platform;
    const { besideParents } = this.#plan;
    // Most rows speak of one.
    const all = records.length < 2 ? undefined : new Set(records);
    for (const record of all ?? records) {
      const isAlone = !record.container || !all?.has(record.container);
      for (const problem of problemsOf(record, store, kinds, { isAlone, besideParents, axisLanguage }))
        (row ?? this.#firstOf.get(record))?.refuse(problem);
    }
  }

  #note(row: PlayedRow, { named }: BlockPlayer): void {
    if (this.#asksFirst)
      for (const record of row.records) if (!this.#firstOf.has(record)) this.#firstOf.set(record, row);
    if (this.#plan.isWhole) for (const record of named) this.#named.add(record);
  }

  /** What a refused unit has made is not there for others: those are looked up again, until none more is refused. */
  #lookUpAll(): void {
    const isLate = ({ played }: Waiting) => this.late.has(played.unit);
    for (let before = -1; before < this.late.size;) {
      before = this.late.size;
      for (const waiting of this.#waiting) if (!isLate(waiting)) this.#lookUp(waiting);
      // Where the whole file is refused, each row keeps the reasons of its own.
      if (this.late.size === before || this.file.importing["refusal costs"] === "file") return;
      for (const row of this.played)
        if (this.late.has(row.unit)) for (const record of row.made) this.platform.store.remove(record);
    }
  }

  #lookUp({ played, record, run }: Waiting): void {
    if (!record.isThere) return;
    const { store } = this.platform;
    store.watch();
    run({
      before: Infinity,
      refuse: (reason) => this.#refuseLate(played, reason),
      note: (note) => played.note(note),
    });
    if (played.outcome === "unchanged" && store.isChanged(record)) played.outcome = "updated";
  }

  #refuseLate(played: PlayedRow, reason: string): void {
    played.refuse(reason);
    this.late.set(played.unit, (this.late.get(played.unit) ?? new Set()).add(reason));
  }

  /** What the last of what it contained has left. */
  #abandoned(from: HeldRecord): void {
    const { store } = this.platform;
    const isBare = from.isThere && store.childrenOf(from).length === 0;
    if (isBare && this.file.importing["parent without children"] === "deleted") store.remove(from);
  }

  #parentsWithoutChildren(): void {
    const { importing, layouts } = this.file;
    const { parent, child } = firstOf(layouts).shape;
    if (!child || importing["parent without children"] !== "refuse") return;
    for (const [record, row] of this.#firstOf)
      if (record.kind === parent.name && record.isThere && this.platform.store.childrenOf(record).length === 0)
        this.#refuseLate(row, "no variant");
  }

  /** Takes out the records of the file's kinds that none of its rows has named. */
  #takeOut(): void {
    const { store } = this.platform;
    for (const kind of this.#plan.kindsOfRows)
      for (const record of store.records(kind)) if (!this.#named.has(record)) store.remove(record);
  }
}

/** A row that goes on with the one above it has its outcome. */
function continueOutcomes(rows: readonly PlayedRow[]): void {
  rows.forEach((row, at) => {
    if (row.row.is === "more" && at > 0) row.outcome = rows[at - 1]!.outcome;
  });
}

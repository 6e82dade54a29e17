/** A simulated platform: what it holds, and how it takes the files that are uploaded. It plays any target's files, by the target's rules. */

import { firstOf } from "../../checked.js";
import type { Kinds } from "../../kinds.js";
import { byLanguage, type Layout } from "../../layout/layout.js";
import type { Target, TargetFile } from "../../target/target.js";
import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { Slot } from "../../target/slot.js";
import type { RehearsedFile } from "../outcome.js";
import type { DetachStep } from "../../plan/plan.js";
import type { Playable } from "../playable.js";
import { heldCatalogue, type HeldCatalogue } from "./held-catalogue.js";
import { playFile } from "./play-file.js";
import type { Waiting } from "./played.js";
import type { PlatformState } from "./state.js";
import { textIn, type HeldRecord } from "./held-record.js";
import { PlatformStore, type GiveId } from "./store.js";

/** A platform that is simulated by a target's rules: it takes files, and becomes a catalogue. */
export class SimulatedPlatform implements PlatformState, Playable {
  readonly store: PlatformStore;
  /** What is looked up when the import is through. */
  readonly waiting: Waiting[] = [];
  /** By file and line. */
  readonly #lines = new Map<string, Map<number, HeldRecord>>();
  /** Whether files name records by lines; else these need not be noted. */
  readonly #namesLines: boolean;
  readonly #ofRows: ReadonlySet<string>;
  readonly axisLanguage: string | undefined;

  constructor(
    readonly target: Target,
    readonly kinds: Kinds,
    giveId?: GiveId,
  ) {
    this.store = new PlatformStore(giveId);
    this.#ofRows = new Set(
      [...target.files.values()].flatMap(({ layouts }) =>
        layouts.flatMap(({ shape, link }) =>
          link ? [] : [shape.parent.name, ...(shape.child ? [shape.child.name] : [])],
        ),
      ),
    );
    this.axisLanguage = axisLanguageOf(target);
    this.#namesLines = [...target.files.values()].some(({ layouts }) => layouts.some(namesLines));
    for (const [list, names] of target.has) this.store.setUp(list, [...names]);
  }

  /** Whether records of a kind have rows of their own in some file. */
  readonly hasRows = (kind: string): boolean => this.#ofRows.has(kind);

  setUp(list: string, names: readonly string[]): void {
    this.store.setUp(list, names);
  }

  addPictures(names: readonly string[]): void {
    for (const name of names) this.store.pictures.add(name);
  }

  /** A person takes children out of what contains them: they stay, and belong to none. Or takes off axes: rows may name others then. */
  detach({ from, kind, keys }: Pick<DetachStep, "from" | "kind" | "keys">): void {
    for (const record of keys.flatMap((key) => this.store.find(kind, "key", key)))
      if (from === "container") this.store.release(record);
      else this.store.takeOffAxes(record);
    this.store.keep();
  }

  /** Takes a file. */
  play(file: TargetFile, name: string, bytes: AsyncIterable<Uint8Array>, mode: Slot["mode"]): Promise<RehearsedFile> {
    return playFile(this, file, name, bytes, {
      isUpdate: mode === "update",
      isWhole: mode === "replace",
      isDelete: mode === "delete",
    });
  }

  counts(): ReadonlyMap<string, number> {
    return this.store.counts();
  }

  *known(kind: string): Generator<{ readonly key: string | undefined; readonly id: string }> {
    for (const { owner, fields } of this.store.records(kind)) {
      const [key, id] = [textIn(fields, "key"), textIn(fields, "id")];
      if (!owner && id !== undefined) yield { key, id };
    }
  }

  /** What it holds, as a catalogue. @param intended tells which products are sold by themselves. */
  held(intended: ResolvedCatalogue): HeldCatalogue {
    const products = intended.table("product").textsOf("code");
    const codes = new Set(Array.from({ length: intended.table("product").size }, (_, row) => products.get(row)));
    return heldCatalogue(this, { isSingle: (code) => codes.has(code), name: this.target.name });
  }

  /** The import is through: what was to be looked up then is. */
  end(): void {
    for (const { record, run, played } of this.waiting.splice(0))
      if (record.isThere)
        run({
          before: Infinity,
          refuse: (reason) => played.note(reason),
          note: (note) => played.note(note),
        });
  }

  forgetLines(file: string): void {
    this.#lines.delete(file);
  }

  noteLine(file: string, line: number, record: HeldRecord): void {
    if (!this.#namesLines) return;
    let lines = this.#lines.get(file);
    if (!lines) this.#lines.set(file, (lines = new Map()));
    lines.set(line, record);
  }

  /** The record that a line of a file was about. */
  atLine(file: string | undefined, line: number): HeldRecord | undefined {
    const found = this.#lines.get(file ?? "")?.get(line);
    return found?.isThere ? found : undefined;
  }
}

/** Whether rows of a layout name records by the lines of a file. */
const namesLines = ({ shape, link }: Layout): boolean =>
  link?.names === "line" ||
  (shape.is === "own-row" && shape.joined.by === "reference" && shape.joined.names === "line");

/** The language in which axes get their names: of the first file that has axes in its columns. */
function axisLanguageOf({ files }: Target): string | undefined {
  for (const { layouts } of files.values())
    for (const layout of layouts)
      for (const { bindings } of firstOf(byLanguage(layout))[1].columns)
        for (const { feed } of bindings)
          if ((feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis") && feed.leads) return feed.lang;
  return undefined;
}

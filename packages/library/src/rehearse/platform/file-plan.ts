/** A file of a target, as a platform prepares to take it: what each column does, to which record, in each of its layouts. */

import { firstOf } from "../../checked.js";
import { greatest } from "../../lists.js";
import type { KindSpec } from "../../kind.js";
import type { Kinds } from "../../kinds.js";
import { byLanguage, type Lane, type Layout } from "../../layout/layout.js";
import type { Header } from "../../nominal.js";
import type { TargetFile } from "../../target/target.js";
import { isOf, ofScope, usesOf, type Use, type UseOf } from "./columns.js";
import type { Effect } from "./effects/effect.js";
import { effectsOf } from "./effects/effects.js";
import { identifierOf, type Identifier } from "./identify.js";
import { Names } from "./names.js";
import { tellingHeaders } from "./rows.js";
import type { PlatformState } from "./state.js";
import type { HeldRecord } from "./held-record.js";
import type { PlatformStore } from "./store.js";

/** The columns of a record, and what they do to it. */
export interface PlayedScope {
  readonly kind: KindSpec;
  readonly uses: readonly Use[];
  readonly effects: readonly Effect[];
  readonly identifier: Identifier;
}

export interface PlayedLane {
  readonly lane: Lane;
  readonly uses: readonly Use[];
  /** Those that are fields of its entries. */
  readonly entryUses: readonly UseOf<"entry">[];
}

export interface PlayedLayout {
  readonly layout: Layout;
  readonly language: string;
  readonly uses: readonly Use[];
  readonly parent: PlayedScope;
  readonly child: PlayedScope | undefined;
  readonly lanes: readonly PlayedLane[];
  /** The columns of the record and of what it contains, but for lanes. */
  readonly besideLanes: readonly Use[];
  /** The columns of what the record contains, with its lanes. */
  readonly ofChild: readonly Use[];
  /** The columns of the record that rows below its own may not fill as they like. */
  readonly shared: readonly Use[];
  /** Columns that tell what a row is, or which record it is of. */
  readonly telling: ReadonlySet<Header>;
  /** Whether each row of what a record contains names it. */
  readonly isByWord: boolean;
}

/** How a file is imported. */
export interface ImportHow {
  /** Whether nothing new is made. */
  readonly isUpdate: boolean;
  /** Whether the file is all that there is to be. */
  readonly isWhole: boolean;
  /** Whether each row takes out the record that it names. */
  readonly isDelete: boolean;
}

export class FilePlan {
  readonly store: PlatformStore;
  readonly names: Names;
  readonly kinds: Kinds;
  readonly hasRows: (kind: string) => boolean;
  readonly axisLanguage: string | undefined;
  readonly isUpdate: boolean;
  readonly isWhole: boolean;
  readonly isDelete: boolean;
  /** Records with smaller numbers were there before the file. */
  readonly begins: number;
  /** Records that what they contained has left. */
  readonly left = new Set<HeldRecord>();
  /** Records that stand on the row of what contains them, where others of their kind have rows of their own. */
  readonly besideParents = new Set<HeldRecord>();
  readonly #layouts: readonly PlayedLayout[];
  /** Whether it counts which records rows name. */
  readonly isNamedKept: boolean;
  /** How many uses a layout of the file has at most. */
  readonly mostUses: number;

  constructor(
    readonly file: TargetFile,
    readonly platform: PlatformState,
    { isUpdate, isWhole, isDelete }: ImportHow,
  ) {
    this.store = platform.store;
    this.kinds = platform.kinds;
    this.names = new Names(this.store, this.kinds);
    this.hasRows = platform.hasRows;
    this.axisLanguage = platform.axisLanguage;
    this.isUpdate = isUpdate;
    this.isWhole = isWhole;
    this.isDelete = isDelete;
    this.isNamedKept = isWhole || file.importing["children not named"] !== "kept";
    this.begins = this.store.next;
    this.#layouts = file.layouts.flatMap((layout) =>
      byLanguage(layout).map(([language, own]) => this.#planOf(layout, own, language)),
    );
    this.mostUses = greatest(this.#layouts.map(({ uses }) => uses.length));
  }

  #planOf(whole: Layout, layout: Layout, language: string): PlayedLayout {
    const uses = usesOf(this.file, layout);
    const { parent, child } = layout.shape;
    const scope = (is: "parent" | "child", kind: KindSpec): PlayedScope => {
      const own = ofScope(uses, is);
      const first = is === "parent" && layout.shape.is === "grouped" ? layout.shape.column : undefined;
      const identifier = identifierOf(this.file, kind, own, first);
      return { kind, uses: own, effects: effectsOf(own, kind, layout), identifier };
    };
    const telling = tellingHeaders(whole);
    const ofParent = scope("parent", parent);
    const ofChild = child && scope("child", child);
    const lanes = layout.lanes.map((lane): PlayedLane => {
      const own = ofScope(uses, "lane", lane.name);
      return { lane, uses: own, entryUses: own.filter(isOf("entry")) };
    });
    const lanesOfChild = lanes.filter(({ lane }) => lane.of === "child").flatMap(({ uses: own }) => own);
    return {
      layout,
      language,
      uses,
      parent: ofParent,
      child: ofChild,
      lanes,
      besideLanes: [...ofParent.uses, ...(ofChild?.uses ?? [])],
      ofChild: [...(ofChild?.uses ?? []), ...lanesOfChild],
      shared: ofParent.uses.filter(({ header, feed }) => feed.is !== "shape" && !telling.has(header)),
      telling,
      isByWord: layout.shape.is === "own-row" && layout.shape.joined.by === "reference",
    };
  }

  /** The layout of a row in a language; of rows of a kind, where rows are of several. */
  layoutIn(language: string, kind: string | undefined): PlayedLayout | undefined {
    return this.#layouts.find(
      (plan) => plan.language === language && (kind === undefined || plan.layout.shape.parent.name === kind),
    );
  }

  /** Whether rows are in another language than the first. */
  isTranslation(language: string): boolean {
    return firstOf(this.#layouts).language !== language;
  }

  useOf(header: Header): Use | undefined {
    return firstOf(this.#layouts).uses.find((use) => use.header === header);
  }

  effectsOf(use: Use, kind: KindSpec): readonly Effect[] {
    return effectsOf([use], kind, firstOf(this.#layouts).layout);
  }

  get linkName(): string {
    return firstOf(this.#layouts).layout.link?.names ?? "id";
  }

  /** The record that a row names which another file gives. */
  linked(word: string): HeldRecord | undefined {
    const { link } = firstOf(this.#layouts).layout;
    if (!link || word === "") return undefined;
    if (link.names === "line") return this.platform.atLine(link.sheet, Number(word));
    const kinds = [...new Set(this.#layouts.map(({ layout }) => layout.shape.parent.name))];
    const by = link.names;
    if (by !== "code") return kinds.flatMap((kind) => this.store.find(kind, by, word))[0];
    for (const to of kinds) {
      const found = this.names.find({ spec: { to, by, lang: undefined, missing: "error", inTree: false } }, word);
      if (found) return found;
    }
    return undefined;
  }

  noteLine(line: number, record: HeldRecord): void {
    this.platform.noteLine(this.file.name, line, record);
  }

  /** The record of a line of this file. */
  atLine(word: string): HeldRecord | undefined {
    return this.platform.atLine(this.file.name, Number(word));
  }

  /** Whether what records contain has rows of its own beside theirs. */
  get hasOwnRows(): boolean {
    return firstOf(this.#layouts).layout.shape.is === "own-row";
  }

  /** The kinds that rows of the file are of. */
  get kindsOfRows(): ReadonlySet<string> {
    return new Set(
      this.#layouts.flatMap(({ layout: { shape } }) => [shape.parent.name, ...(shape.child ? [shape.child.name] : [])]),
    );
  }
}

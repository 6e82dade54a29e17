/** What the cells of a row ask for and where they go, for whichever record the row is about. */

import type { CellValue } from "../../codecs/codec.js";
import type { KindSpec } from "../../kind.js";
import type { Header } from "../../nominal.js";
import { cellValue } from "../rules/judge-cell.js";
import { judgeRow, looksAtRow, type JudgedRow } from "../rules/judges.js";
import { actOf, type ActPlace } from "./acts.js";
import type { Use } from "./columns.js";
import { NamesLeftOut, type Act, type ChangedPlace, type LookUpNow, type RecordPlace } from "./effects/effect.js";
import type { FilePlan } from "./file-plan.js";
import type { PlayedRow, Waiting } from "./played.js";
import type { storedIn } from "./stored.js";
import { textIn, type HeldRecord } from "./held-record.js";

/** Takes what is looked up later. */
export type Waits = (waiting: Waiting, lookedUp: Use["lookedUp"]) => void;

/** The text of a row's cell; blank where the file does not have the column. */
export const cellOf =
  ({ row }: PlayedRow) =>
  (header: Header): string =>
    row.cells?.get(header) ?? "";

interface Telling {
  readonly played: PlayedRow;
  readonly refuse: (reason: string) => void;
  readonly note: (text: string) => void;
}

export class RowReader {
  /** How the row that is read now is told what is wrong with it. */
  #told: Telling | undefined;

  constructor(
    readonly plan: FilePlan,
    readonly waits: Waits,
  ) {}

  /** What the cells of a row ask for, each judged once. */
  acts(played: PlayedRow, isNew: boolean): (use: Use) => Act {
    const asked = new AskedOfRow(this.plan, this.#tell(played), isNew);
    // By the number of the use: a row is of one layout.
    const made = new Array<Act | undefined>(this.plan.mostUses);
    return (use) => (made[use.number] ??= actOf(use, asked));
  }

  #tell(played: PlayedRow): Telling {
    if (this.#told?.played !== played)
      this.#told = {
        played,
        refuse: (reason) => void played.refuse(reason),
        note: (text) => void played.note(text),
      };
    return this.#told;
  }

  /** Where the cells of a row go: the record, and how what is wrong or waits is noted. */
  place(played: PlayedRow, kind: KindSpec, record: HeldRecord, isNew: boolean): RecordPlace {
    const told = this.#tell(played);
    return new PlaceOfRow(this, told, this.plan.file.importing, kind, record, isNew);
  }

  /** Rules that look at several cells of the row. */
  judge(
    played: PlayedRow,
    uses: readonly Use[],
    record: HeldRecord,
    stored: (use: Use) => ReturnType<typeof storedIn>,
  ): void {
    const judged = judgedTogether(uses);
    if (judged.length > 0)
      judgeRow(judged, new RowJudgedTogether(this.plan, played, uses, record, stored), this.#tell(played).refuse);
  }
}

/** A row, as rules ask about it that look at several of its cells. */
class RowJudgedTogether implements JudgedRow {
  constructor(
    readonly plan: FilePlan,
    readonly played: PlayedRow,
    readonly uses: readonly Use[],
    readonly record: HeldRecord,
    readonly storedBy: (use: Use) => ReturnType<typeof storedIn>,
  ) {}

  #useOf(header: Header): Use | undefined {
    return this.uses.find((use) => use.header === header) ?? this.plan.useOf(header);
  }
  #text(header: Header): string {
    return this.played.row.cells?.get(header) ?? "";
  }

  stored(header: Header): ReturnType<typeof storedIn> {
    const use = this.#useOf(header);
    return use && this.storedBy(use);
  }
  isFilled(header: Header): boolean {
    return this.#text(header) !== "";
  }
  ofProduct(field: string): string | undefined {
    const { record } = this;
    const product = record.kind === "product" ? record : (record.container ?? record);
    return textIn(product.fields, field);
  }
  cell(header: Header): CellValue | undefined {
    const use = this.#useOf(header);
    return use && cellValue(use.codec, this.#text(header));
  }
}

/** A row, as the rules of its columns ask about it. */
class AskedOfRow implements ActPlace {
  constructor(
    readonly plan: FilePlan,
    readonly told: Telling,
    readonly isNew: boolean,
  ) {}

  cell(header: Header): string | undefined {
    return this.told.played.row.cells?.get(header);
  }
  get isTranslation(): boolean {
    return this.plan.isTranslation(this.told.played.row.language);
  }
  hasPicture(name: string): boolean {
    return this.plan.store.pictures.has(name);
  }
  get missingPictures(): ActPlace["missingPictures"] {
    return this.plan.file.importing["missing pictures"];
  }
  refuse(reason: string): void {
    this.told.refuse(reason);
  }
  note(text: string): void {
    this.told.note(text);
  }
}

/** The record that a row is about: what is the same for all rows of a file is asked of its plan. */
class PlaceOfRow implements RecordPlace {
  #leftOut: NamesLeftOut | undefined;
  readonly refuse: RecordPlace["refuse"];
  readonly note: RecordPlace["note"];

  constructor(
    readonly reader: RowReader,
    readonly told: Telling,
    readonly importing: RecordPlace["importing"],
    readonly kind: KindSpec,
    readonly record: HeldRecord,
    readonly isNew: boolean,
  ) {
    this.refuse = told.refuse;
    this.note = told.note;
  }

  get store(): FilePlan["store"] {
    return this.reader.plan.store;
  }
  get names(): FilePlan["names"] {
    return this.reader.plan.names;
  }
  get kinds(): FilePlan["kinds"] {
    return this.reader.plan.kinds;
  }
  get hasRows(): FilePlan["hasRows"] {
    return this.reader.plan.hasRows;
  }
  get axisLanguage(): string | undefined {
    return this.reader.plan.axisLanguage;
  }
  /** Most rows name nothing that is not there. */
  get leftOut(): NamesLeftOut {
    return (this.#leftOut ??= new NamesLeftOut());
  }

  lookUp(use: Use, run: (now: LookUpNow) => void): void {
    const { played, refuse, note } = this.told;
    const { plan, waits } = this.reader;
    const isLate = use.lookedUp === "at the end of the file" || use.lookedUp === "after the import";
    if (isLate && use.unknown !== "create") return waits({ played, record: this.record, run }, use.lookedUp);
    // What is created as it is named is found by the next name.
    const isBefore = use.lookedUp === "before the file" && use.unknown !== "create";
    run({ before: isBefore ? plan.begins : Infinity, refuse, note });
  }

  otherwise({ record = this.record, importing = this.importing }: ChangedPlace): RecordPlace {
    const made = new PlaceOfRow(this.reader, this.told, importing, this.kind, record, this.isNew);
    made.#leftOut = this.leftOut;
    return made;
  }
}

const judgedOf = new WeakMap<readonly Use[], readonly Use[]>();

/** Of the columns, those that have a rule about several cells, each once. */
function judgedTogether(uses: readonly Use[]): readonly Use[] {
  let judged = judgedOf.get(uses);
  if (!judged) {
    const isFirst = (use: Use, at: number) => uses.findIndex(({ header }) => header === use.header) === at;
    judged = uses.filter((use, at) => use.rule && looksAtRow(use.rule) && isFirst(use, at));
    judgedOf.set(uses, judged);
  }
  return judged;
}

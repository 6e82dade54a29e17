/** What the cells of a row ask for and where they go, for whichever record the row is about. */

import type { KindSpec } from "../../kind.js";
import type { Header } from "../../nominal.js";
import { cellValue } from "../rules/judge-cell.js";
import { judgeRow, looksAtRow } from "../rules/judges.js";
import { actOf } from "./acts.js";
import type { Use } from "./columns.js";
import { NamesLeftOut, type Act, type RecordPlace } from "./effects/effect.js";
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
    // By the number of the use: a row is of one layout.
    const made: (Act | undefined)[] = [];
    const { file, store } = this.plan;
    const { refuse, note } = this.#tell(played);
    const place = {
      cell: (header: Header) => played.row.cells?.get(header),
      isNew,
      isTranslation: this.plan.isTranslation(played.row.language),
      hasPicture: (name: string) => store.pictures.has(name),
      missingPictures: file.importing["missing pictures"],
      refuse,
      note,
    };
    return (use) => (made[use.number] ??= actOf(use, place));
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
    const { store, names, kinds, file, hasRows, axisLanguage } = this.plan;
    const { refuse, note } = this.#tell(played);
    const lookUp: RecordPlace["lookUp"] = (use, run) => {
      const isLate = use.lookedUp === "at the end of the file" || use.lookedUp === "after the import";
      if (isLate && use.unknown !== "create") return this.waits({ played, record, run }, use.lookedUp);
      // What is created as it is named is found by the next name.
      const isBefore = use.lookedUp === "before the file" && use.unknown !== "create";
      run({ before: isBefore ? this.plan.begins : Infinity, refuse, note });
    };
    const { importing } = file;
    return {
      store,
      names,
      kinds,
      kind,
      record,
      isNew,
      importing,
      hasRows,
      axisLanguage,
      refuse,
      note,
      leftOut: new NamesLeftOut(),
      lookUp,
    };
  }

  /** Rules that look at several cells of the row. */
  judge(
    played: PlayedRow,
    uses: readonly Use[],
    record: HeldRecord,
    stored: (use: Use) => ReturnType<typeof storedIn>,
  ): void {
    const judged = judgedTogether(uses);
    if (judged.length === 0) return;
    const cell = cellOf(played);
    const useOf = (header: Header) => uses.find((use) => use.header === header) ?? this.plan.useOf(header);
    const above = record.container ?? record;
    const product = record.kind === "product" ? record : above;
    const row = {
      stored: (header: Header) => {
        const use = useOf(header);
        return use && stored(use);
      },
      isFilled: (header: Header) => cell(header) !== "",
      ofProduct: (field: string) => textIn(product.fields, field),
      cell: (header: Header) => {
        const use = useOf(header);
        return use && cellValue(use.codec, cell(header));
      },
    };
    judgeRow(judged, row, (reason) => played.refuse(reason));
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

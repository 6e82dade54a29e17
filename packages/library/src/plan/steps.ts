/** The steps of a plan: what goes into each file, which links have to wait, and what to do around the uploads. */

import { driverOf } from "../formats/drivers/drivers.js";
import { firstOf, entryOf, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { RowSet } from "../catalogue/row-set.js";
import { finding, type Findings } from "../findings/finding.js";
import { writtenKind } from "../layout/write/rows.js";
import type { Slot } from "../target/slot.js";
import { recordsOfImports, type IsFor } from "../target/import-records.js";
import { takesPicturesLast } from "../target/pictures.js";
import type { Target, TargetFile } from "../target/target.js";
import { splitIntoBatches } from "./batches.js";
import { slotHeaders } from "./carried.js";
import { columnsElsewhere } from "./elsewhere.js";
import { laterSlot, reportLate } from "./late.js";
import { lateLinks, linksIn, orderedRecords, waitingCells } from "./links.js";
import { listsStep, neededLists } from "./lists.js";
import type { NamedPlacement } from "./placements.js";
import type { PlannedBlock, PlannedFile, PlanOptions, Step, UploadStep } from "./plan.js";
import { needsIn } from "./sequence.js";
import { stepsAfter, stepsBefore } from "./frame.js";
import { lookStep } from "./spot-checks.js";
import { createdText, limitsText, placementText, updateText } from "./step-texts.js";
import { phrase, type Text } from "../phrases/phrase.js";

type Headers = ReadonlySet<string>;

export class StepMaker {
  readonly steps: Step[] = [];
  uploads = 0;
  postponed = 0;
  #files = 0;
  readonly #isFor: IsFor;
  /** The step that each placement has come to. */
  readonly #stepOf = new Map<NamedPlacement, number>();

  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly target: Target,
    readonly options: PlanOptions,
    readonly findings: Findings,
  ) {
    this.#isFor = recordsOfImports(catalogue, target);
  }

  get #number(): number {
    return this.steps.length + 1;
  }

  #isLeftOut(kind: string, row: number): boolean {
    return this.options.isLeftOut?.(kind, row) ?? false;
  }

  #fileName(word: string, ending: string): string {
    return `${String(++this.#files).padStart(2, "0")}-${word}.${ending}`;
  }

  /** Saving, what to do by hand, lists, pictures that have to be there: what comes before the first file. */
  begin(): void {
    const { target, options } = this;
    const { there } = options;
    if (!there?.isBegun) this.#add(stepsBefore(target));
    const lists = neededLists(this.catalogue, target, (kind, row) => this.#isLeftOut(kind, row));
    if (lists.length > 0) this.steps.push(listsStep(target.name, lists, this.#number));
    if (!takesPicturesLast(target)) this.#uploadPictures();
  }

  #add(steps: readonly Step[]): void {
    for (const step of steps) this.steps.push({ ...step, number: this.#number });
  }

  #uploadPictures(): void {
    const { target, options } = this;
    const pictures = options.pictures.filter((name) => !options.there?.hasPicture?.(name));
    if (pictures.length === 0) return;
    const name = this.#fileName("pictures", "zip");
    this.steps.push({
      number: this.#number,
      is: "pictures",
      title: phrase("Upload the pictures"),
      why: picturesText(target),
      files: pictures,
      name,
    });
  }

  /** @param waiting what the next uploads place, and could not before. */
  collect(waiting: readonly NamedPlacement[]): void {
    const names = waiting.map((one) =>
      one.updates.length === 0 ? placementText(one) : updateText(firstOf(one.updates)),
    );
    const shown =
      names.length > 4 ? phrase("{0} and {1} more", names.slice(0, 4), names.length - 4) : phrase("{0}", names);
    this.steps.push({
      number: this.#number,
      is: "collect",
      title: phrase("Collect the ids"),
      why: phrase("The next files name records by ids that only {0} gives out: {1}.", this.target.name, shown),
    });
  }

  /** @param all every placement of the plan: columns of what is placed elsewhere are left out here. */
  upload(slot: Slot, placed: readonly NamedPlacement[], all: readonly NamedPlacement[]): void {
    for (const stop of this.options.manualSteps ?? [])
      if (stop.before === slot.name)
        this.steps.push({
          number: this.#number,
          is: "do",
          title: stop.title,
          why: phrase("The project asks for this step."),
        });
    const { target } = this;
    const isLeftOut = (kind: string, row: number) => this.#isLeftOut(kind, row);
    const file = entryOf(target.files, slot.file);
    const elsewhere = columnsElsewhere(this.catalogue, target, slot, placed, all);
    const columns = this.#columns(file, slot, elsewhere);
    const blocks = this.#blocks(file, slot, placed);
    const main = blocks[0];
    if (!main) return;
    const links = linksIn(this.catalogue, target, slot, main, columns, isLeftOut);
    const ordered = orderedRecords(this.catalogue, main, links);
    const { batches, tooLarge } = splitIntoBatches(
      ordered,
      links.filter((link) => link.demand === "same file").flatMap((link) => link.pairs),
      file.limits,
      (record) => this.options.bytesOf(file, record),
      this.options.headerBytes(file),
    );
    for (const record of tooLarge) {
      const location = this.catalogue.location(this.catalogue.table(main.kind), record);
      const facts = { rows: this.options.bytesOf(file, record), most: present(file.limits.bytes), what: "bytes" };
      this.findings.add(finding("plan/too-large", facts, location));
    }
    const late = lateLinks(links, batches);
    const later = late.length === 0 ? undefined : laterSlot(this.catalogue, target, file, late);
    if (!later) reportLate(this.catalogue, target.name, late, this.findings);
    const waiting = waitingCells(file.layouts[main.layout]!, later ? late : []);
    // Columns that have to be there stay blank.
    const blank = elsewhere && [...elsewhere].filter((header) => columns?.has(header) ?? true);
    if (blank && blank.length > 0)
      for (const record of ordered) waiting.set(record, new Set([...(waiting.get(record) ?? []), ...blank]));
    const why = this.#why(slot, placed);
    const split =
      batches.length > 1 ? phrase("{0} Split into {1} files: {2}.", why, batches.length, limitsText(file)) : why;
    const files = batches.map((records, at) => [{ ...main, records }, ...(at === 0 ? blocks.slice(1) : [])]);
    this.#push(slot, phrase("Upload {0}", slot.name), split, files, waiting, columns, placed, all);
    if (later) this.#uploadWaiting(later, waiting);
  }

  /** The columns that are written; undefined for all. */
  #columns(
    { layout, importing, mustHave }: TargetFile,
    slot: Slot,
    elsewhere: Headers | undefined,
  ): Headers | undefined {
    if (!elsewhere || importing.header === "as it is") return slot.columns && new Set(slot.columns);
    const headers = [...slotHeaders(layout, slot)];
    return new Set(headers.filter((header) => !elsewhere.has(header) || mustHave.includes(header)));
  }

  /** The records of each layout, in source order. */
  #blocks(file: TargetFile, slot: Slot, placed: readonly NamedPlacement[]): PlannedBlock[] {
    const { catalogue } = this;
    return file.layouts.flatMap((layout, at) => {
      const kind = writtenKind(layout, catalogue);
      const table = catalogue.table(kind);
      const rows = new RowSet(table.size);
      for (const one of placed) {
        const isAbout =
          one.updates.length === 0 || [kind, layout.shape.parent.name, layout.shape.child?.name].includes(one.kind);
        if (!isAbout) continue;
        // Rows about variants stand below their products, or in their blocks.
        const { parent, child } = layout.shape;
        if (one.kind === kind && parent.name === kind) for (const row of one.records) rows.add(row);
        else if (one.kind !== kind && (parent.name === one.kind || child?.name === one.kind)) {
          const own = catalogue.table(one.kind);
          for (const row of one.records) rows.add(own.parent(row));
        }
      }
      const isImplicit = slot.mode === "create" && rows.size === 0 && placed.some((one) => one.updates.length === 0);
      if (isImplicit && file.layouts.length === 1)
        for (let row = 0; row < table.size; row++)
          if (!this.#isLeftOut(kind, row) && this.#isFor(file.name, kind, row)) rows.add(row);
      return rows.size === 0 ? [] : [{ layout: at, kind, records: rows.toArray() }];
    });
  }

  #push(
    slot: Slot,
    title: Text,
    why: Text,
    blocks: readonly (readonly PlannedBlock[])[],
    waiting: UploadStep["waiting"],
    columns: UploadStep["columns"],
    placed: readonly NamedPlacement[],
    all: readonly NamedPlacement[] = [],
  ): void {
    this.uploads++;
    const { format } = entryOf(this.target.files, slot.file).layout;
    const ending = driverOf(format).ending(format);
    const files = blocks.map((one): PlannedFile => ({ name: this.#fileName(slot.name, ending), blocks: one }));
    const { test } = this.target.endpoints;
    if (test !== undefined)
      this.steps.push({
        number: this.#number,
        is: "test",
        title: phrase("Test {0} without saving", slot.name),
        why: phrase("{0} can report what it would refuse before anything is changed.", this.target.name),
        files: files.map((file) => file.name),
      });
    const places = placed.map(({ kind, updates, records }) => ({ kind, update: updates[0], records }));
    const number = this.#number;
    for (const one of placed) this.#stepOf.set(one, number);
    const after = this.#after(slot, placed, all);
    this.steps.push({ number, is: "upload", title, why, slot, files, columns, waiting, places, after });
  }

  /** Earlier steps that what is placed here needs. */
  #after(slot: Slot, placed: readonly NamedPlacement[], all: readonly NamedPlacement[]): UploadStep["after"] {
    const slotNumber = this.target.slots.indexOf(slot);
    const after = new Map<number, boolean>();
    for (const one of placed)
      for (const { placement, demand } of needsIn(one, slotNumber)) {
        const step = this.#stepOf.get(all[placement]!);
        if (step !== undefined && step < this.#number)
          after.set(step, (after.get(step) ?? false) || demand === "earlier step");
      }
    return [...after].sort(([a], [b]) => a - b).map(([step, withIds]) => ({ step, withIds }));
  }

  /** A later upload for the links that no order of files could satisfy. */
  #uploadWaiting(slot: Slot, waiting: ReadonlyMap<number, ReadonlySet<string>>): void {
    this.postponed += waiting.size;
    const file = entryOf(this.target.files, slot.file);
    const records = [...waiting.keys()].sort((a, b) => a - b);
    const { batches } = splitIntoBatches(records, [], { products: file.limits.products }, () => 0, 0);
    this.#push(
      slot,
      phrase("Upload {0}", slot.name),
      phrase(
        waiting.size === 1
          ? "{0} product links to products in later files. The links are set now that these exist."
          : "{0} products link to products in later files. The links are set now that these exist.",
        waiting.size,
      ),
      batches.map((batch) => [{ layout: 0, kind: "product", records: batch }]),
      new Map(),
      slot.columns && new Set(slot.columns),
      [],
    );
  }

  #why(slot: Slot, placed: readonly NamedPlacement[]): Text {
    const created = placed.filter((one) => one.updates.length === 0);
    if (slot.why !== undefined) return slot.why;
    if (created.length > 0)
      return slot.condition
        ? phrase(
            "Creates the {0} for which {1}. Nothing that they refer to comes later.",
            ...[createdText(created), slot.condition.text],
          )
        : phrase("Creates the {0}. Nothing that they refer to comes later.", createdText(created));
    return placed.every((one) => one.postponedIn.length > 0)
      ? phrase("Sets the links that had to wait until both records exist.")
      : phrase(
          "Adds {0} to records that exist by now.",
          placed.map((one) => updateText(firstOf(one.updates))),
        );
  }

  finish(): void {
    if (takesPicturesLast(this.target)) this.#uploadPictures();
    if (this.uploads === 0 || this.options.there?.isFramed) return;
    const kinds = this.target.slots.flatMap(({ creates }) => creates);
    const look = lookStep(this.catalogue, kinds, (kind, row) => this.#isLeftOut(kind, row));
    this.#add([...stepsAfter(this.target), ...(look ? [look] : [])]);
  }
}

function picturesText(target: Target): Text {
  if (takesPicturesLast(target)) return phrase("{0} looks for their products when they come.", target.name);
  return [...target.files.values()].some(({ importing }) => importing["missing pictures"] === "refuse")
    ? phrase("{0} refuses rows with pictures that it does not have yet.", target.name)
    : phrase("{0} ignores pictures that it does not have yet.", target.name);
}

/**
 * Planning: which files to upload, in which order, with which records in each, and why.
 *
 * In: the resolved catalogue, the target. Out: a plan, as data. First the sequence of slots, at the level of kinds; then the
 * records: their order, their files, and the links that have to wait for a later file.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../finding.js";
import type { Demand, Slot } from "../target/schema.js";
import type { Target, TargetFile } from "../target/target.js";
import { splitIntoBatches } from "./batches.js";
import { orderWithFewestLate } from "./feedback.js";
import { needsGraph, orderByNeeds } from "./graph.js";
import { eachReference, referenceFieldsOf, type ReferenceField } from "./references.js";
import { findSequence, type Cost, type Placement } from "./sequence.js";

/** One file of an upload. */
export interface PlannedFile {
  readonly name: string;
  /** Rows of the product table, in the order to write. */
  readonly records: readonly number[];
}

export type Step =
  | { readonly number: number; readonly is: "save"; readonly title: string; readonly why: string }
  | {
      readonly number: number;
      readonly is: "pictures";
      readonly title: string;
      readonly why: string;
      readonly files: readonly string[];
      readonly name: string;
    }
  | { readonly number: number; readonly is: "collect"; readonly title: string; readonly why: string }
  | UploadStep
  | {
      readonly number: number;
      readonly is: "look";
      readonly title: string;
      readonly why: string;
      readonly products: readonly string[];
    };

export interface UploadStep {
  readonly number: number;
  readonly is: "upload";
  readonly title: string;
  readonly why: string;
  readonly slot: Slot;
  readonly files: readonly PlannedFile[];
  /** Headers to write; undefined for all. */
  readonly columns: ReadonlySet<string> | undefined;
  /** For products whose links wait: the headers of the cells that stay blank here. */
  readonly waiting: ReadonlyMap<number, ReadonlySet<string>>;
}

export interface Plan {
  readonly target: string;
  readonly steps: readonly Step[];
  readonly cost: Cost;
}

export interface PlanOptions {
  /** Products and variants that are left out. */
  readonly isLeftOut?: ((kind: string, row: number) => boolean) | undefined;
  /** How many bytes the rows of a product take in a file; needed where the target limits bytes. */
  readonly bytesOf: (file: TargetFile, product: number) => number;
  readonly headerBytes: (file: TargetFile) => number;
  /** Names of the picture files that will be uploaded. */
  readonly pictures: readonly string[];
}

const plurals: Readonly<Record<string, string>> = { category: "categories", axis: "axes" };

/** What each tie asks for where the target does not say. */
const usualDemands: Readonly<Record<string, Demand>> = {
  containing: "earlier row",
  required: "earlier row",
  linking: "anywhere",
};

/**
 * Plans the import of a catalogue.
 *
 * @returns undefined when the target's slots offer no order, with the finding `plan/no-order`. A product that no file can take is left
 *   out of the files, with the finding `plan/too-large`.
 */
export function planImport(
  catalogue: ResolvedCatalogue,
  target: Target,
  options: PlanOptions,
  findings: Findings,
): Plan | undefined {
  const fields = referenceFieldsOf(catalogue);
  const demandOf = (field: ReferenceField): Demand => target.demands.get(field.name) ?? usualDemands[field.tie]!;
  const placements = placementsOf(catalogue, target, fields, demandOf);
  const stuck = placements.filter((one) => one.slots.length === 0).map((one) => one.name);
  const sequence = stuck.length > 0 ? undefined : findSequence(placements, target.slots.length);
  if (!sequence) {
    findings.add(
      finding("plan/no-order", {
        kinds: stuck.length > 0 ? stuck : placements.map((one) => one.name),
        target: target.name,
      }),
    );
    return undefined;
  }
  if (catalogue.table("product").size === 0) findings.add(finding("plan/nothing-to-upload", {}));
  const steps = new StepMaker(catalogue, target, options, findings, fields, demandOf);
  if (sequence.steps.length > 0) steps.begin();
  for (const step of sequence.steps) {
    if (step.collectBefore) steps.collect();
    steps.upload(target.slots[step.slot]!);
  }
  steps.finish();
  return {
    target: target.name,
    steps: steps.steps,
    cost: { ...sequence.cost, uploads: steps.uploads, postponed: steps.postponed },
  };
}

/** What has to be placed: each kind that has records, and apart from it each linking field that a slot can set afterwards. */
function placementsOf(
  catalogue: ResolvedCatalogue,
  target: Target,
  fields: readonly ReferenceField[],
  demandOf: (field: ReferenceField) => Demand,
): Placement[] {
  const kinds = catalogue.kinds.roots.filter((kind) => catalogue.table(kind.name).size > 0).map((kind) => kind.name);
  const slotsWith = (test: (slot: Slot) => boolean) => target.slots.flatMap((slot, at) => (test(slot) ? [at] : []));
  const later = fields.filter(
    (field) =>
      kinds.includes(field.kind) &&
      field.tie === "linking" &&
      target.slots.some((slot) => slot.updates.includes(field.name)),
  );
  const need = (name: string, demand: Demand) => ({ placement: kinds.indexOf(name), demand });
  const needsOf = (own: readonly ReferenceField[], kind: string) =>
    own
      .filter((field) => kinds.includes(field.to) && (field.to !== kind || later.includes(field)))
      .map((field) => need(field.to, demandOf(field)));
  return [
    ...kinds.map((kind) => ({
      name: kind,
      slots: slotsWith((slot) => slot.creates.includes(kind)),
      postponedIn: [],
      needs: needsOf(
        fields.filter((field) => field.kind === kind && !later.includes(field)),
        kind,
      ),
    })),
    ...later.map((field) => ({
      name: field.name,
      slots: slotsWith((slot) => slot.creates.includes(field.kind) || slot.updates.includes(field.name)),
      postponedIn: slotsWith((slot) => slot.updates.includes(field.name) && !slot.creates.includes(field.kind)),
      needs: [need(field.kind, "anywhere" as const), ...needsOf([field], field.kind)],
    })),
  ];
}

class StepMaker {
  readonly steps: Step[] = [];
  uploads = 0;
  postponed = 0;
  #products: readonly number[];
  #files = 0;

  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly target: Target,
    readonly options: PlanOptions,
    readonly findings: Findings,
    readonly fields: readonly ReferenceField[],
    readonly demandOf: (field: ReferenceField) => Demand,
  ) {
    const products = catalogue.table("product");
    this.#products = Array.from({ length: products.size }, (_, row) => row).filter(
      (row) => !options.isLeftOut?.("product", row),
    );
  }

  get #number(): number {
    return this.steps.length + 1;
  }

  #fileName(word: string, ending: string): string {
    return `${String(++this.#files).padStart(2, "0")}-${word}.${ending}`;
  }

  begin(): void {
    this.steps.push({
      number: this.#number,
      is: "save",
      title: "Save what the platform holds now",
      why: "It is the way back, should anything go wrong.",
    });
    const { pictures } = this.options;
    if (pictures.length === 0) return;
    const name = this.#fileName("pictures", "zip");
    this.steps.push({
      number: this.#number,
      is: "pictures",
      title: "Upload the pictures",
      why: `Rows that name a picture that is not there yet lose it on ${this.target.name}.`,
      files: pictures,
      name,
    });
  }

  collect(): void {
    this.steps.push({
      number: this.#number,
      is: "collect",
      title: "Collect the ids",
      why: "What comes next names records by ids that only the platform can give.",
    });
  }

  upload(slot: Slot): void {
    const file = this.target.files.get(slot.file)!;
    const links = this.#linksIn(file, slot);
    const ordered = this.#ordered(links);
    const { batches, tooLarge } = splitIntoBatches(
      ordered,
      links.filter((link) => link.demand === "same file").flatMap((link) => link.pairs),
      file.limits,
      (product) => this.options.bytesOf(file, product),
      this.options.headerBytes(file),
    );
    for (const product of tooLarge) {
      const place = this.catalogue.place(this.catalogue.table("product"), product);
      this.findings.add(
        finding(
          "plan/too-large",
          { rows: this.options.bytesOf(file, product), most: file.limits.bytes!, what: "bytes" },
          place,
        ),
      );
    }
    const waiting = this.#waiting(links, batches);
    const split = batches.length > 1 ? ` Split into ${batches.length} files: ${limitsInWords(file)}.` : "";
    const why =
      slot.mode === "create"
        ? `Creates the ${this.#created(slot)}: nothing they refer to comes later.`
        : "Sets the links that had to wait until both ends were there.";
    this.#push(slot, `Upload ${slot.name}`, why + split, batches, waiting);
    if (waiting.size > 0) this.#uploadWaiting(waiting);
  }

  #push(
    slot: Slot,
    title: string,
    why: string,
    batches: readonly (readonly number[])[],
    waiting: UploadStep["waiting"],
  ): void {
    this.uploads++;
    const files = batches.map((records) => ({ name: this.#fileName(slot.name, "csv"), records }));
    const columns = slot.columns && new Set(slot.columns);
    this.steps.push({ number: this.#number, is: "upload", title, why, slot, files, columns, waiting });
  }

  /** A later upload for the links that no order of files could satisfy. */
  #uploadWaiting(waiting: ReadonlyMap<number, ReadonlySet<string>>): void {
    const slot = this.target.slots.find((one) => one.mode === "update");
    if (!slot) return;
    this.postponed += waiting.size;
    const file = this.target.files.get(slot.file)!;
    const records = [...waiting.keys()].sort((a, b) => a - b);
    const { batches } = splitIntoBatches(records, [], { products: file.limits.products }, () => 0, 0);
    const one = waiting.size === 1;
    this.#push(
      slot,
      `Upload ${slot.name}`,
      `${waiting.size} ${one ? "product links" : "products link"} to products in later files, and could not before these were there.`,
      batches,
      new Map(),
    );
  }

  /** "71 products with their variants, and the axes, brands … that they name". */
  #created(slot: Slot): string {
    const present = slot.creates
      .filter((kind) => this.catalogue.table(kind).size > 0)
      .map((kind) => plurals[kind] ?? `${kind.replaceAll("-", " ")}s`);
    const named = present.filter((kind) => kind !== "products" && kind !== "variants");
    const sold = present.includes("variants") ? "products with their variants" : "products";
    return `${sold}${named.length > 0 ? `, and the ${named.join(", ")} that they name` : ""}`;
  }

  /** Links between products that this upload writes, and what they ask of the order. */
  #linksIn(file: TargetFile, slot: Slot): Links[] {
    const written = new Set(slot.columns ?? file.layout.columns.map((column) => column.header));
    return this.fields.flatMap((field) => {
      const entries = field.name.split(".")[1]!;
      const headers = file.layout.columns
        .filter(
          (column) =>
            written.has(column.header) &&
            column.bindings.some(
              ({ target }) => target.feeds === "entry" && target.entries === entries && target.field.is === "reference",
            ),
        )
        .map((column) => column.header);
      if (field.kind !== "product" || field.to !== "product" || headers.length === 0) return [];
      const pairs: [number, number][] = [];
      eachReference(this.catalogue, field, (from, to) => {
        if (from !== to && !this.options.isLeftOut?.("product", to) && !this.options.isLeftOut?.("product", from))
          pairs.push([from, to]);
      });
      return [{ headers: new Set(headers), demand: this.demandOf(field), pairs }];
    });
  }

  /** Products in source order, but for links that ask for an earlier row: then needs first, and few links late in circles. */
  #ordered(links: readonly Links[]): number[] {
    const pairs = links.filter((link) => link.demand === "earlier row").flatMap((link) => link.pairs);
    if (pairs.length === 0) return [...this.#products];
    const size = this.catalogue.table("product").size;
    const graph = needsGraph(
      size,
      Int32Array.from(pairs, ([from]) => from),
      Int32Array.from(pairs, ([, to]) => to),
    );
    const { order, component, cycles } = orderByNeeds(graph);
    const place = new Map<number, number[]>();
    for (const members of cycles) {
      const position = new Map(members.map((node, at) => [node, at]));
      const needs = members.map((node) =>
        [...graph.needs.subarray(graph.starts[node], graph.starts[node + 1])].flatMap(
          (need) => position.get(need) ?? [],
        ),
      );
      place.set(
        component[members[0]!]!,
        orderWithFewestLate(needs).map((at) => members[at]!),
      );
    }
    const wanted = new Set(this.#products);
    const done = new Set<number>();
    return [...order].flatMap((node) => {
      const circle = place.get(component[node]!);
      if (!circle) return wanted.has(node) ? [node] : [];
      if (done.has(component[node]!)) return [];
      done.add(component[node]!);
      return circle.filter((member) => wanted.has(member));
    });
  }

  /** Products with a link that the order of rows or files does not allow, and the cells that wait. */
  #waiting(links: readonly Links[], batches: readonly (readonly number[])[]): Map<number, Set<string>> {
    const fileOf = new Map<number, number>();
    const rowOf = new Map<number, number>();
    let row = 0;
    batches.forEach((batch, at) => batch.forEach((record) => (fileOf.set(record, at), rowOf.set(record, row++))));
    const waiting = new Map<number, Set<string>>();
    for (const { headers, demand, pairs } of links) {
      for (const [from, to] of pairs) {
        const late =
          demand === "earlier row"
            ? rowOf.get(to)! > rowOf.get(from)!
            : demand === "earlier file"
              ? fileOf.get(to)! >= fileOf.get(from)!
              : demand === "same file" && fileOf.get(to)! > fileOf.get(from)!;
        if (late) waiting.set(from, new Set([...(waiting.get(from) ?? []), ...headers]));
      }
    }
    return waiting;
  }

  finish(): void {
    if (this.uploads === 0) return;
    const products = this.catalogue.table("product");
    const variants = this.catalogue.table("variant");
    const byVariants = [...this.#products].sort(
      (a, b) => variants.childrenOf(b).length - variants.childrenOf(a).length || a - b,
    );
    const single = this.#products.find((row) => variants.childrenOf(row).length === 0);
    const shown = [byVariants[0], byVariants[Math.floor(byVariants.length / 2)], single].filter(
      (row) => row !== undefined,
    );
    this.steps.push({
      number: this.#number,
      is: "look",
      title: "Look at these first",
      why: "The product with most variants, one from the middle, and a single: if these are right, most is.",
      products: [...new Set(shown)].map((row) => products.key(row)),
    });
  }
}

interface Links {
  readonly headers: ReadonlySet<string>;
  readonly demand: Demand;
  readonly pairs: readonly (readonly [number, number])[];
}

function limitsInWords({ limits }: TargetFile): string {
  const parts = [
    limits.products !== undefined && `at most ${limits.products} products`,
    limits.bytes !== undefined && `at most ${limits.bytes} bytes`,
  ];
  return parts.filter((part) => part !== false).join(", ");
}

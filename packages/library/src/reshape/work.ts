/** What operations work with: the catalogue, what they state for it, what is to be left out in the end. */

import type { Key, Lang, Row } from "../nominal.js";
import type { ResolvedBranch } from "../catalogue/catalogue.js";
import type { ToSlug } from "../derive/slug.js";
import { finding, type Findings } from "../findings/finding.js";
import { nearestSpellings } from "../spelling.js";
import type { Location } from "../location.js";
import type { Explained } from "./balance.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** Something to be done on the platform, for an operation to come true there. */
export interface PlatformStep {
  readonly title: Text;
  readonly why: Text;
}

/** What operations need of their surroundings. */
export interface WorkPorts {
  /** The source language. */
  readonly source: Lang;
  readonly toSlug: ToSlug;
  /** What tells pictures apart by what they show; by their names, if left out. */
  readonly contentOf?: ((file: string) => string) | undefined;
}

/** The work of one operation. */
export class Work {
  readonly steps: PlatformStep[] = [];
  readonly dropped = new Map<string, Map<number, number | undefined>>();
  readonly #codes = new Map<string, string>();
  readonly #products = new Map<string, readonly string[]>();
  readonly #pictures = new Set<string>();
  readonly #relations = new Set<string>();
  isStopped = false;

  constructor(
    readonly catalogue: ResolvedBranch,
    readonly ports: WorkPorts,
    readonly findings: Findings,
    /** Where the project says the operation. */
    readonly at: Location,
  ) {}

  get source(): string {
    return this.ports.source;
  }
  get explained(): Explained {
    return { codes: this.#codes, products: this.#products, pictures: this.#pictures, relations: this.#relations };
  }

  refuse(problem: Text): void {
    this.isStopped = true;
    this.findings.add(finding("reshape/cannot", { problem }, this.at));
  }

  note(
    code: "reshape/fields-differ",
    facts: { field: string; keys: readonly Key[]; winner: string },
    product: Row<"product">,
  ): void {
    this.findings.add(
      finding(code, facts, this.at, [this.catalogue.location(this.catalogue.table("product"), product)]),
    );
  }

  /** A record's row; undefined, and refused, where there is none. */
  need(kind: string, key: Key): number | undefined {
    const row = this.catalogue.table(kind).find(key);
    if (row === undefined) {
      const [near] = nearestSpellings(key, this.catalogue.table(kind).keys());
      this.refuse(phrase('there is no {0} "{1}"{2}', kind, key, near === undefined ? "" : `; there is "${near}"`));
    }
    return row;
  }

  drop(kind: string, row: number, standIn: number | undefined): void {
    const rows = this.dropped.get(kind) ?? new Map<number, number | undefined>();
    this.dropped.set(kind, rows.set(row, standIn));
  }

  become(key: Key, keys: readonly Key[]): void {
    this.#products.set(key, keys);
  }
  recode(from: string, to: string): void {
    this.#codes.set(from, to);
  }
  leaveOutPicture(file: string): void {
    this.#pictures.add(file);
  }
  explainRelation(relation: string): void {
    this.#relations.add(relation);
  }

  step(title: Text, why: Text): void {
    this.steps.push({ title, why });
  }

  contentOf(file: string): string {
    return this.ports.contentOf?.(file) ?? file;
  }
  slugOf(text: string): string {
    return this.ports.toSlug(text) || text;
  }

  /** Makes a product's addresses again of its names, where it has any. */
  addressAgain(row: number): void {
    const products = this.catalogue.table("product");
    for (const field of [...products.texts.keys()])
      if (field.startsWith("slug@") && typeof products.text(field, row) === "string") {
        const name = products.text(`name@${field.slice("slug@".length)}`, row);
        if (typeof name === "string") products.setText(field, row, this.slugOf(name));
      }
  }
}

/** What operations work with: the catalogue, what they state for it, what is to be left out in the end. */

import type { Key, Lang, Row } from "../nominal.js";
import type { ResolvedBranch } from "../catalogue/catalogue.js";
import type { ToSlug } from "../derive/slug.js";
import { finding, type Findings } from "../findings/finding.js";
import { Spellings } from "../spelling.js";
import type { Location } from "../location.js";
import type { Explained } from "./balance.js";
import type { ExplainedFields } from "./field-balance.js";
import { phrase, type Text } from "../phrases/phrase.js";
import type { Workpiece } from "./workpiece.js";

/** Something to be done on the platform, for an operation to come true there. */
export interface PlatformStep {
  readonly title: Text;
  readonly why: Text;
  /** Before the uploads, or behind them. */
  readonly when: "before" | "after";
  /** Records of a kind whose codes change; or the record that is to go or to let go, as it was called before the operation. */
  readonly about: { readonly kind: string; readonly key?: Key };
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
  readonly #records = new Map<string, Map<string, readonly string[]>>();
  readonly #pictures = new Set<string>();
  readonly #relations = new Set<string>();
  readonly #made = new Map<string, Set<number>>();
  readonly #set = new Map<string, Map<number, Set<string>>>();
  isStopped = false;

  readonly catalogue: ResolvedBranch;

  constructor(
    readonly piece: Workpiece,
    readonly ports: WorkPorts,
    readonly findings: Findings,
    /** Where the project says the operation. */
    readonly at: Location,
  ) {
    this.catalogue = piece.catalogue;
  }

  /** The rows of the records of a kind that are there. */
  rows(kind: string): Generator<number> {
    return this.piece.rows(kind);
  }

  get source(): Lang {
    return this.ports.source;
  }

  /** What the balance has to know. Rows are told by their keys as they are in the end. */
  get explained(): Explained & ExplainedFields {
    const keyed = new Map<string, Set<string>>();
    for (const [kind, rows] of this.#made)
      keyed.set(kind, new Set([...rows].map((row) => this.catalogue.table(kind).key(row))));
    const set = new Map<string, Map<string, ReadonlySet<string>>>();
    for (const [kind, rows] of this.#set) {
      const table = this.catalogue.table(kind);
      set.set(kind, new Map([...rows].map(([row, fields]) => [table.key(row), fields])));
    }
    const records = new Map([...this.#records].map(([kind, keys]) => [kind, new Map(keys)]));
    for (const [kind, rows] of this.dropped)
      for (const [row, standIn] of rows) {
        const table = this.catalogue.table(kind);
        const keys = records.get(kind) ?? new Map<string, readonly string[]>();
        records.set(kind, keys);
        if (!keys.has(table.key(row))) keys.set(table.key(row), standIn === undefined ? [] : [table.key(standIn)]);
      }
    return {
      codes: this.#codes,
      products: this.#products,
      pictures: this.#pictures,
      relations: this.#relations,
      records,
      made: keyed,
      set,
    };
  }

  refuse(problem: Text): undefined {
    this.isStopped = true;
    this.findings.add(finding("reshape/cannot", { problem }, this.at));
  }

  note(
    code: "reshape/fields-differ",
    facts: { field: string; keys: readonly Key[]; winner: string },
    products: readonly Row<"product">[],
  ): void {
    const table = this.catalogue.table("product");
    const rows = products.map((row) => this.catalogue.location(table, row));
    this.findings.add(finding(code, facts, this.at, rows));
  }

  /** A record's row; undefined, and refused, where there is none. */
  need(kind: string, key: Key): number | undefined {
    const row = this.catalogue.table(kind).find(key);
    if (row === undefined) {
      const [near] = new Spellings(this.catalogue.table(kind).keys()).nearest(key);
      this.refuse(phrase('there is no {0} "{1}"{2}', kind, key, near === undefined ? "" : `; there is "${near}"`));
    }
    return row;
  }

  /** Leaves a record out in the end. @param standIn what references to it lead to. */
  drop(kind: string, row: number, standIn: number | undefined): void {
    const rows = this.dropped.get(kind) ?? new Map<number, number | undefined>();
    this.dropped.set(kind, rows.set(row, standIn));
  }

  /** A record is these records now, by their keys. */
  become(kind: string, key: Key, keys: readonly Key[]): void {
    this.#records.set(kind, (this.#records.get(kind) ?? new Map<string, readonly string[]>()).set(key, keys));
    if (kind === "product") this.#products.set(key, keys);
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

  /** The operation made this record. */
  makes(kind: string, row: number): void {
    this.#made.set(kind, (this.#made.get(kind) ?? new Set()).add(row));
  }

  /** The operation itself decides what a field of a record is. @param field `name@en`, `categories`, `product` of what contains it. */
  sets(kind: string, row: number, field: string): void {
    const rows = this.#set.get(kind) ?? new Map<number, Set<string>>();
    this.#set.set(kind, rows.set(row, (rows.get(row) ?? new Set()).add(field)));
  }

  step(step: PlatformStep): void {
    this.steps.push(step);
  }

  contentOf(file: string): string {
    return this.ports.contentOf?.(file) ?? file;
  }
  slugOf(text: string): string {
    return this.ports.toSlug(text) || text;
  }

  /** Makes a product's address again of its name, in each language in which it has one. */
  addressAgain(row: number, languages?: ReadonlySet<string>): void {
    const products = this.catalogue.table("product");
    for (const field of [...products.texts.keys()]) {
      const lang = field.startsWith("slug@") ? field.slice("slug@".length) : undefined;
      if (lang === undefined || (languages && !languages.has(lang))) continue;
      const name = products.text(`name@${lang}`, row);
      if (typeof products.text(field, row) !== "string" || typeof name !== "string") continue;
      products.setText(field, row, this.slugOf(name));
      this.sets("product", row, field);
    }
  }
}

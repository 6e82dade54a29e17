/**
 * Drafting: from samples of a supplier's files to layouts, each line with confidence and why.
 *
 * All files are looked at together: which words name records of other files is known from these. A wrong guess costs more than a gap: a
 * column is bound where its words and its cells agree, and left out, and reported, where they do not.
 */

import type { Header, Lang } from "../nominal.js";
import { Drafter, type DraftedRest, type DraftOptions } from "./drafter.js";
import { lookTogether, type GivenSample, type LookedSample } from "./looked.js";
import type { DraftedBinding, Evidence } from "./proposals.js";
import { rowsOf } from "./rows.js";
import type { Sample } from "./sample.js";
import { findShape, type ShapeGuess } from "./shape.js";
import { alone, type NamedBy, type Surroundings } from "./surroundings.js";
import { draftYaml } from "./yaml.js";

export type { DraftedBinding } from "./proposals.js";

/** What is proposed for one column, and why. */
export interface DraftLine {
  readonly header: Header;
  /** Undefined where the column is left out. */
  readonly binding: DraftedBinding | undefined;
  readonly sure: "sure" | "likely" | "left out";
  readonly why: string;
  /** Of a column that is left out: the field that it would be nearest to. */
  readonly nearest?: string | undefined;
}

/** A layout proposed for a sheet or a document. */
export interface Draft {
  readonly lines: readonly DraftLine[];
  /** Rows and lanes of the layout, as they stand in it. */
  readonly rows: Readonly<Record<string, unknown>>;
  readonly lanes: Readonly<Record<string, unknown>>;
  readonly language: Lang;
  readonly numbered: number;
  /** Why the rows are taken to lie so. */
  readonly why: string;
  readonly sample: Sample;
  /** The layout with its reasons as comments, ready to be looked over. */
  readonly yaml: string;
}

/** A sheet or document of a file, and what its layout is to be called. */
export interface SampleToDraft extends GivenSample {
  readonly name: string;
}

/** A layout for a sample, with a comment on each column that gives its confidence. @param name of the layout. */
export function draftLayout(sample: Sample, name: string): Draft {
  return draftTogether([{ file: name, sample, name }])[0]!;
}

/** Layouts for the files that one supplier sent, in the order in which they were given. */
export function draftTogether(given: readonly SampleToDraft[], options: DraftOptions = {}): Draft[] {
  const { samples, language } = lookTogether(given);
  const drafted = new Map<LookedSample, { readonly drafter: Drafter; readonly found: ShapeGuess }>();
  let around: Surroundings = alone;
  const draft = (one: LookedSample, found: ShapeGuess): void => {
    const drafter = new Drafter(one, found, around, language, options);
    drafter.draft();
    drafted.set(one, { drafter, found });
  };
  const left = [...samples].sort((a, b) => weightOf(b) - weightOf(a));
  // Categories first: articles name them. Then the files that give articles, then those that say more of them.
  for (const one of left) {
    const found = shapeOf(one, alone);
    if (found.shape.is !== "flat" || found.shape.kind !== "category" || !found.shape.identity) continue;
    draft(one, found);
    around = { ...around, categories: new Set([...around.categories, ...found.shape.identity.profile.distinct]) };
  }
  for (const one of left) {
    if (drafted.has(one)) continue;
    const found = shapeOf(one, around);
    draft(one, found);
    around = withRecords(around, one, found, drafted.get(one)!.drafter);
  }
  return samples.map((one, at) => {
    const { drafter, found } = drafted.get(one)!;
    return asDraft(given[at]!.name, one, drafter, found, language);
  });
}

/** Files with more columns give records that others name. */
const weightOf = ({ columns }: LookedSample): number =>
  columns.length + columns.filter(({ meaning }) => meaning?.concept === "name").length * 2;

function shapeOf({ sample, columns }: LookedSample, around: Surroundings): ShapeGuess {
  if (sample.is === "sheet") return findShape(columns, around);
  return { shape: { is: "nested" }, why: "elements are repeated", language: undefined, isMore: () => false };
}

/** What a file adds to what others can name. */
function withRecords(
  around: Surroundings,
  { columns }: LookedSample,
  { shape }: ShapeGuess,
  drafter: Drafter,
): Surroundings {
  if (shape.is === "linked" || shape.is === "sets" || (shape.is === "flat" && shape.kind === "category")) return around;
  const products = new Map(around.products);
  const sold = new Map(around.sold);
  const names = new Set(around.names);
  const note = (into: Map<string, NamedBy>, words: readonly string[], by: NamedBy) => {
    for (const word of words) if (word !== "" && !into.has(word)) into.set(word, by);
  };
  for (const one of columns) {
    const field = drafter.proposals.of(one).proposal?.field;
    const words = one.profile.distinct;
    if (field === "product.key") {
      note(products, words, "key");
      // Rows of their own give codes of variants in the same column.
      if (shape.is === "own row") note(sold, words, "code");
      if (drafter.sold === "product") note(sold, words, "key");
    }
    if (field === "product.code") {
      note(products, words, "code");
      note(sold, words, "code");
    }
    if (field === "variant.code") note(sold, words, "code");
    if (field?.startsWith("product.name")) for (const word of words) names.add(word);
  }
  return { ...around, products, sold, names, hasVariants: around.hasVariants || drafter.sold === "variant" };
}

const sureness = (evidence: Evidence): "sure" | "likely" =>
  evidence === "certain" || evidence === "word" ? "sure" : "likely";

function asDraft(
  name: string,
  { sample, columns }: LookedSample,
  drafter: Drafter,
  found: ShapeGuess,
  language: Lang,
): Draft {
  const lines = columns.map((one): DraftLine => {
    const { header } = one.column;
    const { proposal, left } = drafter.proposals.of(one);
    if (proposal) return { header, binding: proposal.binding, sure: sureness(proposal.evidence), why: proposal.why };
    const { why = "header not recognised", nearest } = left ?? {};
    return { header, binding: undefined, sure: "left out", why, ...(nearest === undefined ? {} : { nearest }) };
  });
  const rest: DraftedRest = drafter.rest;
  const whole = {
    lines,
    rows: rowsOf(found, sample, drafter.sold),
    lanes: rest.lanes,
    language,
    numbered: rest.numbered,
    why: found.why,
    sample,
  };
  return { ...whole, yaml: draftYaml(name, whole, rest, drafter.made) };
}

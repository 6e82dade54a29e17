/**
 * Drafting: from a sample of a supplier's file to a layout, each line with confidence and why.
 *
 * A wrong guess costs more than a gap: a column is bound where its words and its cells agree, and left out, and reported, where they do
 * not, or where two columns would feed the same field.
 */

import type { Header, Lang } from "../nominal.js";
import { firstOf, fitting, present } from "../checked.js";
import { isOneSlip } from "../spelling.js";
import { listedAxes } from "./listed-axes.js";
import { profileOf } from "./profile.js";
import { rowsOf } from "./rows.js";
import type { Sample } from "./sample.js";
import { findShape, type ShapeGuess, type Looked } from "./shape.js";
import { meaningOf, headerNameOf } from "./header-names.js";
import { draftYaml } from "./yaml.js";

export type DraftedBinding = string | Readonly<Record<string, unknown>> | readonly DraftedBinding[];

/** What is proposed for one column, and why. */
export interface DraftLine {
  readonly header: Header;
  /** Undefined where the column is left out. */
  readonly binding: DraftedBinding | undefined;
  readonly sure: "sure" | "likely" | "left out";
  readonly why: string;
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

interface Proposal {
  readonly one: Looked;
  /** The field alone: two proposals for the same are one too many. */
  readonly field: string;
  readonly binding: DraftedBinding;
  readonly sure: "sure" | "likely";
  readonly why: string;
}

/** A layout for a sample, with a comment on each column that gives its confidence. @param name of the layout. */
export function draftLayout(sample: Sample, name: string): Draft {
  const looked = sample.columns.map((column): Looked => {
    const parts = headerNameOf(column.parts);
    return {
      column,
      profile: profileOf(column.cells),
      meaning: meaningOf(parts, isOneSlip),
      lang: column.lang ?? parts.lang,
      unit: parts.unit,
      number: parts.number,
    };
  });
  const found: ShapeGuess =
    sample.is === "sheet"
      ? findShape(looked)
      : { shape: { is: "nested" }, why: "elements are repeated", language: undefined, isMore: () => false };
  return new Drafter(sample, name, looked, found).draft();
}

class Drafter {
  readonly #proposals: Proposal[] = [];
  readonly #left = new Map<Looked, string>();
  readonly #lanes: Record<string, Record<string, unknown>> = {};
  readonly #language: Lang;
  readonly #product: string;
  /** Where what can be sold is: on variants, or on products that have none. */
  readonly #sold: string;
  #numbered = 1;

  constructor(
    readonly sample: Sample,
    readonly name: string,
    readonly looked: readonly Looked[],
    readonly found: ShapeGuess,
  ) {
    this.#language =
      mostOf(looked.flatMap(({ meaning }) => (meaning?.langs.length === 1 ? meaning.langs : []))) ?? "en";
    const { shape } = found;
    this.#product = shape.is === "flat" ? shape.kind : "product";
    const hasVariants = ["grouped", "own row", "marked"].includes(shape.is);
    const isOfProducts = looked.some(
      ({ column, meaning, lang }) =>
        ["description", "categories", "brand", "picture", "slug"].includes(meaning?.concept ?? "") ||
        (lang !== undefined && !meaning && column.scope === "row"),
    );
    if (shape.is === "linked") this.#sold = isOfProducts ? "product" : "variant";
    else
      this.#sold =
        hasVariants || (shape.is === "nested" && sample.childElement !== undefined) ? "variant" : this.#product;
  }

  draft(): Draft {
    this.#lane();
    this.#numberedAxes();
    this.#listedAxes();
    this.#places();
    for (const one of this.looked) if (!this.#isDone(one)) this.#propose(one);
    this.#needIdentity();
    const lines = this.#settle();
    const whole = {
      lines,
      rows: rowsOf(this.found, this.sample, this.#sold),
      lanes: this.#lanes,
      language: this.#language,
      numbered: this.#numbered,
      why: this.found.why,
      sample: this.sample,
    };
    return { ...whole, yaml: draftYaml(this.name, whole) };
  }

  #isDone(one: Looked): boolean {
    return this.#left.has(one) || this.#proposals.some((proposal) => proposal.one === one);
  }

  #add(
    one: Looked,
    field: string,
    more: Readonly<Record<string, unknown>>,
    sure: "sure" | "likely",
    why: string,
  ): void {
    const isPlain = Object.keys(more).length === 0;
    this.#proposals.push({ one, field, binding: isPlain ? field : { field, ...more }, sure, why });
  }

  /** Rows that continue others: their columns are a lane of pictures or of prices. */
  #lane(): void {
    const { shape, isMore } = this.found;
    if (shape.is === "linked") this.#tierLane(this.looked, {});
    if (shape.is !== "grouped") return;
    const rows = firstOf(this.looked)
      .column.cells.map((_, row) => row)
      .filter(isMore);
    if (rows.length === 0) return;
    const own = this.looked.filter(({ column }) => rows.some((row) => column.cells[row] !== ""));
    const code = fitting(this.looked, ({ meaning, profile }) => meaning?.concept === "code" && profile.isUnique);
    const blank = { "continued when blank": [shape.by.column.header, code.column.header] };
    const picture = own.find(({ meaning, profile }) => meaning?.concept === "picture" && profile.isPicture);
    if (picture) {
      const rest = { ...blank, runs: "on rows of its own" };
      this.#lanes["shots"] = { entries: "product.pictures", with: { role: "main" }, ...rest };
      this.#add(picture, "shots.file", {}, "sure", "pictures go on on rows of their own");
      const alternative = own.find(({ meaning }) => meaning?.concept === "alternative");
      if (alternative)
        this.#add(
          alternative,
          `shots.alternative@${alternative.lang ?? this.#language}`,
          {},
          "likely",
          "it stands beside the pictures",
        );
    } else this.#tierLane(own, blank);
  }

  /** Prices from a quantity on, a row for each. */
  #tierLane(own: readonly Looked[], blank: Readonly<Record<string, unknown>>): void {
    const from = own.find(({ meaning, profile }) => meaning?.concept === "from" && profile.isWhole);
    const amounts = own.filter((one) => one !== from && one.profile.decimal && !one.profile.isWhole);
    const price =
      amounts.find(({ meaning }) => meaning?.concept === "price") ?? (amounts.length === 1 ? amounts[0] : undefined);
    if (!from || !price) return;
    this.#lanes["tiers"] = { entries: `${this.#sold}.prices`, with: { role: "price" }, ...blank };
    this.#add(
      from,
      "tiers.quantityFrom",
      { as: "integer" },
      "likely",
      "quantities beside prices, on several rows of an article",
    );
    this.#add(
      price,
      "tiers.amount",
      amountCodec(price),
      "likely",
      "prices beside quantities, on several rows of an article",
    );
  }

  /** `Feature 1`, `Feature 1 is`: pairs of columns told apart by a number. */
  #numberedAxes(): void {
    if (this.#sold !== "variant" || this.found.shape.is === "linked") return;
    const patterns = new Map<string, Looked[]>();
    for (const one of this.looked) {
      const match = /^(.*?)([1-9])(.*)$/.exec(one.column.header);
      if (!match || one.profile.isPicture || this.#isDone(one)) continue;
      const pattern = `${match[1]}{n}${match[3]}`;
      patterns.set(pattern, [...(patterns.get(pattern) ?? []), one]);
    }
    const all = [...patterns].filter(([, list]) => list.length > 1 || patterns.size === 2);
    for (const [pattern, names] of all)
      for (const [other, values] of all) {
        if (pattern === other || names.length !== values.length || this.#isDone(firstOf(names))) continue;
        const isNamed = names.every(({ profile, column }, at) => {
          const beside = values[at]!;
          const fewer =
            profile.distinct.length < beside.profile.distinct.length || profile.filled < beside.profile.filled;
          const isText = profile.distinct.every((word) => !/^[\d.,]+$/.test(word)) && profile.longest <= 40;
          return (
            fewer &&
            isText &&
            column.cells.every(
              (cell, row) =>
                cell === "" || beside.column.cells[row] !== "" || this.found.isMore(row) || !this.#isChildRow(row),
            )
          );
        });
        if (!isNamed) continue;
        this.#numbered = Math.max(this.#numbered, names.length);
        names.forEach((one, at) => this.#axis(one, at + 1, "name"));
        values.forEach((one, at) => this.#axis(one, at + 1, "value"));
      }
  }

  /** `Wood + Finish` on a product's row, `Cedar + Raw` on each of its versions. */
  #listedAxes(): void {
    const { shape, isMore } = this.found;
    if (shape.is !== "grouped") return;
    const groups = shape.by.column.cells.map((group, row) => (isMore(row) ? "" : group));
    const open = this.looked.filter((one) => !this.#isDone(one) && one !== shape.by);
    const why = "lists of what varies and how, entry by entry";
    for (const { names, values, separator } of listedAxes(open, groups))
      for (const [one, holds] of [
        [names, "names"],
        [values, "values"],
      ] as const) {
        const axes = `${holds}@${one.lang ?? this.#language}`;
        const binding = { axes, as: { list: separator } };
        this.#proposals.push({ one, field: `axes ${axes}`, binding, sure: "sure", why });
      }
  }

  #isChildRow(row: number): boolean {
    const { shape } = this.found;
    return shape.is !== "marked" || shape.marker.column.cells[row] === shape.child;
  }

  #axis(one: Looked, number: number, holds: "name" | "value"): void {
    const lang = `${holds}@${one.lang ?? this.#language}`;
    this.#proposals.push({
      one,
      field: `axis ${number} ${lang}`,
      binding: { axis: number, holds: lang },
      sure: "sure",
      why: "numbered pairs of what varies and how",
    });
  }

  /** `Stock Ripon`, `Stock Hexham`: a column for each place. */
  #places(): void {
    const stocks = this.looked.filter(
      ({ meaning, profile, column }) =>
        meaning?.concept === "stock" && meaning.how === "within" && profile.isWhole && column.scope === "row",
    );
    if (stocks.length < 2) return;
    for (const one of stocks) {
      const location = one.column.header.replace(new RegExp(present(one.meaning).phrase, "i"), "").trim();
      if (location === "") return;
      this.#add(
        one,
        `${this.#sold}.stock(${location}).quantity`,
        { as: "integer" },
        "likely",
        "whole numbers in a column for each place",
      );
    }
  }

  #propose(one: Looked): void {
    const { meaning, profile } = one;
    const { shape, language } = this.found;
    const leave = (why: string) => void this.#left.set(one, why);
    if (profile.filled === 0) return leave("it is empty");
    if (one === language?.column) return this.#fixed(one, "it tells the language of a row");
    if (shape.is === "marked" && one === shape.marker) return this.#fixed(one, "it tells which rows are products");
    if (shape.is === "own row" && one === shape.parent) return this.#fixed(one, "it names the product of a variant");
    if (shape.is === "linked" && one === shape.by) return this.#fixed(one, "it names the article that a row is about");
    if (shape.is === "grouped" && one === shape.by)
      return this.#add(
        one,
        "product.key",
        {},
        present(meaning).concept === "name" ? "likely" : "sure",
        "it groups the rows",
      );
    if (shape.is === "marked" && one === shape.by)
      return this.#add(one, "product.key", {}, "sure", "it is the same on a product's rows");
    if (shape.is === "own row" && one === shape.code) {
      this.#proposals.push({
        one,
        field: "product.key",
        binding: ["product.key", "variant.code"],
        sure: "sure",
        why: "products and variants are both known by it",
      });
      return undefined;
    }
    if (!meaning) return this.#byCells(one, leave);
    const sure = meaning.how === "exact" || meaning.how === "without" ? "sure" : "likely";
    const because = meaning.how === "near" ? `nearly the word "${meaning.phrase}"` : `the word "${meaning.phrase}"`;
    return this.#byMeaning(one, sure, because, leave);
  }

  #fixed(one: Looked, why: string): void {
    this.#proposals.push({ one, field: `fixed ${one.column.header}`, binding: { constant: "" }, sure: "sure", why });
  }

  /** Where the words say nothing: only what cannot be anything else. */
  #byCells(one: Looked, leave: (why: string) => void): void {
    const { profile, lang, column } = one;
    if (profile.isBarcode && profile.filled >= 3)
      return this.#add(one, `${this.#sold}.barcode`, {}, "likely", "the check digits fit");
    if (profile.isPicture && profile.filled >= 3) return this.#picture(one, "likely", "they are names of pictures");
    const isOnlyLanguage = lang !== undefined && headerNameOf(column.parts).parts.length <= 1;
    const languageColumns = this.looked.filter((other) => other.lang !== undefined && !other.meaning && other !== one);
    if (isOnlyLanguage && languageColumns.length > 0)
      return this.#add(
        one,
        `${this.#product}.name@${lang}`,
        {},
        "likely",
        "a language as header usually means the name",
      );
    if (this.#isAxisLike(one)) return this.#namedAxis(one, "likely", "it varies within products, in few words");
    leave("header not recognised");
    return undefined;
  }

  #byMeaning(one: Looked, sure: "sure" | "likely", because: string, leave: (why: string) => void): void {
    const { meaning, profile, column } = one;
    const lang = one.lang ?? this.#languageOf(present(meaning).langs);
    const say = (kind: string) => leave(`it holds ${because}, but its cells are not ${kind}`);
    const price = (role: string) =>
      profile.decimal
        ? this.#add(
            one,
            `${this.#sold}.prices(${role}).amount`,
            amountCodec(one),
            sure,
            `${because}, and amounts with a ${profile.decimal.point === "," ? "comma" : "point"}`,
          )
        : say("amounts");
    switch (present(meaning).concept) {
      case "key":
      case "code": {
        if (this.#product === "category") return this.#add(one, "category.key", {}, sure, because);
        if (column.scope === "parent" && this.#sold === "variant")
          return this.#add(one, "product.key", {}, sure, because);
        if (column.scope === "child" && !profile.isUnique && this.#isAxisLike(one))
          return this.#namedAxis(one, "likely", "it varies within products, in few words");
        if (!profile.isUnique && !this.found.language) return say("different on each row");
        if (present(meaning).concept === "key" && this.#sold === "product")
          return this.#add(one, "product.key", {}, sure, `${because}, different on each row`);
        if (this.found.language)
          return this.#add(one, "product.key", {}, sure, `${because}, the same in each language`);
        return present(meaning).concept === "code" || this.#sold === "product"
          ? this.#add(
              one,
              this.#hasCode(one) ? `${this.#product}.key` : `${this.#sold}.code`,
              {},
              sure,
              `${because}, different on each row`,
            )
          : leave("there is a code already");
      }
      case "parent":
        return this.#product === "category"
          ? this.#add(one, "category.parent", { as: { by: "key" } }, sure, `${because}, and it names other rows`)
          : leave(`it holds ${because}, but names no other row`);
      case "name":
        if (profile.decimal) return say("words");
        return this.#add(
          one,
          this.found.language ? "product.name" : `${this.#product}.name@${lang}`,
          {},
          sure,
          because,
        );
      case "description":
        if (profile.decimal) return say("texts");
        return this.#add(
          one,
          this.found.language ? "product.description" : `${this.#product}.description@${lang}`,
          {},
          sure,
          because,
        );
      case "categories":
        if (this.#product === "category") return leave("a category has no categories");
        if (profile.decimal || profile.longest > 200) return say("names of categories");
        return this.#categories(one, lang, sure, because);
      case "brand":
        return profile.decimal
          ? say("names")
          : this.#add(one, "product.brand", { as: { by: `name@${lang}` } }, sure, because);
      case "price":
        return price("price");
      case "offer":
        return price("offer");
      case "was":
        return price("was");
      case "cost":
        return price("cost");
      case "stock":
        return profile.isWhole
          ? this.#add(one, `${this.#sold}.stock.quantity`, { as: "integer" }, sure, `${because}, and whole numbers`)
          : say("whole numbers");
      case "weight":
        return this.#weight(one, sure, because, say);
      case "barcode":
        return profile.isBarcode
          ? this.#add(one, `${this.#sold}.barcode`, {}, sure, `${because}, and the check digits fit`)
          : say("barcodes");
      case "picture":
        return profile.isPicture
          ? this.#picture(one, sure, `${because}, and names of pictures`)
          : say("names of pictures");
      case "shown":
        if (!profile.flag) return say("words for yes and no");
        return this.#add(
          one,
          "product.shown",
          { as: { "code words": { [profile.flag[0]]: true, [profile.flag[1]]: false } } },
          profile.distinct.length === 2 ? sure : "likely",
          because,
        );
      case "axis":
        if (this.found.shape.is === "expanded" && this.found.shape.lists.includes(one))
          return this.#namedAxis(one, "likely", `${because}, and lists of values`, profile.listSeparator);
        return this.#isAxisLike(one) || column.scope === "child"
          ? this.#namedAxis(one, sure, `${because}, and it varies within products`)
          : leave(`it holds ${because}, but does not vary within products`);
      case "position":
        return this.#product === "category" && profile.isWhole
          ? this.#add(one, "category.position", { as: "integer" }, sure, because)
          : leave("only categories are put in order");
      case "slug":
        return this.#add(one, `${this.#product}.slug@${lang}`, {}, sure, because);
      default:
        return leave(`it holds ${because}, which alone says too little`);
    }
  }

  /** Of a word that is one in several languages: the sheet's own, if it is among them. */
  #languageOf(langs: readonly string[]): string {
    return langs.includes(this.#language) ? this.#language : (langs[0] ?? this.#language);
  }

  /** Whether another column is the better code. */
  #hasCode(one: Looked): boolean {
    if (one.meaning?.concept === "code") return false;
    return this.looked.some((other) => other !== one && other.meaning?.concept === "code" && other.profile.isUnique);
  }

  #categories(one: Looked, lang: Lang, sure: "sure" | "likely", because: string): void {
    const { profile, column } = one;
    if (column.scope === "list") {
      this.#lanes["shelves"] = { entries: "product.categories", element: column.header };
      return this.#add(one, "shelves.each", { as: { by: `name@${lang}` }, missing: "create" }, sure, because);
    }
    const path = { path: profile.pathSeparator ?? " > ", by: `name@${lang}` };
    const list =
      profile.listSeparator !== undefined &&
      profile.listSeparator !== profile.pathSeparator &&
      /[;|]/.test(profile.listSeparator);
    const as = list ? { list: profile.listSeparator, of: path } : path;
    return this.#add(one, "product.categories", { as, missing: "create" }, sure, because);
  }

  #weight(one: Looked, sure: "sure" | "likely", because: string, say: (kind: string) => void): void {
    const { profile, unit } = one;
    const field = `${this.#sold}.weight`;
    if (!profile.decimal) return say("numbers");
    const decimal = profile.decimal.point;
    const factor = { g: "0.001", lb: "0.45359237", oz: "0.028349523125" }[unit ?? ""];
    if (factor === undefined) return this.#add(one, field, amountCodec(one), sure, `${because}, and numbers`);
    const as = { measure: { kg: "1", [present(unit)]: factor }, ...(decimal === "," ? { decimal } : {}), bare: unit };
    return this.#add(one, field, { as }, sure, `${because} in ${unit}, and numbers`);
  }

  #picture(one: Looked, sure: "sure" | "likely", because: string): void {
    const { column, profile, number } = one;
    if (column.scope === "list") {
      this.#lanes["shots"] = { entries: "product.pictures", with: { role: "main" }, element: column.header };
      return this.#add(one, "shots.file", {}, sure, because);
    }
    const owner = this.#variesWithin(one) ? this.#sold : "product";
    const role = number === undefined || number === 1 ? "main" : `view-${number}`;
    if (profile.listSeparator !== undefined)
      return this.#add(one, `${owner}.pictures.file`, { as: { list: profile.listSeparator } }, sure, because);
    return this.#add(one, `${owner}.pictures(${role}).file`, {}, sure, because);
  }

  /** Whether a column differs on rows of one product; what is on the first row only does not. */
  #variesWithin({ column }: Looked): boolean {
    const { shape } = this.found;
    if (column.scope === "child") return true;
    if (shape.is !== "grouped") return false;
    const groups = shape.by.column.cells;
    const seen = new Map<string, string>();
    return column.cells.some((cell, row) => {
      const group = groups[row]!;
      if (group === "" || cell === "") return false;
      const known = seen.get(group);
      seen.set(group, known ?? cell);
      return known !== undefined && known !== cell;
    });
  }

  #isAxisLike(one: Looked): boolean {
    const { column, profile } = one;
    const { shape } = this.found;
    if (profile.longest > 40 || profile.decimal?.sign !== undefined || profile.flag) return false;
    if (column.scope === "child") return profile.filled > 1 && !profile.decimal;
    if (shape.is === "own row") {
      const parents = shape.parent.column.cells;
      return column.cells.every((cell, row) => cell === "" || parents[row] !== "") && !profile.decimal;
    }
    const isWord = one.meaning?.concept === "axis";
    if (!this.#variesWithin(one) || (profile.decimal && !isWord)) return false;
    // Cells with an inner form are something else: prices by quantity, codes with parts.
    if (profile.distinct.some((word) => /[:|;=]/.test(word)) || profile.share < 0.5) return false;
    return isWord || (profile.distinct.length <= profile.filled / 2 && !profile.isBarcode && !profile.isPicture);
  }

  /** @param listed the separator, where the cell lists all values of a product. */
  #namedAxis(one: Looked, sure: "sure" | "likely", why: string, listed?: string): void {
    const { column } = one;
    const parts = this.sample.is === "sheet" ? column.header : present(column.parts.trim().split(" ").pop());
    const whole = parts.charAt(0).toUpperCase() + parts.slice(1);
    const axis = listed === undefined ? whole : whole.replace(/s$/, "");
    const lang = one.lang ?? this.#language;
    const binding =
      listed === undefined ? { axis, holds: `value@${lang}` } : { axis, holds: `values@${lang}`, as: { list: listed } };
    this.#proposals.push({ one, field: `axis ${axis}`, binding, sure, why });
  }

  /** Rows that nothing tells apart feed no record: then nothing is bound. */
  #needIdentity(): void {
    if (this.found.shape.is !== "flat") return;
    const isIdentity = ({ field }: Proposal) => /\.(key|code)$|\.name(@|$)/.test(field);
    if (this.#proposals.some(isIdentity)) return;
    for (const { one } of this.#proposals) this.#left.set(one, "no column tells which record a row is about");
  }

  /** Two columns for one field: the surer stays, or none. */
  #settle(): readonly DraftLine[] {
    const byField = new Map<string, Proposal[]>();
    for (const proposal of this.#proposals)
      byField.set(proposal.field, [...(byField.get(proposal.field) ?? []), proposal]);
    for (const rivals of byField.values()) {
      if (rivals.length < 2) continue;
      // Two columns of categories may be two steps of one path.
      const sure = firstOf(rivals).field === "product.categories" ? [] : rivals.filter((one) => one.sure === "sure");
      for (const one of rivals)
        if (sure.length !== 1 || one !== sure[0])
          this.#left.set(
            one.one,
            `${rivals
              .filter((other) => other !== one)
              .map((other) => `"${other.one.column.header}"`)
              .join(", ")} would be ${one.field} too`,
          );
    }
    return this.looked.map((one): DraftLine => {
      const { header } = one.column;
      const why = this.#left.get(one);
      const proposal = this.#proposals.find((other) => other.one === one);
      if (why !== undefined || !proposal)
        return { header, binding: undefined, sure: "left out", why: why ?? "nothing is known of it" };
      return { header, binding: proposal.binding, sure: proposal.sure, why: proposal.why };
    });
  }
}

function amountCodec({ profile: { decimal } }: Looked): { readonly as: unknown } {
  const { point, sign } = present(decimal);
  return {
    as: point === "." && sign === undefined ? "decimal" : { decimal: point, ...(sign === undefined ? {} : { sign }) },
  };
}

function mostOf(parts: readonly string[]): string | undefined {
  const counts = new Map<string, number>();
  for (const word of parts) counts.set(word, (counts.get(word) ?? 0) + 1);
  return [...counts].reduce<[string, number] | undefined>(
    (most, one) => (one[1] > (most?.[1] ?? 0) ? one : most),
    undefined,
  )?.[0];
}

/**
 * One sheet drafted: each column gets a proposal, or a reason why it is left out.
 *
 * What the rows are comes first, then what only cells can tell, then the words of headers; a word is believed where its cells agree.
 */

import { present } from "../checked.js";
import type { Lang } from "../nominal.js";
import { axisBinding, axisName, isAxisLike, numberedAxes } from "./axes.js";
import { amountCodec, lengthCodec, weightCodec } from "./codecs.js";
import { ownField } from "./own-field.js";
import { partLane, pictureLane, priceLane, type DraftedLane } from "./lanes.js";
import { listedAxes } from "./listed-axes.js";
import type { Looked, LookedSample } from "./looked.js";
import { evidenceOf, Proposals, type DraftedBinding, type Evidence } from "./proposals.js";
import { identityOf, type ShapeGuess } from "./shape.js";
import { areAmong, type Surroundings } from "./surroundings.js";
import { textLanguages } from "./text-languages.js";

type More = Readonly<Record<string, unknown>>;

/** What a drafted layout has beside its columns. */
export interface DraftedRest {
  readonly lanes: Record<string, unknown>;
  readonly cells: Record<string, unknown>;
  readonly filledDown: readonly string[];
  numbered: number;
}

/** What a draft leaves out on purpose. */
export interface DraftOptions {
  /** Pictures, where their files are to come later. */
  readonly withoutPictures?: boolean | undefined;
  /** Prices for groups of customers, where the platform does not take them as they are. */
  readonly withoutGroupPrices?: boolean | undefined;
}

export class Drafter {
  readonly proposals = new Proposals();
  readonly rest: DraftedRest;
  /** Columns that are made of others, with what they are bound to. */
  readonly made = new Map<string, DraftedBinding>();
  readonly #looked: readonly Looked[];
  /** The kind that a row is about as a whole. */
  readonly #product: string;
  /** Where what can be sold is: on variants, or on products that have none. */
  readonly sold: string;
  readonly #texts: ReadonlyMap<Looked, Lang>;

  constructor(
    readonly looked: LookedSample,
    readonly found: ShapeGuess,
    readonly surroundings: Surroundings,
    readonly language: Lang,
    readonly options: DraftOptions,
  ) {
    const { shape } = found;
    const { sample, columns } = looked;
    this.#looked = columns;
    this.#product = shape.is === "flat" ? shape.kind : "product";
    if (shape.is === "linked") this.sold = shape.to === "either" ? "variant" : shape.to;
    else if (shape.is === "nested") this.sold = sample.childElement === undefined ? "product" : "variant";
    else this.sold = ["grouped", "own row", "marked"].includes(shape.is) ? "variant" : this.#product;
    const filledDown = shape.is === "grouped" && shape.isFilledDown ? [shape.by.column.header] : [];
    this.rest = { lanes: {}, cells: {}, filledDown, numbered: 1 };
    this.#texts = textLanguages(looked, language);
  }

  draft(): void {
    this.#rows();
    this.#draftLanes();
    this.#numberedAxes();
    this.#listedAxes();
    this.#places();
    this.#draftCategories();
    for (const one of this.#looked) if (!this.proposals.has(one)) this.#propose(one);
    for (const one of this.#looked) if (!this.proposals.of(one).proposal) this.#byCells(one);
    this.#needIdentity();
    this.proposals.settle();
  }

  #add(one: Looked, field: string, more: More, evidence: Evidence, why: string): void {
    const isPlain = Object.keys(more).length === 0;
    this.proposals.add({ one, field, binding: isPlain ? field : { field, ...more }, evidence, why });
  }

  #fixed(one: Looked, why: string): void {
    const field = `fixed ${one.column.header}`;
    this.proposals.add({ one, field, binding: { constant: "" }, evidence: "certain", why });
  }

  /** The columns that tell what a row is, or which record it is of. */
  #rows(): void {
    const { shape, language } = this.found;
    if (language) this.#fixed(language.column, "it tells the language of a row");
    switch (shape.is) {
      case "marked":
        this.#fixed(shape.marker, "it tells which rows are products");
        return this.#add(shape.by, "product.key", {}, "certain", "it is the same on a product's rows");
      case "own row": {
        this.#fixed(shape.parent, "it names the product of a variant");
        const binding = ["product.key", "variant.code"];
        const why = "products and variants are both known by it";
        return this.proposals.add({ one: shape.code, field: "product.key", binding, evidence: "certain", why });
      }
      case "linked":
        return this.#fixed(shape.by, "it names the article that a row is about");
      case "sets":
        return this.#fixed(shape.by, "it names the set that a row is about");
      case "grouped": {
        const isName = shape.by.meaning?.concept === "name";
        this.#add(shape.by, "product.key", {}, isName ? "near" : "certain", "it groups the rows");
        return this.#add(shape.code, "variant.code", {}, "certain", "it is different on each row of a group");
      }
      case "nested":
        return this.#identitiesOfElements();
      case "flat":
      case "expanded":
        return this.#identity(shape.identity);
    }
  }

  /** The column that tells rows of records apart; a further one that does so too is the code beside the key. */
  #identity(identity: Looked | undefined): void {
    if (!identity) return;
    const { language } = this.found;
    if (language) return;
    if (this.#product === "category")
      return this.#add(
        identity,
        "category.key",
        {},
        "certain",
        "it is different on each row, and rows name others by it",
      );
    const isKey = identity.meaning?.concept === "key" || this.found.shape.is === "expanded";
    const field = isKey ? `${this.#product}.key` : `${this.#product}.code`;
    this.#add(identity, field, {}, evidenceOf(identity), this.#because(identity, "different on each row"));
  }

  /** In a document: what is different in each block, and in each of their children. */
  #identitiesOfElements(): void {
    const parents = identityOf(this.#looked.filter(({ column }) => column.scope === "parent"));
    const children = identityOf(this.#looked.filter(({ column }) => column.scope === "child"));
    const isOfVersions = this.looked.sample.childElement !== undefined;
    if (children)
      this.#add(
        children,
        "variant.code",
        {},
        evidenceOf(children),
        this.#because(children, "different in each version"),
      );
    if (!parents) return;
    const field = isOfVersions || parents.meaning?.concept === "key" ? "product.key" : "product.code";
    this.#add(parents, field, {}, evidenceOf(parents), this.#because(parents, "different in each element"));
  }

  #because({ meaning }: Looked, cells: string): string {
    if (!meaning) return cells;
    const word = meaning.how === "near" ? `nearly the word "${meaning.phrase}"` : `the word "${meaning.phrase}"`;
    return cells === "" ? word : `${word}, ${cells}`;
  }

  /** Rows that continue others: their columns are a lane. */
  #draftLanes(): void {
    const { shape, isMore } = this.found;
    if (shape.is === "sets") return this.#lane(partLane(this.#open(), shape.part, shape.names));
    if (shape.is === "linked") {
      const { cells } = shape.by.column;
      const isRepeated = new Set(cells).size < cells.length;
      if (!isRepeated) return;
      const prices = priceLane(this.#open(), cells, this.sold, this.language, {});
      return this.#lane(
        prices ??
          (this.sold === "product" && !this.options.withoutPictures
            ? pictureLane(this.#open(), cells, this.language, {})
            : undefined),
      );
    }
    if (shape.is !== "grouped" || shape.isFilledDown) return;
    const rows = shape.by.column.cells.map((_, row) => row).filter(isMore);
    if (rows.length === 0) return;
    const own = this.#looked.filter(({ column }) => rows.some((row) => column.cells[row] !== ""));
    const blank = { "continued when blank": [shape.by.column.header, shape.code.column.header] };
    const filled = own.map((one) => ({
      ...one,
      column: { ...one.column, cells: rows.map((row) => one.column.cells[row]!) },
    }));
    const of = new Map(filled.map((one, at) => [one as Looked, own[at]!]));
    const lane =
      !this.options.withoutPictures &&
      own.some(({ profile }) => profile.isPicture) &&
      pictureLane(filled, [], this.language, { ...blank, runs: "on rows of its own" });
    const found = lane || priceLane(own, [], this.sold, this.language, blank);
    this.#lane(
      found && {
        ...found,
        columns: found.columns.map((column) => ({ ...column, one: of.get(column.one) ?? column.one })),
      },
    );
  }

  #lane(found: DraftedLane | undefined): void {
    if (!found) return;
    this.rest.lanes[found.name] = found.lane;
    for (const { one, field, more, why } of found.columns) this.#add(one, field, more, "certain", why);
  }

  /** Columns without a proposal yet. */
  #open(): readonly Looked[] {
    return this.#looked.filter((one) => !this.proposals.has(one));
  }

  #numberedAxes(): void {
    if (this.sold !== "variant" || ["linked", "sets"].includes(this.found.shape.is)) return;
    const axes = numberedAxes(this.#open(), this.found);
    this.rest.numbered = Math.max(1, axes.length);
    for (const { number, name, value } of axes)
      for (const [one, holds] of [
        [name, "name"],
        [value, "value"],
      ] as const) {
        const lang = `${holds}@${one.lang ?? this.language}`;
        const why = "numbered pairs of what varies and how";
        this.proposals.add({
          one,
          field: `axis ${number} ${lang}`,
          binding: { axis: number, holds: lang },
          evidence: "certain",
          why,
        });
      }
  }

  /** `Wood + Finish` on a product's row, `Cedar + Raw` on each of its versions. */
  #listedAxes(): void {
    const { shape, isMore } = this.found;
    if (shape.is !== "grouped" || shape.isFilledDown || this.rest.numbered > 1) return;
    const groups = shape.by.column.cells.map((group, row) => (isMore(row) ? "" : group));
    const why = "lists of what varies and how, entry by entry";
    for (const { names, values, separator } of listedAxes(this.#open(), groups))
      for (const [one, holds] of [
        [names, "names"],
        [values, "values"],
      ] as const) {
        const axes = `${holds}@${one.lang ?? this.language}`;
        const binding = { axes, as: { list: separator } };
        this.proposals.add({ one, field: `axes ${axes}`, binding, evidence: "certain", why });
      }
  }

  /** `Stock Ripon`, `Stock Hexham`: a column for each place. */
  #places(): void {
    const stocks = this.#open().filter(
      ({ meaning, profile, column }) => meaning?.concept === "stock" && profile.isWhole && column.scope === "row",
    );
    if (stocks.length < 2) return;
    const words = stocks.map(({ column }) => column.header.split(/[\s_(),.-]+/).filter((word) => word !== ""));
    for (const [at, one] of stocks.entries()) {
      const others = words.filter((_, other) => other !== at).flat();
      const isOwn = (word: string) => !others.some((other) => other.toLowerCase() === word.toLowerCase());
      const phrase = present(one.meaning).phrase.split(" ");
      const location = words[at]!.filter((word) => isOwn(word) && !phrase.includes(word.toLowerCase())).join(" ");
      if (location === "") continue;
      this.#add(
        one,
        `${this.sold}.stock(${location}).quantity`,
        { as: "integer" },
        "within",
        "whole numbers in a column for each place",
      );
    }
  }

  /** Categories in one column or in one for each level, by their names or by the keys of another file. */
  #draftCategories(): void {
    if (this.#product !== "product" || this.found.shape.is === "sets") return;
    const { categories } = this.surroundings;
    const byKey = this.#open().filter(
      ({ profile, meaning }) =>
        (meaning === undefined ||
          ["category", "categoryKey", "key", "code", "none", "parent"].includes(meaning.concept)) &&
        areAmong(profile.distinct, categories, 0.95) &&
        profile.distinct.length < profile.filled,
    );
    if (byKey[0])
      return this.#add(
        byKey[0],
        "product.categories",
        { as: { by: "key" } },
        "certain",
        "it names categories of another file",
      );
    const isNamed = ({ profile }: Looked) => !profile.decimal && profile.longest <= 200 && profile.filled > 0;
    const open = this.#open().filter(isNamed);
    const of = (concept: string) => open.filter(({ meaning }) => meaning?.concept === concept);
    const [mains, subs] = [of("category"), of("subcategory")];
    const [main, sub] = [mains[0], subs[0] ?? mains[1]];
    if (main && sub && this.looked.sample.is === "sheet") return this.#joined(main, sub);
    const only = mains.length === 1 ? main : undefined;
    if (only) this.#categories(only);
  }

  /** Two columns are the two steps of one path. */
  #joined(main: Looked, sub: Looked): void {
    const holds = [main, sub].some(({ profile }) => profile.distinct.some((word) => word.includes("/")));
    const between = holds ? " > " : " / ";
    const name = `${main.column.header} + ${sub.column.header}`;
    this.rest.cells[name] = { join: [main.column.header, sub.column.header], with: between };
    const binding = {
      field: "product.categories",
      as: { path: between, by: `name@${this.language}` },
      missing: "create",
    };
    this.made.set(name, binding);
    for (const [one, step] of [
      [main, "first"],
      [sub, "second"],
    ] as const)
      this.proposals.add({
        one,
        field: `product.categories ${step}`,
        binding,
        evidence: evidenceOf(one),
        why: this.#because(one, `the ${step} step of a path`),
      });
  }

  #categories(one: Looked): void {
    const { profile, column } = one;
    const by = `name@${one.lang ?? this.language}`;
    const why = this.#because(one, "");
    if (column.scope === "list") {
      this.rest.lanes["shelves"] = { entries: "product.categories", element: column.header };
      return this.#add(one, "shelves.each", { as: { by }, missing: "create" }, evidenceOf(one), why);
    }
    const { pathSeparator, listSeparator } = profile;
    const named = pathSeparator === undefined ? { by } : { path: pathSeparator, by };
    const isList = listSeparator !== undefined && listSeparator !== pathSeparator && /[;|]/.test(listSeparator);
    const as = isList ? { list: listSeparator, of: named } : named;
    return this.#add(one, "product.categories", { as, missing: "create" }, evidenceOf(one), why);
  }

  #propose(one: Looked): void {
    const { profile, column } = one;
    if (profile.filled === 0) return this.proposals.leave(one, "it is empty");
    if (this.found.shape.is === "linked" && areAmong(profile.distinct, this.surroundings.names))
      return this.proposals.leave(one, "it repeats the names that another file gives", "product.name");
    const own = ownField(column.header, this.#product, this.sold, this.language);
    if (own)
      return this.#add(
        one,
        own,
        profile.decimal && /weight|length|width|height|amount/.test(own) ? amountCodec(one) : {},
        "certain",
        "it is the name of a field",
      );
    if (one.meaning) this.#byMeaning(one);
  }

  #byMeaning(one: Looked): void {
    const { profile } = one;
    const meaning = present(one.meaning);
    const evidence = evidenceOf(one);
    const because = this.#because(one, "");
    const add = (field: string, more: More = {}, why = because) => this.#add(one, field, more, evidence, why);
    const say = (kind: string, nearest?: string) =>
      this.proposals.leave(one, `it holds ${because}, but its cells are not ${kind}`, nearest);
    const isSets = this.found.shape.is === "sets";
    if (isSets && meaning.concept !== "none")
      return this.proposals.leave(one, "the rows are of sets, and this is nothing of them");
    switch (meaning.concept) {
      case "key":
      case "code":
      case "categoryKey":
        return this.#nameOfRecord(one);
      case "parent":
        return this.#product === "category" && profile.share < 1
          ? add("category.parent", { as: { by: "key" } }, `${because}, and it names other rows`)
          : this.proposals.leave(one, `it holds ${because}, but names no other row`, `${this.#product}.parent`);
      case "name":
      case "categoryName":
        return profile.isText ? this.#text(one, "name") : say("words", `${this.#product}.name`);
      case "description":
        return profile.isText ? this.#text(one, "description") : say("texts", `${this.#product}.description`);
      case "shortText": {
        const hasLong = this.#looked.some((other) => other.meaning?.concept === "description");
        if (!hasLong && profile.isText) return this.#text(one, "description");
        return this.proposals.leave(one, "there is a longer text, and a second one has no field", "product.searchText");
      }
      case "searchText":
        return profile.isText ? this.#text(one, "searchText") : say("texts", `${this.#product}.searchText`);
      case "brand":
        return profile.decimal
          ? say("names", "product.brand")
          : add("product.brand", { as: { by: `name@${this.language}` } });
      case "category":
      case "subcategory":
        return this.#product === "category"
          ? this.proposals.leave(one, "a category has no categories", "category.name")
          : this.proposals.leave(
              one,
              `it holds ${because}, and another column is the category already`,
              "product.categories",
            );
      case "price":
      case "offer":
      case "was":
      case "cost":
        return this.#price(one, meaning.concept);
      case "groupPrice":
        return this.#groupPrice(one);
      case "stock":
        return profile.isWhole
          ? add(`${this.sold}.stock.quantity`, { as: "integer" }, `${because}, and whole numbers`)
          : say("whole numbers", `${this.sold}.stock.quantity`);
      case "weight":
        return profile.decimal
          ? add(`${this.sold}.weight`, weightCodec(one), `${because}${one.unit ? ` in ${one.unit}` : ""}, and numbers`)
          : say("numbers", `${this.sold}.weight`);
      case "length":
      case "width":
      case "height":
        if (!profile.decimal) return this.#axisOr(one, () => say("numbers", `${this.sold}.${meaning.concept}`));
        return add(`${this.sold}.${meaning.concept}`, lengthCodec(one), `${because}, and numbers`);
      case "barcode":
        return profile.isBarcode
          ? add(`${this.sold}.barcode`, {}, `${because}, and the check digits fit`)
          : say("barcodes", `${this.sold}.barcode`);
      case "picture":
        return profile.isPicture ? this.#picture(one) : say("names of pictures", "product.pictures(main).file");
      case "shown":
        if (!profile.flag) return say("words for yes and no", "product.shown");
        return add("product.shown", { as: { "code words": { [profile.flag[0]]: true, [profile.flag[1]]: false } } });
      case "axis":
        return this.#axisOr(one, () =>
          this.proposals.leave(one, `it holds ${because}, but does not vary within products`, "an axis of variants"),
        );
      case "position":
        return this.#product === "category" && profile.isWhole
          ? add("category.position", { as: "integer" })
          : this.proposals.leave(one, "only categories are put in order", "category.position");
      case "slug":
        return profile.isText || profile.isCodeLike
          ? add(`${this.#product}.slug@${one.lang ?? this.language}`)
          : say("addresses", `${this.#product}.slug`);
      case "quantityLeast":
        return profile.isWhole
          ? add(`${this.sold}.quantityLeast`, { as: "integer" })
          : say("whole numbers", `${this.sold}.quantityLeast`);
      case "related":
        return this.#related(one);
      case "none":
        return this.proposals.leave(one, `it holds ${because}, for which there is no field`);
      default:
        return this.proposals.leave(one, `it holds ${because}, which alone says too little`);
    }
  }

  /** A word for codes on a column that is not the one by which rows are known. */
  #nameOfRecord(one: Looked): void {
    const { column, profile } = one;
    const { language } = this.found;
    const because = this.#because(one, "");
    if (this.#product === "category" || ["linked", "sets"].includes(this.found.shape.is))
      return this.proposals.leave(
        one,
        `it holds ${because}, but rows are known by another column`,
        `${this.#product}.key`,
      );
    if (language && profile.share === 1)
      return this.#add(one, "product.key", {}, evidenceOf(one), `${because}, the same in each language`);
    if (
      column.scope === "parent" &&
      this.sold === "variant" &&
      profile.isNearlyUnique &&
      !this.proposals.isTaken("product.key")
    )
      return this.#add(one, "product.key", {}, evidenceOf(one), because);
    if (isAxisLike(one, this.found) && present(one.meaning).how !== "exact")
      return this.#axis(one, "it varies within products, in few words");
    if (!profile.isNearlyUnique)
      return this.proposals.leave(
        one,
        `it holds ${because}, but its cells are not different on each row`,
        `${this.sold}.code`,
      );
    const isFree = (field: string) => !this.proposals.isTaken(field);
    const code = `${this.sold}.code`;
    const key = `${this.#product}.key`;
    const field =
      present(one.meaning).concept === "code" && isFree(code)
        ? code
        : this.sold === "product" && isFree(key)
          ? key
          : undefined;
    if (field) return this.#add(one, field, {}, evidenceOf(one), `${because}, different on each row`);
    return this.proposals.leave(one, "there is a code already", code);
  }

  #text(one: Looked, field: string): void {
    const lang = this.#texts.get(one) ?? this.language;
    const name = this.found.language ? `product.${field}` : `${this.#product}.${field}@${lang}`;
    this.#add(one, name, {}, evidenceOf(one), this.#because(one, ""));
  }

  #price(one: Looked, role: string): void {
    const { decimal } = one.profile;
    const because = this.#because(one, "");
    const field = `${this.sold}.prices(${role}).amount`;
    if (!decimal) return this.proposals.leave(one, `it holds ${because}, but its cells are not amounts`, field);
    const why = `${because}, and amounts with a ${decimal.point === "," ? "comma" : "point"}`;
    return this.#add(one, field, amountCodec(one), evidenceOf(one), why);
  }

  /** A price for a group of customers, which the header names. */
  #groupPrice(one: Looked): void {
    if (!one.profile.decimal) return this.#price(one, "price");
    if (this.options.withoutGroupPrices)
      return this.proposals.leave(one, "the platform does not take prices for groups without a quantity", "prices");
    const words = one.column.header.replace(/[^\p{L}\p{N} ]+/gu, " ").trim();
    const field = `${this.sold}.prices(price, customerGroup: ${words}).amount`;
    return this.#add(
      one,
      field,
      amountCodec(one),
      evidenceOf(one),
      `${this.#because(one, "")}: a price for a group of customers`,
    );
  }

  #picture(one: Looked): void {
    if (this.options.withoutPictures)
      return this.proposals.leave(one, "no picture is there yet", "product.pictures(main).file");
    const { column, profile, number } = one;
    const why = this.#because(one, one.meaning ? "and names of pictures" : "they are names of pictures");
    const evidence = evidenceOf(one);
    if (column.scope === "list") {
      this.rest.lanes["shots"] = { entries: "product.pictures", element: column.header };
      return this.#add(one, "shots.file", {}, evidence, why);
    }
    const { shape } = this.found;
    const isOfSold = column.scope === "child" || (shape.is === "grouped" && shape.varying.has(one));
    const owner = isOfSold ? this.sold : this.#product;
    if (profile.listSeparator !== undefined)
      return this.#add(one, `${owner}.pictures.file`, { as: { list: profile.listSeparator } }, evidence, why);
    const roles = ["main", "view-2", "view-3", "view-4", "view-5", "view-6", "view-7", "view-8", "view-9"];
    const wanted = number === undefined || number < 2 ? "main" : `view-${number}`;
    const isFree = (role: string) => !this.proposals.isTaken(`${owner}.pictures(${role}).file`);
    const role = isFree(wanted) ? wanted : (roles.find(isFree) ?? wanted);
    return this.#add(one, `${owner}.pictures(${role}).file`, {}, evidence, why);
  }

  /** Articles that go with this one, in a list of their keys or codes. */
  #related(one: Looked): void {
    const because = this.#because(one, "");
    const { listSeparator, distinct } = one.profile;
    const words = distinct.flatMap((cell) =>
      (listSeparator === undefined ? [cell] : cell.split(listSeparator)).map((word) => word.trim()),
    );
    const own = this.#looked.find((other) => this.proposals.of(other).proposal?.field.match(/\.(code|key)$/));
    const known = new Set(own?.profile.distinct);
    if (!own || !areAmong(words, known, 0.7))
      return this.proposals.leave(
        one,
        `it holds ${because}, but does not name articles of this file`,
        "product.relations(related).to",
      );
    const by = this.proposals.of(own).proposal!.field.endsWith(".key") ? "key" : "code";
    const as = listSeparator === undefined ? { by } : { list: listSeparator, of: { by } };
    return this.#add(
      one,
      "product.relations(related).to",
      { as },
      evidenceOf(one),
      `${because}, and codes of this file`,
    );
  }

  #axisOr(one: Looked, otherwise: () => void): void {
    const { shape } = this.found;
    if (shape.is === "expanded" && shape.lists.includes(one))
      return this.#axis(one, "lists of values", one.profile.listSeparator);
    if (isAxisLike(one, this.found)) return this.#axis(one, "and it varies within products");
    return otherwise();
  }

  /** @param listed the separator, where the cell lists all values of a product. */
  #axis(one: Looked, why: string, listed?: string): void {
    const axis = axisName(one, this.looked.sample.is === "sheet", listed !== undefined);
    const binding = axisBinding(axis, one.lang ?? this.language, listed);
    const evidence = evidenceOf(one);
    this.proposals.add({ one, field: `axis ${axis}`, binding, evidence, why: this.#because(one, why) });
  }

  /** Where the words say nothing: only what cannot be anything else. */
  #byCells(one: Looked): void {
    const { profile, lang, column, meaning } = one;
    const before = this.proposals.of(one).left;
    const leave = () => {
      if (!before) this.proposals.leave(one, "header not recognised");
    };
    if (profile.filled === 0 || this.found.shape.is === "sets") return leave();
    const isUnknown = meaning === undefined;
    if (!isUnknown && meaning.concept !== "key" && meaning.concept !== "code") return leave();
    if (profile.isBarcode && profile.filled >= 3 && !this.proposals.isTaken(`${this.sold}.barcode`))
      return this.#add(one, `${this.sold}.barcode`, {}, "cells", "the check digits fit");
    if (profile.isPicture && profile.filled >= 3) return this.#picture(one);
    if (!isUnknown) return leave();
    const isOnlyLanguage = lang !== undefined && column.parts.trim().split(/\s+/).length <= 1;
    const others = this.#looked.filter((other) => other.lang !== undefined && !other.meaning && other !== one);
    if (isOnlyLanguage && others.length > 0)
      return this.#add(
        one,
        `${this.#product}.name@${lang}`,
        {},
        "cells",
        "a language as header usually means the name",
      );
    const { shape } = this.found;
    if (shape.is === "expanded" && shape.lists.includes(one))
      return this.#axis(one, "lists of values", profile.listSeparator);
    if (isAxisLike(one, this.found)) return this.#axis(one, "it varies within products, in few words");
    if (this.#wordsByCells(one) || this.#numbersByCells(one)) return undefined;
    return leave();
  }

  /** A name, a text, or a path that no header tells. */
  #wordsByCells(one: Looked): boolean {
    const { profile } = one;
    const { shape } = this.found;
    const isOfProduct = shape.is !== "grouped" || shape.shared.has(one);
    if (!profile.isText || !isOfProduct || one.column.scope === "child") return false;
    const lang = this.#texts.get(one) ?? this.language;
    const isSaid = (field: string) => this.proposals.isTaken(`${this.#product}.${field}@${lang}`);
    const several = profile.distinct.filter((word) => word.includes(" ")).length;
    const isVaried = profile.distinct.length >= 0.4 * profile.filled && several >= 0.5 * profile.distinct.length;
    if (!isVaried)
      return this.#product === "category" && shape.is === "flat" && !isSaid("name") && profile.share === 1
        ? this.#said(one, `category.name@${lang}`, "words, one on each row")
        : false;
    if (profile.usualLength > 55 && !isSaid("description"))
      return this.#said(one, `${this.#product}.description@${lang}`, "long texts");
    const isName = profile.usualLength <= 45 && profile.usualLength > 6 && this.#isOfKnown();
    const named = this.#looked.some(({ meaning }) => meaning?.concept === "name");
    if (isName && !isSaid("name") && !named && this.found.shape.is !== "linked")
      return this.#said(one, `${this.#product}.name@${lang}`, "several words, nearly always others");
    return false;
  }

  /** Whether it is known which records the rows are of. */
  #isOfKnown(): boolean {
    return this.proposals.fields.some((field) => /\.(key|code)$/.test(field));
  }

  /** The only amounts, or the only whole numbers, of a list of prices or of stock. */
  #numbersByCells(one: Looked): boolean {
    const { shape } = this.found;
    if (shape.is !== "linked") return false;
    const rest = this.#looked.filter(
      (other) => other !== one && !this.proposals.of(other).proposal && other.profile.decimal,
    );
    if (rest.length > 0) return false;
    const { profile } = one;
    const isPriced = this.proposals.fields.some((field) => field.includes("prices"));
    const hasCents =
      profile.distinct.filter((word) => /[.,]\d{2}(\D|$)/.test(word)).length >= 0.95 * profile.distinct.length;
    if (profile.hasDecimals && hasCents && !isPriced) {
      this.#add(one, `${this.sold}.prices(price).amount`, amountCodec(one), "cells", "the only amounts of the list");
      return true;
    }
    const isAlone = this.proposals.fields.length === 1;
    if (profile.isWhole && isAlone && profile.distinct.length > 5) {
      this.#add(one, `${this.sold}.stock.quantity`, { as: "integer" }, "cells", "the only numbers of the list");
      return true;
    }
    return false;
  }

  #said(one: Looked, field: string, why: string): true {
    this.#add(one, field, {}, "cells", why);
    return true;
  }

  /** Rows that nothing tells apart feed no record: then nothing is bound. */
  #needIdentity(): void {
    if (this.found.shape.is !== "flat") return;
    const { fields } = this.proposals;
    if (fields.some((field) => /\.(key|code)$|\.name(@|$)/.test(field))) return;
    this.proposals.leaveAll("no column tells which record a row is about");
  }
}

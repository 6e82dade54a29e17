/**
 * Files as suppliers send them, made up: one to four files that belong together, each column with what it truly holds.
 *
 * They know nothing of drafting: what a header is called, in which order columns stand and what is damaged is drawn.
 */

import fc from "fast-check";
import { headers, type About } from "./headers.js";
import { columnsAsDocument, columnsAsFile, type SupplyFile, type TrueColumn } from "./files.js";
import { tongues, vocabularies, type Tongue } from "./vocabulary.js";

export type Draw = fc.GeneratorValue;

/** What one supplier sends. */
export interface Supply {
  readonly tongue: Tongue;
  readonly files: readonly SupplyFile[];
}

/** @param seed any text: the same text gives the same files. @param number which of the supplies of that seed. @param isMute whether all headers mean nothing. */
export function supplyOf(seed: string, number: number, isMute = false): Supply {
  let folded = number;
  for (const char of seed) folded = (Math.imul(folded, 31) + char.charCodeAt(0)) | 0;
  const [draw] = fc.sample(fc.gen(), { seed: folded, numRuns: 1 });
  return new Supplier(draw!, isMute).supply();
}

export interface SoldItem {
  readonly code: string;
  readonly barcode: string;
  readonly values: readonly string[];
  readonly price: number;
  readonly stock: number;
  readonly weight: number;
}

export interface Article {
  readonly key: string;
  readonly good: number;
  readonly quality: number;
  readonly shelf: readonly [number, number];
  readonly brand: string;
  readonly sentences: readonly number[];
  readonly isShown: boolean;
  readonly sold: readonly SoldItem[];
}

/** What versions differ in. */
interface Axis {
  readonly about: About;
  readonly values: readonly string[];
}

type Kind = "flat" | "grouped" | "blank below" | "own rows" | "numbered" | "expanded";

const brands = ["Wexholm", "Tallbrook", "Orrinside", "Maplethwaite", "Dunmarrow"];
const sizes = [
  ["S", "M", "L", "XL"],
  ["20 cm", "30 cm", "45 cm"],
  ["0,5 l", "1 l", "2 l"],
];

class Supplier {
  readonly tongue: Tongue;
  readonly others: readonly Tongue[];
  readonly kind: Kind;
  readonly #articles: readonly Article[];
  readonly #style: "as written" | "capitals" | "snake";
  readonly #point: "," | ".";
  readonly #hasTree: boolean;
  readonly #axes: readonly Axis[];

  constructor(
    readonly draw: Draw,
    readonly isMute: boolean,
  ) {
    this.tongue = this.pick(tongues);
    this.others = this.chance(40) ? tongues.filter((one) => one !== this.tongue && this.chance(25)) : [];
    this.kind = this.pick(["flat", "flat", "grouped", "grouped", "blank below", "own rows", "numbered", "expanded"]);
    this.#style = this.pick(["as written", "as written", "as written", "capitals", "snake"]);
    this.#point = this.tongue === "en" ? "." : this.pick([",", ",", "."]);
    this.#hasTree = this.chance(25);
    this.#axes = this.#drawAxes();
    this.#articles = this.#drawArticles();
  }

  pick<T>(list: readonly T[]): T {
    return list[this.draw(fc.nat, list.length - 1)]!;
  }
  chance(percent: number): boolean {
    return this.draw(fc.nat, 99) < percent;
  }
  between(least: number, most: number): number {
    return this.draw(fc.integer, { min: least, max: most });
  }

  supply(): Supply {
    const files = [this.#main()];
    if (this.#hasTree) files.push(this.#tree());
    if (this.#lacks.has("price")) files.push(this.#prices());
    if (this.#lacks.has("stock")) files.push(this.#stocks());
    if (this.#lacks.has("picture")) files.push(this.#pictures());
    if (this.others.length > 0 && this.#lacks.has("languages"))
      files.push(...this.others.map((one) => this.#texts(one)));
    if (this.chance(12)) files.push(this.#sets());
    return { tongue: this.tongue, files };
  }

  /** What the main file leaves to another. */
  readonly #lacks = new Set<"price" | "stock" | "picture" | "languages">();

  #drawAxes(): readonly Axis[] {
    const { colours, materials } = vocabularies[this.tongue];
    const all = [
      { about: "colour" as const, values: colours },
      { about: "size" as const, values: this.pick(sizes) },
      { about: "material" as const, values: materials },
    ];
    const first = this.between(0, 2);
    return this.chance(45) ? [all[first]!] : [all[first]!, all[(first + 1) % 3]!];
  }

  #drawArticles(): Article[] {
    const prefix = this.pick(["", "A", "HX-", "10", "70.", "K"]);
    const count = this.between(12, 40);
    const hasVariants = this.kind !== "flat";
    let serial = this.between(100, 800);
    return Array.from({ length: count }, (_, at): Article => {
      serial += this.between(1, 9);
      const key = `${prefix}${serial}`;
      const shelves = Object.values(vocabularies[this.tongue].shelves);
      const department = this.between(0, shelves.length - 1);
      const isSingle = !hasVariants || (this.kind !== "expanded" && this.chance(20));
      const base = this.between(300, 19_000) / 100;
      const weight = this.between(20, 4_000) / 1_000;
      const picked = this.#axes.map(({ values }) => values.filter((_, one) => one < 2 || this.chance(40)).slice(0, 4));
      const combinations = isSingle ? [[]] : combine(picked).filter((_, one) => one < 2 || this.chance(85));
      return {
        key,
        good: at % 10,
        quality: (at + Math.floor(at / 10)) % 8,
        shelf: [department, this.between(0, shelves[department]!.length - 1)],
        brand: this.pick(brands),
        sentences: [0, 1, 2, 3].filter(() => this.chance(60)),
        isShown: this.chance(85),
        sold: combinations.map((values, one) => ({
          code: isSingle ? key : `${key}${this.kind === "numbered" ? "/" : "-"}${one + 1}`,
          barcode: barcode(this.between(100_000_000, 999_999_999)),
          values,
          price: Math.round((base + one) * 100) / 100,
          stock: this.between(0, 250),
          weight: Math.round((weight + one * 0.01) * 1_000) / 1_000,
        })),
      };
    });
  }

  #mute = 0;

  /** How a column is called. @param mark a language or a number that is put to it. */
  header(about: About, mark = "", tongue = this.tongue): string {
    let name = this.pick(headers[about][tongue]);
    if (this.isMute) return `F${++this.#mute}`;
    if (this.chance(6)) name = this.#slip(name);
    if (mark !== "") name = this.pick([`${name} ${mark}`, `${name} (${mark})`, `${name}_${mark}`]);
    if (this.#style === "capitals") return name.toUpperCase();
    if (this.#style === "snake")
      return name
        .toLowerCase()
        .replace(/[^\p{L}\p{N}]+/gu, "_")
        .replace(/_$/, "");
    return name;
  }

  /** A letter that is missing, or two that stand in the wrong order. */
  #slip(name: string): string {
    if (name.length < 6) return name;
    const at = this.between(1, name.length - 3);
    return this.chance(50)
      ? name.slice(0, at) + name.slice(at + 1)
      : name.slice(0, at) + name[at + 1]! + name[at]! + name.slice(at + 2);
  }

  amount(value: number, places = 2): string {
    return value.toFixed(places).replace(".", this.#point);
  }

  name({ good, quality }: Article, tongue = this.tongue): string {
    const own = vocabularies[tongue];
    return `${own.goods[good]!} ${own.qualities[quality]!}`;
  }
  text({ good, sentences }: Article, tongue = this.tongue): string {
    const own = vocabularies[tongue];
    return sentences.map((one) => own.sentences[one]!.replace("*", own.goods[good]!)).join(" ");
  }
  shelf({ shelf: [department, inner] }: Article, tongue = this.tongue): readonly [string, string] {
    const [name, list] = Object.entries(vocabularies[tongue].shelves)[department]!;
    return [name, list[inner]!];
  }

  /** The file that has the articles. */
  #main(): SupplyFile {
    const { kind } = this;
    const isFlat = kind === "flat" || kind === "expanded";
    const sold = kind === "flat" ? "product" : "variant";
    for (const part of ["price", "stock", "picture"] as const) if (this.chance(22)) this.#lacks.add(part);
    if (this.chance(50)) this.#lacks.add("languages");
    const rows = this.#articles.flatMap((article): Row[] => {
      if (isFlat) return [{ article, item: article.sold[0]!, at: 0, isOwn: false }];
      const items = article.sold.map((item, at): Row => ({ article, item, at, isOwn: false }));
      const isOwn = kind === "own rows" && article.sold.length > 1;
      return isOwn ? [{ article, item: article.sold[0]!, at: 0, isOwn }, ...items] : items;
    });
    const isShared = (row: Row) => isFlat || kind === "grouped" || kind === "numbered" || row.at === 0;
    const columns: TrueColumn[] = [];
    const ofProduct = (
      about: About,
      truth: readonly string[],
      cell: (row: Row) => string,
      mark = "",
      tongue = this.tongue,
    ) =>
      columns.push({
        header: this.header(about, mark, tongue),
        truth,
        cells: rows.map((row) => {
          if (kind === "own rows") return row.isOwn || row.article.sold.length === 1 ? cell(row) : "";
          return isShared(row) ? cell(row) : "";
        }),
      });
    const ofSold = (about: About, truth: readonly string[], cell: (row: Row) => string, mark = "") =>
      columns.push({
        header: this.header(about, mark),
        truth: kind === "expanded" ? truth.flatMap((one) => [one, one.replace("variant.", "product.")]) : truth,
        cells: rows.map((row) => (row.isOwn ? "" : cell(row))),
        isOfSold: true,
      });

    this.#identities(columns, rows);
    ofProduct(
      "name",
      [`product.name@${this.tongue}`],
      ({ article }) => this.name(article),
      this.others.length > 0 && this.chance(60) ? this.tongue : "",
    );
    if (!this.#lacks.has("languages"))
      for (const one of this.others)
        if (this.chance(50)) ofProduct("name", [`product.name@${one}`], ({ article }) => this.name(article, one), one);
        else ofProduct("name", [`product.name@${one}`], ({ article }) => this.name(article, one), "", one);
    if (this.chance(65)) ofProduct("text", [`product.description@${this.tongue}`], ({ article }) => this.text(article));
    this.#shelves(ofProduct);
    if (this.chance(50)) ofProduct("brand", ["product.brand"], ({ article }) => article.brand);
    this.#variation(columns, rows);
    if (!this.#lacks.has("price")) {
      const sign = this.chance(20) ? " €" : "";
      ofSold("price", [`${sold}.prices(price).amount`], ({ item }) => `${this.amount(item.price)}${sign}`);
      if (this.chance(15))
        ofSold("was", [`${sold}.prices(was).amount`], ({ item }) =>
          item.stock % 3 === 0 ? this.amount(item.price * 1.2) : "",
        );
      if (this.chance(20))
        ofSold("dealerPrice", [`${sold}.prices(price,customerGroup).amount`], ({ item }) =>
          this.amount(item.price * 0.7),
        );
    }
    if (this.chance(30)) ofSold("cost", [`${sold}.prices(cost).amount`], ({ item }) => this.amount(item.price * 0.55));
    if (!this.#lacks.has("stock")) ofSold("stock", [`${sold}.stock.quantity`], ({ item }) => String(item.stock));
    if (this.chance(55)) this.#weight(columns, rows, sold);
    if (this.chance(20))
      for (const about of ["length", "width", "height"] as const)
        ofSold(about, [`${sold}.${about}`], ({ item }) => this.amount(10 + (item.stock % 40), 1), "");
    if (this.chance(60)) ofSold("barcode", [`${sold}.barcode`], ({ item }) => item.barcode);
    if (!this.#lacks.has("picture")) this.#shots(ofProduct);
    if (this.chance(40)) {
      const { yes, no } = vocabularies[this.tongue];
      const [on, off] = this.pick([
        [yes, no],
        ["1", "0"],
        ["Y", "N"],
        [yes.toUpperCase(), no.toUpperCase()],
      ] as const);
      ofProduct("shown", ["product.shown"], ({ article }) => (article.isShown ? on : off));
    }
    if (this.chance(15))
      ofProduct("slug", [`product.slug@${this.tongue}`], ({ article }) =>
        `${article.key}-${article.good}`.toLowerCase().replaceAll(".", "-"),
      );
    if (kind === "flat" && this.chance(15)) {
      const keys = this.#articles.map(({ key }) => key);
      ofProduct("related", ["product.relations.to"], ({ article }) =>
        article.good % 3 === 0 ? [keys[0]!, keys[article.good + 1]!].join(", ") : "",
      );
    }
    const all = this.#shuffled(this.#withOthers(columns, rows));
    if ((kind === "flat" || kind === "grouped") && this.chance(20))
      return columnsAsDocument(
        "main",
        kind,
        all,
        rows.map(({ at }) => at === 0),
      );
    return this.#file("main", all);
  }

  #identities(columns: TrueColumn[], rows: readonly Row[]): void {
    const { kind } = this;
    const add = (about: About, truth: readonly string[], cell: (row: Row) => string, isOfSold = false) =>
      columns.push({ header: this.header(about), truth, cells: rows.map(cell), isOfSold });
    if (kind === "flat" || kind === "expanded") {
      add("article", ["product.key", "product.code"], ({ article }) => article.key);
      return;
    }
    if (kind === "own rows") {
      add("article", ["product.key"], ({ article, item, isOwn }) => (isOwn ? article.key : item.code));
      add("parent", ["shape"], ({ article, isOwn }) => (isOwn || article.sold.length === 1 ? "" : article.key));
      return;
    }
    add("group", ["product.key"], ({ article, at }) => (kind === "blank below" && at > 0 ? "" : article.key));
    add("article", ["variant.code"], ({ item }) => item.code, true);
  }

  #shelves(add: (about: About, truth: readonly string[], cell: (row: Row) => string, mark?: string) => unknown): void {
    if (this.#hasTree) return void add("category", ["product.categories"], ({ article }) => this.#nodeOf(article));
    const way = this.between(0, 3);
    if (way === 0) {
      add("category", ["product.categories"], ({ article }) => this.shelf(article)[0]);
      add("subcategory", ["product.categories"], ({ article }) => this.shelf(article)[1]);
    } else if (way === 1) {
      const separator = this.pick([" > ", "/", " / ", ">", "|"]);
      add("category", ["product.categories"], ({ article }) => this.shelf(article).join(separator));
    } else if (way === 2) add("category", ["product.categories"], ({ article }) => this.shelf(article)[1]);
  }

  #nodeOf({ shelf: [department, inner] }: Article): string {
    return `${department + 1}0${inner + 1}`;
  }

  /** What versions differ in. */
  #variation(columns: TrueColumn[], rows: readonly Row[]): void {
    const { kind } = this;
    if (kind === "flat") return;
    const [option, value] = this.pick([
      ["Option", "Value"],
      ["Merkmal", "Wert"],
      ["Attr", "Val"],
    ] as const);
    this.#axes.forEach(({ about }, at) => {
      const valueOf = ({ item }: Row) => item.values[at] ?? "";
      if (kind === "numbered") {
        const word = this.pick(headers[about][this.tongue]);
        columns.push(
          {
            header: `${option} ${at + 1}`,
            truth: ["axis name"],
            cells: rows.map((row) => (row.item.values.length > 0 ? word : "")),
            isOfSold: true,
          },
          { header: `${value} ${at + 1}`, truth: ["axis value"], cells: rows.map(valueOf), isOfSold: true },
        );
      } else if (kind === "expanded") {
        const separator = this.pick([", ", "; ", "|", "/"]);
        columns.push({
          header: this.header(about),
          truth: ["axis values"],
          cells: rows.map(({ article }) =>
            [...new Set(article.sold.map(({ values: own }) => own[at]!))].join(separator),
          ),
        });
      } else {
        const isMute = this.chance(12);
        columns.push({
          header: isMute ? `${this.pick(["Feld", "F", "Attr", "X"])}${at + 3}` : this.header(about),
          truth: ["axis value"],
          cells: rows.map((row) => (row.isOwn ? "" : valueOf(row))),
          isOfSold: true,
        });
      }
    });
  }

  #weight(columns: TrueColumn[], rows: readonly Row[], sold: string): void {
    const header = this.header("weight");
    const isInGrams = /\bg\b/i.test(header.replaceAll("_", " "));
    const cell = ({ weight }: SoldItem) => (isInGrams ? String(Math.round(weight * 1_000)) : this.amount(weight, 3));
    columns.push({
      header,
      truth: this.kind === "expanded" ? ["variant.weight", "product.weight"] : [`${sold}.weight`],
      cells: rows.map(({ item, isOwn }) => (isOwn ? "" : cell(item))),
      isOfSold: true,
    });
  }

  #shots(add: (about: About, truth: readonly string[], cell: (row: Row) => string, mark?: string) => unknown): void {
    const file = (article: Article, n: number) =>
      `${article.key.toLowerCase()}_${n}.${article.good % 4 === 0 ? "png" : "jpg"}`;
    const truth = ["product.pictures.file"];
    if (this.chance(35)) {
      const separator = this.pick([";", ", ", "|"]);
      add("picture", truth, ({ article }) =>
        [1, 2, 3]
          .slice(0, 1 + (article.good % 3))
          .map((n) => file(article, n))
          .join(separator),
      );
    } else {
      const count = this.between(1, 3);
      for (let n = 1; n <= count; n++)
        add(
          "picture",
          truth,
          ({ article }) => (n === 1 || article.good % 2 === 0 ? file(article, n) : ""),
          count === 1 ? "" : String(n),
        );
    }
  }

  /** Columns that no field takes: of the supplier's own house. */
  #withOthers(columns: readonly TrueColumn[], rows: readonly Row[]): TrueColumn[] {
    const own: readonly [About, (row: Row, at: number) => string][] = [
      ["customs", ({ article }) => `${9_400 + article.good}${1_000 + article.quality}`],
      ["origin", ({ article }) => ["PT", "PL", "IT", "DE"][article.good % 4]!],
      ["remark", (_, at) => (at % 7 === 0 ? "!!" : "")],
      ["changed", (_, at) => `${String(1 + (at % 28)).padStart(2, "0")}.0${1 + (at % 9)}.2026`],
      ["buyer", ({ article }) => ["KM", "TS", "BL"][article.good % 3]!],
      ["storage", (_, at) => `${"ABC"[at % 3]!}-${10 + (at % 40)}`],
    ];
    const others = own
      .filter(() => this.chance(18))
      .map(([about, cell]): TrueColumn => ({ header: this.header(about), truth: undefined, cells: rows.map(cell) }));
    return [...columns, ...others];
  }

  #shuffled(columns: readonly TrueColumn[]): TrueColumn[] {
    if (this.chance(60)) return [...columns];
    const left = [...columns];
    return columns.map(() => left.splice(this.between(0, left.length - 1), 1)[0]!);
  }

  #tree(): SupplyFile {
    const shelves = Object.entries(vocabularies[this.tongue].shelves);
    const nodes = shelves.flatMap(([name, inner], at) => [
      { key: `${at + 1}00`, name, above: "" },
      ...inner.map((one, place) => ({ key: `${at + 1}0${place + 1}`, name: one, above: `${at + 1}00` })),
    ]);
    const columns: TrueColumn[] = [
      { header: this.header("categoryCode"), truth: ["category.key"], cells: nodes.map(({ key }) => key) },
      {
        header: this.header("categoryName"),
        truth: [`category.name@${this.tongue}`],
        cells: nodes.map(({ name }) => name),
      },
      { header: this.header("above"), truth: ["category.parent"], cells: nodes.map(({ above }) => above) },
    ];
    if (this.chance(40))
      columns.push({
        header: this.header("sequence"),
        truth: ["category.position"],
        cells: nodes.map((_, at) => String(at + 1)),
      });
    return this.#file("tree", columns);
  }

  get #soldItems(): readonly SoldItem[] {
    return this.kind === "expanded"
      ? this.#articles.map(({ key, sold }) => ({ ...sold[0]!, code: key }))
      : this.#articles.flatMap(({ sold }) => sold);
  }
  /** Rows about what is sold: on products alone either word is right. */
  #either(field: string): string[] {
    return this.kind === "flat" || this.kind === "expanded"
      ? [`product.${field}`, `variant.${field}`]
      : [`variant.${field}`];
  }

  #prices(): SupplyFile {
    const items = this.#soldItems;
    const way = this.pick(["plain", "plain", "tiers", "groups"] as const);
    const code = { header: this.header("article"), truth: ["shape"] };
    if (way === "tiers") {
      const rows = items.flatMap((item, at) => [1, 10, ...(at % 3 === 0 ? [50] : [])].map((from) => ({ item, from })));
      return this.#file("prices", [
        { ...code, cells: rows.map(({ item }) => item.code) },
        { header: this.header("from"), truth: ["lane.quantityFrom"], cells: rows.map(({ from }) => String(from)) },
        {
          header: this.header("price"),
          truth: ["lane.amount"],
          cells: rows.map(({ item, from }) => this.amount(item.price * (from === 1 ? 1 : from === 10 ? 0.9 : 0.8))),
        },
      ]);
    }
    const columns: TrueColumn[] = [
      { ...code, cells: items.map((item) => item.code) },
      {
        header: this.header("price"),
        truth: this.#either("prices(price).amount"),
        cells: items.map(({ price }) => this.amount(price)),
      },
    ];
    if (way === "groups")
      columns.push({
        header: this.header("dealerPrice"),
        truth: this.#either("prices(price,customerGroup).amount"),
        cells: items.map(({ price }) => this.amount(price * 0.7)),
      });
    if (this.chance(35))
      columns.push({
        header: this.header("cost"),
        truth: this.#either("prices(cost).amount"),
        cells: items.map(({ price }) => this.amount(price * 0.5)),
      });
    if (this.chance(50))
      columns.splice(1, 0, { header: this.header("name"), truth: undefined, cells: this.#namesOf(items) });
    return this.#file("prices", columns);
  }

  /** The names of the products again, as lists repeat them to be read. */
  #namesOf(items: readonly SoldItem[]): string[] {
    return items.map(({ code }) => {
      const article = this.#articles.find(({ key, sold }) => key === code || sold.some((one) => one.code === code))!;
      return this.name(article);
    });
  }

  #stocks(): SupplyFile {
    const items = this.#soldItems;
    const code = { header: this.header("article"), truth: ["shape"], cells: items.map((item) => item.code) };
    if (this.chance(70))
      return this.#file("stock", [
        code,
        {
          header: this.header("stock"),
          truth: this.#either("stock.quantity"),
          cells: items.map(({ stock }) => String(stock)),
        },
      ]);
    const places = ["Elmsworth", "Korvik"];
    return this.#file("stock", [
      code,
      ...places.map((place, at): TrueColumn => ({
        header: `${this.header("stock")} ${place}`,
        truth: this.#either(`stock.quantity`),
        cells: items.map(({ stock }) => String(Math.max(0, stock - at * 20))),
      })),
    ]);
  }

  #pictures(): SupplyFile {
    const rows = this.#articles.flatMap((article) =>
      [1, 2].slice(0, 1 + (article.good % 2)).map((n) => ({ article, n })),
    );
    const columns: TrueColumn[] = [
      {
        header: this.header(
          this.kind === "flat" || this.kind === "expanded" || this.kind === "own rows" ? "article" : "group",
        ),
        truth: ["shape"],
        cells: rows.map(({ article }) => article.key),
      },
      {
        header: this.header("picture"),
        truth: ["product.pictures.file", "lane.file"],
        cells: rows.map(({ article, n }) => `${article.key.toLowerCase()}-${n}.jpg`),
      },
    ];
    if (this.chance(40))
      columns.push({
        header: this.header("sequence"),
        truth: ["product.pictures.position", "lane.position"],
        cells: rows.map(({ n }) => String(n)),
      });
    return this.#file("pictures", columns);
  }

  #texts(tongue: Tongue): SupplyFile {
    const isOfGroups = this.kind !== "flat" && this.kind !== "expanded" && this.kind !== "own rows";
    return this.#file(`texts-${this.pick([tongue, tongue.toUpperCase()])}`, [
      {
        header: this.header(isOfGroups ? "group" : "article"),
        truth: ["shape"],
        cells: this.#articles.map(({ key }) => key),
      },
      {
        header: this.header("name", "", this.pick([tongue, this.tongue])),
        truth: [`product.name@${tongue}`],
        cells: this.#articles.map((one) => this.name(one, tongue)),
      },
      {
        header: this.header("text", "", this.pick([tongue, this.tongue])),
        truth: [`product.description@${tongue}`],
        cells: this.#articles.map((one) => this.text(one, tongue)),
      },
    ]);
  }

  /** Sets that are sold as one, of what is sold anyway. */
  #sets(): SupplyFile {
    const items = this.#soldItems;
    const rows = [0, 1, 2, 3].flatMap((set) =>
      [1, 2, 3]
        .slice(0, 2 + (set % 2))
        .map((n) => ({ set: `SET-${set + 1}`, part: items[(set * 3 + n) % items.length]!, n })),
    );
    return this.#file("sets", [
      {
        header: this.header("article"),
        truth: ["product.key", "product.code", "shape"],
        cells: rows.map(({ set }) => set),
      },
      {
        header: this.header("part"),
        truth: ["product.components.variant", "lane.variant"],
        cells: rows.map(({ part }) => part.code),
      },
      {
        header: this.header("pieces"),
        truth: ["product.components.quantity", "lane.quantity"],
        cells: rows.map(({ n }) => String(n)),
      },
    ]);
  }

  #file(part: string, columns: readonly TrueColumn[]): SupplyFile {
    return columnsAsFile(part, this.kind, columns, {
      isWorkbook: this.chance(15),
      delimiter: this.#point === "," ? this.pick([";", ";", "\t"]) : this.pick([",", ";", "\t"]),
      note: this.chance(12) ? `${this.pick(brands)} 2026` : undefined,
      hasMark: this.chance(20),
      strayAt: this.chance(20) ? this.between(1, 8) : undefined,
    });
  }
}

interface Row {
  readonly article: Article;
  readonly item: SoldItem;
  readonly at: number;
  /** The product's own row, where it has one. */
  readonly isOwn: boolean;
}

function combine(lists: readonly (readonly string[])[]): string[][] {
  return lists.reduce<string[][]>((made, list) => made.flatMap((one) => list.map((value) => [...one, value])), [[]]);
}

/** An EAN with its check digit. */
function barcode(serial: number): string {
  const digits = `400${String(serial).padStart(9, "0")}`;
  const sum = [...digits].reduce((all, digit, at) => all + Number(digit) * (at % 2 === 0 ? 1 : 3), 0);
  return `${digits}${(10 - (sum % 10)) % 10}`;
}

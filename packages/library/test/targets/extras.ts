/** What a target may say besides its files: each changes a draft of a target. */

import type { Binding, Given } from "../layouts/feature.js";
import { valuesOf } from "./rules.js";

export interface DraftTarget {
  readonly files: Record<string, Record<string, unknown>>;
  imports: Record<string, unknown>[];
  rest: Record<string, unknown>;
  /** Headers of the file of goods, with whether they are of a lane. */
  readonly headers: readonly string[];
  /** Headers of columns that tell what a row is. */
  readonly telling: readonly string[];
}

/** Without those that are numbered or listed. */
const plainHeaders = ({ headers }: DraftTarget) => headers.filter((header) => !header.includes("{"));

/** How it tells the ids of its goods. */
const ids = {
  layout: "ids",
  rows: { each: "product" },
  columns: { No: "product.id", Item: "product.key" },
};

/** Words of a layout, otherwise. */
const replaced = (layout: unknown, pairs: readonly (readonly [string, string])[]): unknown =>
  JSON.parse(pairs.reduce((text, [from, to]) => text.replaceAll(from, to), JSON.stringify(layout)));

type Extra = (draft: DraftTarget, way: number) => void;

const goods = ({ files }: DraftTarget) => files["goods"]!;

/** A column of what tells entries of a list apart. */
const tellingApart = /\.(?:type|from|language|quantityFrom)"/;

export const extras: Readonly<Record<string, Extra>> = {
  "limit of products": (draft, way) => {
    goods(draft)["limits"] = { products: 1 + (way % 3) };
  },
  "limit of bytes": (draft, way) => {
    // How long a workbook becomes is known when it is written.
    const isText = "csv" in (goods(draft)["layout"] as { readonly format: Given }).format;
    goods(draft)["limits"] = { bytes: isText ? 400 + way * 100 : 8_000_000 };
  },
  "recommended axes": (draft, way) => {
    goods(draft)["limits"] = { "axes recommended": 1 + (way % 2) };
  },
  "must have": (draft, way) => {
    goods(draft)["must have"] = [plainHeaders(draft)[way % plainHeaders(draft).length]!];
  },
  "manual steps": (draft) => {
    draft.rest["before"] = [{ title: "Close the shop", why: "No order comes in meanwhile." }];
    draft.rest["after"] = [{ title: "Open the shop", why: "All is there." }];
  },
  visible: (draft, way) => {
    draft.rest["visible"] = [
      [
        { field: "shown", is: "true", otherwise: "it is not shown" },
        { field: "brand", filled: true, otherwise: "it has no brand" },
        { "variant field": "prices(price).amount", above: "0", otherwise: "it has no price" },
        { in: "categories", all: "shown", otherwise: "its shelf is hidden" },
      ][way % 4]!,
    ];
  },
  endpoints: (draft) => {
    goods(draft)["endpoint"] = "/in/goods";
    const own = draft.imports.find(({ file }) => file === "goods");
    if (own) own["endpoint"] = "/in/goods/now";
  },
  "named import": (draft) => {
    const own = draft.imports.find(({ file }) => file === "goods");
    if (own) Object.assign(own, { name: "all goods", why: "They come last." });
  },
  "columns later": (draft, way) => {
    const at = draft.imports.findIndex(({ file }) => file === "goods");
    const [first, ...others] = plainHeaders(draft);
    const late = others[way % Math.max(1, others.length)];
    if (first === undefined || late === undefined || draft.headers.includes("Code")) return;
    // Columns that are known by their letters cannot be left out.
    if (draft.headers.every((header) => /^[A-Z]$/.test(header))) return;
    const told = draft.telling.filter((one) => one !== late);
    const columns = [...told, ...draft.headers.filter((one) => one !== late && !told.includes(one))];
    draft.imports.splice(
      at,
      1,
      { file: "goods", columns, ...(draft.imports[at]?.["mode"] === "update" ? { mode: "update" } : {}) },
      { file: "goods", name: "the rest", mode: "update", columns: [...new Set([...told, first, late])] },
    );
  },
  "two files of goods": (draft, way) => {
    const at = draft.imports.findIndex(({ file }) => file === "goods");
    draft.files["heavy"] = { ...goods(draft) };
    const condition = ["position > 3", "weight > 10", "size(name.en) > 3", "shown"][way % 4]!;
    draft.imports.splice(at, 1, { file: "heavy", for: condition }, { file: "goods" });
  },
  ids: (draft, way) => {
    goods(draft)["ids"] =
      way % 2 === 0
        ? { told: "report" }
        : { told: "export", export: "/exports/goods", "matched by": ["key"], layout: ids };
  },
  exports: (draft) => {
    draft.rest["exports"] = { "all goods": { layouts: [ids] } };
  },
  mirror: (draft) => {
    const own = draft.imports.find(({ file, mode }) => file === "goods" && mode === undefined);
    if (own) own["mode"] = "mirror";
  },
  deleting: (draft, way) => {
    const kind = ["product", "variant", "category", "brand"][way % 4]!;
    // Brands that only names make have no keys that the platform would know.
    const named: Readonly<Record<string, string>> = { variant: "variant.code", brand: "brand.name@en" };
    const columns = { Gone: named[kind] ?? `${kind}.key` };
    draft.files["gone"] = { layout: { layout: "gone", rows: { each: kind }, columns } };
    draft.imports.push({ file: "gone", mode: "delete" });
    if (way < 8) return;
    draft.files["brands-gone"] = {
      layout: { layout: "gone", rows: { each: "brand" }, columns: { Gone: "brand.name@en" } },
    };
    if (kind !== "brand") draft.imports.unshift({ file: "brands-gone", mode: "delete" });
  },
  "entry key": (draft, way) => {
    const { columns, rows, lanes = {} } = goods(draft)["layout"] as Readonly<Record<string, Given>>;
    if (rows?.["found by"] === undefined) return;
    const own = Object.entries(columns ?? {}).flatMap(([header, binding]) =>
      Object.keys(lanes).some((lane) => JSON.stringify(binding).includes(`"${lane}.`)) ? [header] : [],
    );
    // What tells the entries of each list apart.
    const key = Object.keys(lanes).flatMap((lane) => {
      const ofLane = own.filter(
        (header) =>
          tellingApart.test(JSON.stringify(columns?.[header])) &&
          JSON.stringify(columns?.[header]).includes(`"${lane}.`),
      );
      return ofLane.length === 0 ? [] : [ofLane[way % ofLane.length]];
    });
    if (key.length > 0) goods(draft)["entry key"] = key;
  },
  "file a language": ({ files }) => {
    const german = files["german-texts"];
    if (!german) return;
    german["languages"] = ["de"];
    german["layout"] = replaced(german["layout"], [
      ['"language":"de"', '"language":"{lang}"'],
      ['@de"', '@{lang}"'],
    ]);
  },
  "languages of the account": (draft) => {
    draft.rest["settings"] = {
      tongues: {
        choices: ["both", "one"],
        preset: "both",
        languages: { both: ["en", "de"], one: ["en"] },
      },
    };
    goods(draft)["layout"] = replaced(goods(draft)["layout"], [['@en"', '@{main}"']]);
  },
  "each kind": ({ files }) => {
    const first = files["before-1"];
    const kind = (first?.["layout"] as { readonly rows: { readonly each: string } } | undefined)?.rows.each;
    if (!first || kind === undefined || kind === "variant" || kind === "product") return;
    first["each"] = [kind];
    first["layout"] = replaced(first["layout"], [
      [`"each":"${kind}"`, '"each":"{kind}"'],
      [`"${kind}.`, '"{kind}.'],
    ]);
  },
  inherit: (draft, way) => {
    const column = plainHeaders(draft).at(-1 - (way % 3));
    const { columns } = goods(draft)["layout"] as { readonly columns: Readonly<Record<string, Binding>> };
    const choices = valuesOf(columns[column ?? ""] ?? "");
    draft.rest["settings"] = { tax: { choices, preset: choices[0] } };
    const rules = (goods(draft)["columns"] ?? {}) as Record<string, Given>;
    if (column !== undefined) rules[column] = { ...rules[column], blank: "inherit", inherits: "tax" };
  },
  setting: (draft, way) => {
    const column = plainHeaders(draft).at(-1 - (way % 2)) ?? "Key";
    draft.rest["settings"] = {
      wording: {
        choices: ["old", "new"],
        preset: way % 2 === 0 ? "old" : "new",
        renames: { new: { [column]: `${column} (new)` } },
      },
    };
  },
};

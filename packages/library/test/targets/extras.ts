/** What a target may say besides its files: each changes a draft of a target. */

import type { Given } from "../layouts/feature.js";

export interface DraftTarget {
  readonly files: Record<string, Record<string, unknown>>;
  imports: Record<string, unknown>[];
  rest: Record<string, unknown>;
  /** Headers of the file of goods, with whether they are of a lane. */
  readonly headers: readonly string[];
}

/** Without those that are numbered or listed. */
const plainHeaders = ({ headers }: DraftTarget) => headers.filter((header) => !header.includes("{"));

type Extra = (draft: DraftTarget, way: number) => void;

const goods = ({ files }: DraftTarget) => files["goods"]!;

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
    const columns = draft.headers.filter((one) => one !== late);
    draft.imports.splice(
      at,
      1,
      { file: "goods", columns },
      { file: "goods", name: "the rest", mode: "update", columns: [first, late] },
    );
  },
  "two files of goods": (draft, way) => {
    const at = draft.imports.findIndex(({ file }) => file === "goods");
    draft.files["heavy"] = { ...goods(draft) };
    const condition = ["position > 3", "weight > 10", "size(name.en) > 3", "shown"][way % 4]!;
    draft.imports.splice(at, 1, { file: "heavy", for: condition }, { file: "goods" });
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

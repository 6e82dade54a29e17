/** How generated layouts lay rows down: the shapes, each with the formats that it stands in. */

import type { Given, Place } from "./feature.js";

export interface Form {
  readonly rows: Given;
  readonly format: Given;
  /** Whether rows are of variants in products. */
  readonly hasVersions: boolean;
  /** Whether a row lists the values, for a variant of every combination. */
  readonly isExpanded: boolean;
  readonly isDocument: boolean;
  readonly headerOf: (place: Place, name: string) => string;
  /** The rows of a lane. @param of whose entries it holds. */
  readonly laneOf: (place: Place, of: "parent" | "child") => Given;
  readonly header?: Given | "none";
  readonly modelRow?: Given;
  /** Headers that are filled down. */
  readonly filledDown?: readonly string[];
}

/** What of a sheet may differ whatever its rows are. */
export interface SheetStyle {
  readonly format: number;
  readonly header: number;
  readonly runs: boolean;
}

const versions = { each: "variant", of: "product" };
const marker = { column: "Type", parent: "P", child: "V" };
const sheetRows = {
  flat: { each: "product" },
  grouped: { ...versions, "grouped by": "Key" },
  "grouped, every row": { ...versions, "grouped by": "Key", "shared cells": "every row" },
  scattered: { ...versions, "grouped by": "Key", groups: "scattered" },
  "own row, following": { ...versions, "shared cells": "own row", marker, "joined by": "following" },
  "own row, by key": { ...versions, "shared cells": "own row", marker, "joined by": { column: "Word", names: "key" } },
  "own row, by line": {
    ...versions,
    "shared cells": "own row",
    marker,
    "joined by": { column: "Word", names: "line" },
  },
  expanded: { ...versions, expanded: {} },
  "own row, no marker": { ...versions, "shared cells": "own row", "joined by": { column: "Word", names: "key" } },
} as const satisfies Record<string, Given>;

const documents = ["document", "document of versions", "document, versions in lists"] as const;
export const shapeNames = [...(Object.keys(sheetRows) as (keyof typeof sheetRows)[]), ...documents] as const;
export type ShapeName = (typeof shapeNames)[number];

const sheetFormats: readonly Given[] = [
  { csv: { delimiter: ";" } },
  { csv: { delimiter: ",", "line end": "lf" } },
  { csv: { delimiter: "\t", encoding: "utf-16le", mark: true } },
  { csv: { delimiter: "|", quote: "'" } },
  { csv: { delimiter: ",", encoding: "windows-1252" } },
  { csv: { delimiter: ";", quote: "none" } },
  { csv: { delimiter: ";", formulas: "neutralise" } },
  { workbook: {} },
  { workbook: { kind: "ods", sheet: "Goods" } },
];

export function formOf(name: ShapeName, style: SheetStyle): Form {
  if (name in sheetRows) return sheetForm(name as keyof typeof sheetRows, style);
  const versionsAt = name === "document" ? undefined : name === "document of versions" ? "flat" : "deep";
  return style.format % 2 === 0 ? xmlForm(versionsAt, style) : jsonForm(versionsAt, style);
}

function sheetForm(name: keyof typeof sheetRows, { format, header, runs }: SheetStyle): Form {
  const rows = sheetRows[name];
  const continued = "marker" in rows ? ["Key", "Type", "Code"] : ["Key", "Code", "Word"];
  const isAlone = name === "flat" || name === "expanded";
  const own = [...("joined by" in rows && rows["joined by"] !== "following" ? ["Word"] : []), ...continued];
  const has = (column: string) => column !== "Word" || ("joined by" in rows && rows["joined by"] !== "following");
  return {
    rows,
    format: sheetFormats[format % sheetFormats.length]!,
    hasVersions: name !== "flat",
    isExpanded: name === "expanded",
    isDocument: false,
    headerOf: (_, one) => one,
    laneOf: (_, of) => ({
      "continued when blank": [...new Set(own)].filter(has).filter((one) => one !== "Code" || !isAlone),
      ...(of === "parent" && runs && !isAlone ? { runs: "on rows of its own" } : {}),
    }),
    ...([{}, {}, { header: { line: 3, notes: ["Prices", "of our range"] } }][header % 3] ?? {}),
    ...(header % 5 === 1 ? { modelRow: { column: "Name of none", is: "Model" } } : {}),
    ...(header % 5 === 2 && !("marker" in rows || "joined by" in rows) ? { filledDown: ["Key"] } : {}),
  };
}

function xmlForm(versionsAt: "flat" | "deep" | undefined, { header }: SheetStyle): Form {
  const child = versionsAt === "deep" ? "looks/look/version" : "versions/version";
  const attribute = header % 2 === 0;
  return {
    rows: {
      ...(versionsAt ? { ...versions, "child element": child } : { each: "product" }),
      element: header % 3 === 0 ? "/shop/goods/item" : "/shop/item",
    },
    format: { xml: {} },
    hasVersions: versionsAt !== undefined,
    isExpanded: false,
    isDocument: true,
    headerOf(place, name) {
      const last = attribute && /^(Key|Code|From|W)$/.test(name) ? `@${name}` : name;
      if (place === "block") return last;
      return `${place === "child" ? child : elementOf(place, child)}/${last}`;
    },
    laneOf: (place) => ({ element: elementOf(place, child) }),
  };
  function elementOf(place: Place, inner: string): string {
    const [of, lane] = place.split(":");
    return of === "child" ? `${inner}/${lane}` : `all-${lane}/${lane}`;
  }
}

function jsonForm(versionsAt: "flat" | "deep" | undefined, { header }: SheetStyle): Form {
  const child = versionsAt === "deep" ? "/looks/versions" : "/versions";
  return {
    rows: {
      ...(versionsAt ? { ...versions, "child element": child } : { each: "product" }),
      element: ["/shop/goods", "/items", ""][header % 3],
    },
    format: { json: [{}, { envelope: { "/made": "by hand" } }, { lines: true }][header % 3] },
    hasVersions: versionsAt !== undefined,
    isExpanded: false,
    isDocument: true,
    headerOf(place, name) {
      if (place === "block") return header % 2 === 0 ? `/${name}` : `/own/${name}`;
      return `${place === "child" ? child : elementOf(place)}/${name}`;
    },
    laneOf: (place) => ({ element: elementOf(place) }),
  };
  function elementOf(place: Place): string {
    const [of, lane] = place.split(":");
    return of === "child" ? `${child}/${lane}` : `/${lane}`;
  }
}

/** Small projects in memory: sources and layouts as text, targets by name, an upload folder as a map. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import {
  failure,
  success,
  finding,
  Findings,
  plainRecords,
  type FilesPort,
  type Finding,
  type Layout,
  type PlainRecord,
  type ResolvedCatalogue,
  type TargetView,
  type Target,
  type UploadSink,
} from "#src/index.js";
import {
  asTargetView,
  Catalogue,
  checkCatalogue,
  CodeIndex,
  compileLayout,
  Kinds,
  parseGiven,
  parseTarget,
  readSource,
  resolveReferences,
} from "#src/parts.js";
import { givenLayout } from "#src/schemas.js";

export const kinds = new Kinds();
export const pennywortText = readFileSync(new URL("../../targets/pennywort.yaml", import.meta.url), "utf8");

export function pennywort(change: (text: string) => string = (text) => text): Target {
  const findings = new Findings();
  const target = findings.took(parseTarget(change(pennywortText), "pennywort.yaml", kinds));
  assert.deepEqual(findings.list(), []);
  return target!;
}

export function layoutOf(yaml: string, findings = new Findings()): Layout {
  const given = findings.took(parseGiven(yaml, "layout.yaml", givenLayout));
  const layout = given && findings.took(compileLayout(given.value, given.at, kinds));
  assert.ok(
    layout,
    `the layout has mistakes: ${codes(findings.list()).join()} ${JSON.stringify(findings.list()[0]?.facts)}`,
  );
  return layout;
}

export const bytesOf = async function* (text: string | Uint8Array, size = 1 << 16): AsyncGenerator<Uint8Array> {
  const bytes = typeof text === "string" ? new TextEncoder().encode(text) : text;
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
};

export function filesOf(files: Readonly<Record<string, string | Uint8Array>>): FilesPort {
  return {
    read: (path) => {
      const content = files[path];
      return Promise.resolve(
        content === undefined ? failure(finding("read/missing-file", {}, { file: path })) : success(bytesOf(content)),
      );
    },
    list: () => Promise.resolve(Object.keys(files).map((name) => ({ name, bytes: files[name]!.length }))),
  };
}

export interface Given {
  readonly file?: string;
  readonly layout: string | Layout;
  readonly csv: string | Uint8Array;
}

/** Reads sources into one catalogue and resolves it. */
export async function read(
  sources: readonly Given[],
  findings = new Findings(),
): Promise<{ catalogue: TargetView; findings: Findings }> {
  const unresolved = new Catalogue(kinds);
  for (const [at, { file = `source${at > 0 ? at + 1 : ""}.csv`, layout, csv }] of sources.entries()) {
    const compiled = typeof layout === "string" ? layoutOf(layout) : layout;
    await readSource({ file, layout: compiled }, unresolved, filesOf({ [file]: csv }), findings);
  }
  return { catalogue: asTargetView(resolveReferences(unresolved, findings).catalogue), findings };
}

/** Reads, resolves and checks. */
export async function check(
  sources: readonly Given[],
  pictures?: readonly string[],
  languages: readonly string[] = [],
): Promise<{ catalogue: TargetView; findings: Findings; list: readonly Finding[] }> {
  const { catalogue, findings } = await read(sources);
  const codes = new CodeIndex(catalogue);
  checkCatalogue({ catalogue, codes, pictures: pictures && new Set(pictures), languages, findings });
  return { catalogue, findings, list: findings.list() };
}

export const codes = (list: readonly Finding[]): string[] => list.map((one) => one.code);
export const those = (list: readonly Finding[], code: string): readonly Finding[] =>
  list.filter((one) => one.code === code);

/** The one finding of a code; fails if there is another number of them. */
export function one(list: readonly Finding[], code: string): Finding {
  const found = those(list, code);
  assert.equal(found.length, 1, `${code}: ${found.length}; there are ${codes(list).join(", ")}`);
  return found[0]!;
}

/** An upload folder in memory. */
export function memorySink(): UploadSink & {
  readonly files: Record<string, Uint8Array>;
  state: "open" | "finished" | "discarded";
} {
  const files: Record<string, Uint8Array> = {};
  const sink = {
    files,
    state: "open" as "open" | "finished" | "discarded",
    write: (name: string, chunks: Iterable<Uint8Array>) => {
      files[name] = Buffer.concat([...chunks]);
      return Promise.resolve();
    },
    read: (name: string) => filesOf(files).read(name),
    finish: () => {
      sink.state = "finished";
      return Promise.resolve();
    },
    discard: () => {
      sink.state = "discarded";
      for (const name of Object.keys(files)) delete files[name];
      return Promise.resolve();
    },
  };
  return sink;
}

/** A range with variants: S2, German names, numbered axes, tiers, relations. Small enough to write sources for by hand. */
export const rangeLayout = `
layout: range
format: { csv: { delimiter: ";" } }
rows: { each: variant, of: product, grouped by: Range, shared cells: first row }
lanes:
  tiers: { entries: variant.prices, with: { role: price }, continued when blank: [Range, No] }
numbered: 2
columns:
  Range: product.key
  No: variant.code
  Name: product.name@en
  Bezeichnung: product.name@de
  Shelf: { field: product.categories, as: { list: "; ", of: { path: " / ", by: name@en } }, missing: create }
  Feature {n}: { axis: "{n}", holds: name@en }
  Feature {n} is: { axis: "{n}", holds: value@en }
  Price: { field: variant.prices(price).amount, as: { decimal: ",", sign: € } }
  From: { field: tiers.quantityFrom, as: integer }
  Tier: { field: tiers.amount, as: { decimal: "," } }
  Stock: { field: variant.stock.quantity, as: integer }
  EAN: variant.barcode
  Photos: { field: product.pictures.file, as: { list: ", " } }
  Goes with: { field: product.relations(goes-with).to, as: { list: ", ", of: { by: code } } }
  Web: { field: product.shown, as: { code words: { yes: true, no: false } } }
`;

const rangeHeader = [
  "Range",
  "No",
  "Name",
  "Bezeichnung",
  "Shelf",
  "Feature 1",
  "Feature 1 is",
  "Feature 2",
  "Feature 2 is",
  "Price",
  "From",
  "Tier",
  "Stock",
  "EAN",
  "Photos",
  "Goes with",
  "Web",
];

/** CSV for `rangeLayout`, from the cells that matter. */
export function rangeCsv(...rows: readonly Readonly<Record<string, string>>[]): string {
  for (const row of rows) for (const header of Object.keys(row)) assert.ok(rangeHeader.includes(header), header);
  const quote = (cell: string) => (/[;"\n\r]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
  return [rangeHeader, ...rows.map((row) => rangeHeader.map((header) => quote(row[header] ?? "")))]
    .map((cells) => cells.join(";"))
    .join("\n");
}

export const single = (key: string, cells: Readonly<Record<string, string>> = {}): Record<string, string> => ({
  Range: key,
  No: `C-${key}`,
  Name: key,
  Price: "1,00",
  ...cells,
});

/** A record of a catalogue by its key, as plain values. */
export const recordIn = (catalogue: ResolvedCatalogue, kind: string, key: string): PlainRecord | undefined =>
  plainRecords(catalogue).find((one) => one.kind === kind && one.key === key);
/** A field of the first entry with a role. */
export const entryText = (
  record: PlainRecord | undefined,
  list: string,
  field: string,
  role?: string,
): string | undefined =>
  record?.entries[list]?.find(({ texts }) => role === undefined || texts["role"] === role)?.texts[field];

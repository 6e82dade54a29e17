/** One generated case, the whole way: written by its layouts, read again, compared. */

import assert from "node:assert/strict";
import { Findings, type Finding, type Layout, type ResolvedCatalogue } from "#src/index.js";
import {
  Catalogue,
  compileLayout,
  parseGiven,
  readSources,
  resolveReferences,
  writeLayout,
  writtenKind,
} from "#src/parts.js";
import { givenLayout } from "#src/schemas.js";
import { sorted } from "../shops.js";
import { filesOf, kinds } from "../support.js";
import { generate, textOf, type Drawn, type Generated } from "./generate.js";
import type { Given, PlainSheet } from "./feature.js";

/** What became of a case: carried, or why it was refused. */
export interface Outcome {
  readonly generated: Generated;
  readonly became: "carried" | "refused at load" | "refused when written";
  readonly why: readonly string[];
}

const serious = (findings: Findings): readonly Finding[] =>
  findings.list().filter(({ severity }) => severity !== "note");

const shownAs = ({ code, facts }: Finding): string => `${code} ${JSON.stringify(facts)}`;

function compiled(given: Given, findings: Findings) {
  const parsed = findings.took(parseGiven(JSON.stringify(given), "layout.yaml", givenLayout));
  return parsed && findings.took(compileLayout(parsed.value, parsed.at, kinds));
}

type Bytes = Uint8Array | string;
async function readAll(
  sheets: readonly { readonly layout: Given; readonly bytes: Bytes; readonly translates?: boolean }[],
  findings: Findings,
) {
  const catalogue = new Catalogue(kinds);
  const files = Object.fromEntries(sheets.map(({ bytes }, at) => [`f${at}`, bytes]));
  const sources = sheets.map(({ layout, translates = false }, at) => {
    const one = compiled(layout, findings);
    assert.ok(one, JSON.stringify(findings.list()));
    return { file: `f${at}`, layout: one, translates };
  });
  const read = await readSources(sources, catalogue, filesOf(files), findings);
  return { catalogue: resolveReferences(catalogue, findings).catalogue, read };
}

const plainOf = ({ layout, rows }: PlainSheet) => ({ layout, bytes: textOf({ layout, rows }) });

/** @throws where what is read differs from what was written, or a cell is not accounted for. */
export async function carry(drawn: Drawn): Promise<Outcome> {
  const generated = generate(drawn);
  const said = new Findings();
  const { catalogue } = await readAll(generated.plain.map(plainOf), said);
  // A sheet of a feature may have nothing to say, as may a layout that only adds to records.
  const isNothing = ({ code }: Finding) =>
    code === "read/header-only" || code === "read/empty-file" || code === "read/no-element";
  const wrong = serious(said).filter((one) => !isNothing(one));
  assert.deepEqual(wrong, [], `the plain sheets: ${JSON.stringify(wrong)} ${JSON.stringify(generated.plain)}`);
  const loading = new Findings();
  const layouts = generated.layouts.map((one) => compiled(one, loading));
  const refused = (findings: Findings) => serious(findings).map(shownAs);
  if (layouts.includes(undefined) || serious(loading).length > 0)
    return { generated, became: "refused at load", why: refused(loading) };
  const writing = new Findings();
  const written: Bytes[] = [];
  for (const layout of layouts) written.push(await bytesOf(catalogue, layout!, writing));
  if (writing.list().length > 0) return { generated, became: "refused when written", why: refused(writing) };
  const again = new Findings();
  const sheets = generated.layouts.map((layout, at) => ({ layout, bytes: written[at]!, translates: at > 0 }));
  const { catalogue: back, read } = await readAll([...generated.before.map(plainOf), ...sheets], again);
  const shown = () =>
    `${generated.layouts.map((one) => JSON.stringify(one)).join("\n")}\n${written.map((one) => Buffer.from(one).toString()).join("\n")}`;
  const found = serious(again).flatMap((one) => (isNothing(one) ? [] : [shownAs(one)]));
  assert.deepEqual(found, [], `read with findings: ${found.join(" ")}\n${shown()}`);
  const differs = difference(sorted(catalogue), sorted(back));
  assert.equal(differs, "", `${differs}\n${shown()}`);
  for (const { cells } of read) {
    const byRule = Object.values(cells.byRule).reduce((sum, one) => sum + one, 0);
    const wanted = { ...cells, filled: cells.inRecords + byRule, inFindings: 0 };
    assert.deepEqual(cells, wanted, `cells that are not accounted for: ${JSON.stringify(cells)}\n${shown()}`);
  }
  return { generated, became: "carried", why: [] };
}

async function bytesOf(catalogue: ResolvedCatalogue, layout: Layout, findings: Findings): Promise<Uint8Array> {
  const records = Array.from({ length: catalogue.table(writtenKind(layout, catalogue)).size }, (_, row) => row);
  return Buffer.concat([...(await writeLayout(catalogue, layout, { records }, findings))]);
}

/** The first lines that only one of them has. */
function difference(wanted: readonly string[], got: readonly string[]): string {
  const [has, had] = [new Set(got), new Set(wanted)];
  const lost = wanted.filter((one) => !has.has(one));
  const made = got.filter((one) => !had.has(one));
  return lost.length + made.length === 0
    ? ""
    : `lost: ${lost.slice(0, 3).join(" ¦ ")}; made: ${made.slice(0, 3).join(" ¦ ")}`;
}

/** What a target has no place for, and what it asks of cells in parts: known before anything is written. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { Findings, type Target } from "#src/index.js";
import { parseTarget, prepareBuild } from "#src/parts.js";
import { codes, kinds, one, pennywort, pennywortText, read, those } from "./support.js";

const shipped = (name: string): Target => {
  const findings = new Findings();
  const text = readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8");
  const target = findings.took(parseTarget(text, name, kinds));
  assert.deepEqual(findings.list(), []);
  return target!;
};

const sources = [
  {
    layout: `
layout: range
format: { csv: { delimiter: ";" } }
rows: { each: product }
columns:
  Key: product.key
  Code: product.code
  Name: product.name@en
  Price: product.prices(price).amount
  Options: { field: product.optionGroups, as: { list: ",", of: { by: key } } }
  Parts: { field: product.components, as: { list: " + ", of: { quantity: x, holds: [quantity, variant] } } }
`,
    csv: "Key;Code;Name;Price;Options;Parts\na;A;A;1.00;g;\nb;B;B;2.00;;0xA\n",
  },
  {
    layout:
      'layout: options\nformat: { csv: { delimiter: ";" } }\nrows: { each: choice, of: option-group, grouped by: Group, shared cells: every row }\ncolumns:\n  Group: option-group.key\n  Title: option-group.name@en\n  Must: { field: option-group.required, as: { code words: { yes: true, no: false } } }\n  Choice: choice.key\n  Says: choice.name@en\n',
    csv: "Group;Title;Must;Choice;Says\ng;Branding;no;own;Own text\n",
  },
  {
    layout:
      'layout: sets\nformat: { csv: { delimiter: ";" } }\nrows: { each: assortment }\ncolumns:\n  Key: assortment.key\n  Rule: assortment.rule\n',
    csv: "Key;Rule\nnew;true\n",
  },
];

async function prepared(target: Target) {
  const { catalogue } = await read(sources);
  const findings = new Findings();
  findings.took(
    prepareBuild({ catalogue, target, holdBack: false, despite: new Set(), pictureNames: [], found: new Findings() }),
  );
  return findings.list();
}

test("states for kinds, fields, references and entries that a target has no place for them", async () => {
  const list = await prepared(pennywort());
  const kindsLost = those(list, "target/uncarried-kind").map((each) => (each.facts as { kind: string }).kind);
  assert.deepEqual(kindsLost, ["option-group", "choice", "assortment"]);
  const fields = those(list, "target/uncarried").map((each) => (each.facts as { field: string }).field);
  for (const field of ["product.optionGroups", "product.components.quantity"])
    assert.ok(fields.includes(field), `${field} is not among ${fields.join(", ")}`);
});

test("says where a cell in parts lacks a part, or has a quantity below the least", async () => {
  const list = await prepared(shipped("tollgate"));
  const missing = those(list, "target/part-missing");
  const columnsOf = (found: typeof missing) => found.map(({ facts }) => (facts as { column: string }).column);
  assert.deepEqual(columnsOf(missing), ["Options/choice/surcharge"]);
  const low = those(list, "target/out-of-range");
  assert.deepEqual(columnsOf(low), ["Parts/quantity"]);
  assert.ok(
    [...missing, ...low].every(({ at }) => at?.line !== undefined),
    "each at the line of its source",
  );
  assert.equal(one(list, "target/uncarried-kind").code, "target/uncarried-kind");
  assert.ok(!codes(list).includes("plan/no-order"));
});

const withStockSetting = pennywortText.replace(
  "files:\n",
  "settings:\n  stock: { choices: [kept, not kept], preset: kept, drops: { not kept: [Stock] }, renames: { kept: { Barcode: GTIN } } }\nfiles:\n",
);

test("leaves out, or calls otherwise, the columns that the account's settings drop or rename", () => {
  const columnsWith = (settings: Record<string, string>) => {
    const findings = new Findings();
    const target = findings.took(parseTarget(withStockSetting, "p.yaml", kinds, { settings, at: undefined }));
    assert.deepEqual(findings.list(), []);
    return target!.files.get("items")!.layout.columns.map((column) => column.header);
  };
  const kept = columnsWith({});
  assert.ok(kept.includes("Stock") && kept.includes("GTIN") && !kept.includes("Barcode"));
  const not = columnsWith({ stock: "not kept" });
  assert.ok(!not.includes("Stock") && not.includes("Barcode"));
});

test("says a setting that there is not, and a value that it does not take", () => {
  for (const settings of [{ stocks: "kept" }, { stock: "keep" }]) {
    const findings = new Findings();
    assert.equal(
      findings.took(parseTarget(withStockSetting, "p.yaml", kinds, { settings, at: { file: "project.yaml" } })),
      undefined,
    );
    const mistake = one(findings.list(), "project/mistake");
    assert.equal(mistake.at?.file, "project.yaml");
    assert.ok((mistake.facts as { nearest: string | undefined }).nearest);
  }
});

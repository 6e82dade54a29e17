/** Findings about names before anything is uploaded: nothing makes them, they come too late, or lead to the record itself. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, planUpload, rehearse, valueOf, type Finding } from "#src/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { openSmall } from "./small-project.js";
import { codes, one } from "./support.js";

const columns = {
  No: "product.key",
  Code: "product.code",
  Maker: { field: "product.brand", as: { by: "name@en" } },
  "Goes with": { field: "product.relations(goes-with).to", as: { list: "|", of: { by: "key" } } },
};
const sheet = (...rows: string[]) => ({
  layout: {
    layout: "goods",
    format: { csv: { delimiter: ";" } },
    rows: { each: "product" },
    columns: { ...columns, Maker: { ...columns.Maker, missing: "create" } },
  },
  text: `${["No;Code;Maker;Goes with", ...rows].join("\n")}\n`,
});
const targetOf = (importer: object, imports: readonly object[] = [{ file: "goods" }]) => ({
  target: "made-up",
  version: 1,
  languages: ["en"],
  endpoints: { pictures: "/p", upload: "/i/{name}", catalogue: "/c" },
  files: {
    goods: {
      importer,
      layout: { layout: "goods", format: { csv: { delimiter: ";" } }, rows: { each: "product" }, columns },
    },
  },
  imports,
});

async function builtOf(sheets: ReturnType<typeof sheet>, target: object, holdBack = false) {
  const opened = valueOf(await openSmall([sheets], target, ["en"]));
  const { sink, files } = memoryFolder();
  const built = await build(opened, { sink, holdBack });
  const all = built.findings.list();
  return { opened, files, ok: built.ok, all };
}
const placeOf = ({ at }: Finding) => [at?.record?.key, at?.line];

test("a name that no import makes is an error where unknown names are refused, and told where they are left out", async () => {
  const goods = sheet("a;A;Brindle;", "b;B;;");
  const refused = await builtOf(goods, targetOf({}));
  const error = one(refused.all, "target/not-made");
  assert.deepEqual([refused.ok, error.severity, ...placeOf(error)], [false, "error", "a", 2]);
  // The rehearsal finds nothing that this has not told.
  assert.ok(!codes(refused.all).some((code) => code.startsWith("rehearse/")));
  const left = await builtOf(goods, targetOf({ "unknown names": "leave out" }));
  assert.deepEqual([left.ok, ...placeOf(one(left.all, "target/left-out"))], [true, "a", 2]);
  const made = await builtOf(goods, targetOf({ "unknown names": "create" }));
  assert.deepEqual([made.ok, codes(made.all).filter((code) => code.startsWith("target/"))], [true, []]);
});

const circle = sheet("a;A;;b", "b;B;;a", "c;C;;");

test("links in a circle are told where no import sets them afterwards; held back, the rest is rebuilt", async () => {
  const asRowsArrive = targetOf({ "looked up": "as rows arrive" });
  const late = await builtOf(circle, asRowsArrive);
  const error = one(late.all, "plan/late-link");
  assert.deepEqual([late.ok, error.facts], [false, { to: "b", target: "made-up" }]);
  const { opened, files, ok } = await builtOf(circle, asRowsArrive, true);
  assert.ok(ok);
  const planned = valueOf(await planUpload(opened, { holdBack: true }));
  const verdict = valueOf(await rehearse(opened, planned, { holdBack: true, files: blobFiles(files) }));
  assert.deepEqual([verdict.rebuilt, verdict.counts.created], [true, 2]);
  const atTheEnd = await builtOf(circle, targetOf({ "looked up": "at the end of the file" }));
  assert.deepEqual([atTheEnd.ok, codes(atTheEnd.all).includes("plan/late-link")], [true, false]);
});

test("an import that sets links afterwards takes those that come too late", async () => {
  const links = { name: "links", file: "goods", mode: "update", columns: ["No", "Code", "Goes with"] };
  const other = { name: "makers", file: "goods", mode: "update", columns: ["No", "Code", "Maker"] };
  const target = targetOf({ "unknown names": "create", "looked up": "as rows arrive" }, [
    { file: "goods" },
    other,
    links,
  ]);
  const { files, ok } = await builtOf(sheet("a;A;Brindle;", "b;B;;a"), target);
  assert.ok(ok, [...files.keys()].join());
});

test("a product that is related to itself is an error where the platform refuses its row, and else a warning", async () => {
  const itself = sheet("a;A;;a");
  const refused = await builtOf(itself, targetOf({}));
  assert.deepEqual([refused.ok, ...placeOf(one(refused.all, "check/relation-refused"))], [false, "a", 2]);
  const left = await builtOf(itself, targetOf({ "unknown names": "leave out" }));
  assert.deepEqual([left.ok, one(left.all, "check/related-to-itself").severity], [true, "warning"]);
});

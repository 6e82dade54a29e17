/** Cells that wait for a later upload are blank until then: that has to be allowed, and no other column may ask for them. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, planUpload, rehearse, valueOf } from "#src/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { openSmall } from "./small-project.js";
import { codes, those } from "./support.js";

const columns = {
  Key: "product.key",
  Name: "product.name@en",
  Note: "product.searchTitle@en",
  Links: { field: "product.relations(goes-with).to", as: { list: "|", of: { by: "key" } } },
};
const goods = {
  layout: { layout: "source", rows: { each: "product" }, columns },
  text: "Key,Name,Note,Links\na,Hive,With b,b\nb,Veil,With a,a\n",
};

/** Each names the other: one of the two links has to wait. */
const opened = (rules: Readonly<Record<string, unknown>>) =>
  openSmall(
    [goods],
    {
      target: "made-up",
      version: 1,
      languages: ["en"],
      endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
      importer: { "looked up": "as rows arrive" },
      files: { goods: { layout: { ...goods.layout, layout: "goods" }, columns: rules } },
      imports: [{ file: "goods" }, { name: "links", file: "goods", mode: "update", columns: ["Key", "Note", "Links"] }],
    },
    ["en"],
  );

test("a link that has to wait is set by a later upload", async () => {
  for (const rules of [{}, { Links: { "together with": "Note" } }]) {
    const target = valueOf(await opened(rules));
    const { sink, files } = memoryFolder();
    assert.ok((await build(target, { sink })).ok);
    assert.equal(
      await files.get("01-goods.csv")!.text(),
      "Key,Name,Note,Links\r\na,Hive,With b,\r\nb,Veil,With a,a\r\n",
    );
    const verdict = valueOf(await rehearse(target, valueOf(await planUpload(target)), { files: blobFiles(files) }));
    assert.equal(verdict.rebuilt, true);
  }
});

for (const [what, rules] of Object.entries({
  "has to be filled": { Links: { required: true } },
  "is refused where it is blank": { Links: { blank: "refuse" } },
  "may be needed": { Links: { "needed if": { field: "sort", is: "hire" } } },
  "another column is taken only with": { Note: { "together with": "Links" } },
}))
  test(`a link cannot wait in a column that ${what}: that is an error before anything is built`, async () => {
    const target = valueOf(await opened(rules));
    const result = await build(target, { sink: memoryFolder().sink });
    assert.equal(result.ok, false);
    const [late] = those(result.findings.list(), "plan/late-link");
    assert.deepEqual([late?.at?.line, late?.at?.record?.key], [2, "a"]);
    assert.ok(!codes(result.findings.list()).some((code) => code.startsWith("rehearse/")));
  });

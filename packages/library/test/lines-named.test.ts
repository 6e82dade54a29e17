/** Files whose rows name the lines of another file: what that file may be, and what is refused when the target is loaded. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, valueOf } from "#src/index.js";
import { SimulatedPlatform } from "#src/rehearse/platform/platform.js";
import { memoryFolder } from "#src/web/index.js";
import { openSmall } from "./small-project.js";

interface Said {
  readonly files: Record<string, Record<string, unknown>>;
  readonly imports: unknown[];
}

const source = {
  layout: {
    layout: "source",
    rows: { each: "product" },
    columns: {
      Key: "product.key",
      Name: "product.name@en",
      Photo: { field: "product.pictures(main).file", as: { list: ", " } },
    },
  },
  text: 'Key,Name,Photo\na,"Two\nlines",a.png\nb,One,"b.png, c.png"\n',
};

/** @param change what is otherwise in the target. */
function opened(change: (said: Said) => void = () => undefined) {
  const said: Said = {
    files: {
      goods: {
        layout: {
          layout: "goods",
          rows: { each: "product" },
          columns: { Key: "product.key", Name: "product.name@en" },
        },
      },
      shots: {
        layout: {
          layout: "shots",
          rows: { each: "product", "found by": { column: "Row", names: "line", sheet: "goods" } },
          lanes: { shots: { entries: "product.pictures", with: { role: "main" } } },
          columns: { File: "shots.file" },
        },
      },
    },
    imports: [{ file: "goods" }, { file: "shots", mode: "update" }],
  };
  change(said);
  const endpoints = { pictures: "/p", upload: "/in/{name}", catalogue: "/all" };
  const target = { target: "made-up", version: 1, languages: ["en"], endpoints, ...said };
  return openSmall([source], target, ["en"]);
}

test("lines are those of the file that is written, also where a cell has several", async () => {
  const target = valueOf(await opened());
  const { sink, files } = memoryFolder();
  const built = await build(target, { sink });
  assert.ok(built.ok, JSON.stringify(built.findings.list()));
  assert.equal(await files.get("02-shots.csv")!.text(), "Row,File\r\n2,a.png\r\n4,b.png\r\n4,c.png\r\n");
});

test("no row can name a line of a file that is refused as a whole, nor one of the file before it", async () => {
  const { target, project } = valueOf(
    await opened(({ files }) =>
      Object.assign(files["goods"]!, {
        importer: { "refusal costs": "file" },
        columns: { Name: { "characters at most": 9 } },
      }),
    ),
  );
  const platform = new SimulatedPlatform(target, project.kinds);
  platform.addPictures(["a.png"]);
  const play = async (name: "goods" | "shots", text: string): Promise<string> => {
    const mode = name === "goods" ? "create" : "update";
    const played = await platform.play(target.files.get(name)!, `${name}.csv`, new Blob([text]).stream(), mode);
    return played.rows.map(({ outcome }) => outcome).join(" ");
  };
  const shot = "Row,File\n2,a.png\n";
  assert.equal(await play("goods", "Key,Name\na,Jar\nb,Bowl\n"), "created created");
  assert.equal(await play("shots", shot), "created");
  assert.equal(await play("goods", "Key,Name\nb,Bowl\nc,A long name\n"), "refused refused");
  assert.equal(await play("shots", shot), "refused");
  assert.equal(await play("goods", "Key,Name\nb,Bowl\n"), "unchanged");
  // Line 2 is b now.
  assert.equal(await play("shots", shot), "created");
  assert.equal(await play("shots", shot), "unchanged");
});

const refused: readonly (readonly [string, RegExp, (said: Said) => void])[] = [
  [
    "a file that is not there",
    /is not a file of the target/,
    ({ files }) => {
      files["wares"] = files["goods"]!;
      delete files["goods"];
    },
  ],
  ["several files", /can come in several files/, ({ files }) => (files["goods"]!["limits"] = { products: 10 })],
  [
    "several imports",
    /has to be imported once/,
    ({ imports }) => imports.push({ file: "goods", mode: "update", name: "more" }),
  ],
  [
    "records of other imports",
    /has to be imported once/,
    ({ imports }) => (imports[0] = { file: "goods", for: "size(key) > 0" }),
  ],
  ["ids between", /no ids can be collected/, ({ files }) => (files["goods"]!["ids"] = { told: "report" })],
  [
    "rows of another kind",
    /does not have a row for each product/,
    ({ files }) => {
      files["goods"]!["layout"] = {
        layout: "goods",
        rows: { each: "variant", of: "product", "grouped by": "Key" },
        columns: { Key: "product.key", Name: "product.name@en", Code: "variant.code" },
      };
    },
  ],
];
for (const [what, problem, change] of refused)
  test(`rows cannot name the lines of ${what}: refused when the target is loaded`, async () => {
    const result = await opened(change);
    const said = result.findings.list().map(({ facts }) => JSON.stringify(facts));
    assert.ok(!result.ok && said.some((one) => problem.test(one)), said.join("\n"));
  });

/** Collecting ids from reports and exports: matched, ambiguous, missing, refused, contradicted. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { valueOf, Findings, Ledger, stepsNow, targetsOf, type Finding, type TargetView } from "#src/index.js";
import {
  collectIds,
  nothingHeldBack,
  parseTarget,
  planImport,
  readSource,
  thereBy,
  withIds,
  verifyPlan,
  type ImportReport,
} from "#src/parts.js";
import { openSmall } from "./small-project.js";
import { codes, filesOf, kinds, one, rangeCsv, rangeLayout, read, single } from "./support.js";

const text = readFileSync(new URL("../../targets/saltmarsh.yaml", import.meta.url), "utf8");
const findingsOfTarget = new Findings();
const saltmarsh = findingsOfTarget.took(parseTarget(text, "saltmarsh.yaml", kinds))!;

const rows = [
  single("a", { Shelf: "Hives / Full", "Feature 1": "" }),
  { ...single("b"), "Feature 1": "Wood", "Feature 1 is": "Pine" },
  { Range: "b", No: "C-b2", "Feature 1 is": "Oak", Price: "2,00" },
];

async function catalogueOf(): Promise<TargetView> {
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(...rows) }]);
  return catalogue;
}

/** A platform that takes everything and counts ids; what a test changes of its answers is given. */
class Answers {
  readonly findings = new Findings();
  ledger = new Ledger();
  #count = 100;
  exports: Record<string, string> = {};

  constructor(
    public catalogue: TargetView,
    readonly change: (name: string, report: ImportReport) => ImportReport | undefined = (_name, report) => report,
    readonly target = saltmarsh,
  ) {}

  plan() {
    this.catalogue = withIds(this.catalogue, this.ledger);
    const there = thereBy(this.ledger, this.catalogue);
    const options = { bytesOf: () => 0, headerBytes: () => 0, pictures: [], there };
    const plan = valueOf(planImport(this.catalogue, this.target, options));
    assert.deepEqual(
      verifyPlan(this.catalogue, this.target, plan, () => false, there),
      [],
    );
    return plan;
  }

  async round(): Promise<{ readonly files: string[]; readonly isLast: boolean }> {
    const plan = this.plan();
    const reports = new Map<string, ImportReport>();
    const files: string[] = [];
    for (const step of stepsNow(plan)) {
      if (step.is !== "upload") continue;
      for (const { name } of step.files) {
        files.push(name);
        const report: ImportReport = {
          refused: null,
          rows: Array.from({ length: 20 }, (_, at) => ({
            line: at + 2,
            outcome: "created",
            id: String(++this.#count),
          })),
        };
        const changed = this.change(name, report);
        if (changed) reports.set(name, changed);
      }
    }
    const collected = this.findings.took(
      await collectIds({
        catalogue: this.catalogue,
        kinds,
        target: this.target,
        plan,
        heldBack: nothingHeldBack,
        ledger: this.ledger,
        reports,
        readExport: async (file, layout, into, findings) => {
          const content = this.exports[file.name];
          if (content === undefined) return false;
          await readSource(
            { file: `${file.name}.tsv`, layout },
            into,
            filesOf({ [`${file.name}.tsv`]: content }),
            findings,
          );
          return true;
        },
        run: "r",
      }),
    );
    this.ledger = collected?.ledger ?? this.ledger;
    return { files, isLast: stepsNow(plan).length === plan.steps.length };
  }

  get list(): readonly Finding[] {
    return this.findings.list();
  }
}

test("goes from round to round: reports tell some ids, exports others, by key, by code, by name and what contains it", async () => {
  const answers = new Answers(await catalogueOf());
  assert.deepEqual((await answers.round()).files, ["01-branches.tsv", "02-scales.tsv"]);
  const wood = answers.ledger.id("axis", "Wood")!;
  answers.exports = {
    goods: "Id\tTag\tTitle\n7001\tb\tb\n7002\ta\ta\n",
    marks: `Id\tScale\tTitle\n7010\t${wood}\tOak\n7011\t${wood}\tPine\n7012\t99\tPine\n`,
    forms: "Id\tGood\tCode\n7020\t7001\tC-b2\n7021\t7001\tC-b\n",
  };
  for (let round = 0; round < 5; round++) if ((await answers.round()).isLast) break;
  assert.deepEqual(
    codes(answers.list).filter((code) => !code.startsWith("read/")),
    [],
  );
  const { ledger } = answers;
  assert.deepEqual([ledger.id("product", "a"), ledger.id("product", "b")], ["7002", "7001"]);
  assert.deepEqual([ledger.id("value", "Wood/Pine"), ledger.id("value", "Wood/Oak")], ["7011", "7010"]);
  assert.deepEqual([ledger.id("variant", "C-b"), ledger.id("variant", "C-b2")], ["7021", "7020"]);
  // L4: when everything is confirmed, the next plan has nothing to upload.
  assert.deepEqual(answers.plan().steps, []);
});

test("reports where an export has two of a name; the ledger stays as it was, also of what could be told", async () => {
  const answers = new Answers(await catalogueOf());
  await answers.round();
  const before = answers.ledger.size;
  const wood = answers.ledger.id("axis", "Wood")!;
  answers.exports = {
    goods: "Id\tTag\tTitle\n7001\tb\tb\n",
    marks: `Id\tScale\tTitle\n7010\t${wood}\tPine\n7011\t${wood}\tPine\n7012\t${wood}\tOak\n`,
  };
  await answers.round();
  assert.deepEqual((one(answers.list, "collect/ambiguous").facts as { ids: string[] }).ids, ["7010", "7011"]);
  assert.equal(one(answers.list, "collect/not-there").at?.record?.key, "a");
  assert.equal(answers.ledger.size, before);
  assert.equal(answers.ledger.id("value", "Wood/Oak"), undefined);
});

test("says what was refused, what has no report, what was otherwise than expected, and does not take it for there", async () => {
  const refused = new Answers(await catalogueOf(), (name, report) =>
    name.endsWith("scales.tsv")
      ? {
          ...report,
          rows: report.rows.map((row) => ({ line: row.line, outcome: "refused", reasons: ["taken"], id: null })),
        }
      : report,
  );
  await refused.round();
  assert.deepEqual((one(refused.list, "collect/refused").facts as { reasons: string[] }).reasons, ["taken"]);
  assert.equal(refused.ledger.id("axis", "Wood"), undefined);

  const silent = new Answers(await catalogueOf(), (name, report) => (name.endsWith("scales.tsv") ? undefined : report));
  await silent.round();
  assert.equal(one(silent.list, "collect/no-report").at?.file, "02-scales.tsv");
  assert.equal(silent.ledger.id("axis", "Wood"), undefined);

  const twice = new Answers(await catalogueOf(), (_name, report) => ({
    ...report,
    rows: report.rows.map((row) => ({ ...row, outcome: "updated" })),
  }));
  await twice.round();
  assert.ok(codes(twice.list).includes("collect/other-outcome"));
});

test("says where an export is missing, and where a report gives one id to two records", async () => {
  const answers = new Answers(await catalogueOf());
  await answers.round();
  await answers.round();
  assert.deepEqual([...new Set(codes(answers.list))], ["collect/no-export"]);

  const same = new Answers(await catalogueOf(), (_name, report) => ({
    ...report,
    rows: report.rows.map((row) => ({ ...row, id: "55" })),
  }));
  await same.round();
  // Two branches, Hives and Full, come in different rounds: the second is reported the id of the first.
  await same.round();
  assert.ok(codes(same.list).includes("ledger/id-taken"));
});

test("an export of ids that nobody asks for may be missing: the rows were taken; what names records by their ids needs it", async () => {
  const collectedWith = async (more: object, form: "report" | "export") => {
    const ids = { layout: "ids", rows: { each: "brand" }, columns: { No: "brand.id", Maker: "brand.key" } };
    const told = form === "report" ? { told: form } : { told: form, export: "/makers", layout: ids };
    const makers = {
      layout: "makers",
      rows: { each: "brand" },
      columns: { Maker: "brand.key", Name: "brand.name@en", ...more },
    };
    const given = {
      ...{ target: "made-up", version: 1, languages: ["en"], importer: {} },
      endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
      files: { makers: { layout: makers, ids: told } },
      imports: [{ file: "makers" }],
    };
    const own = { layout: "own", rows: { each: "brand" }, columns: { Maker: "brand.key", Name: "brand.name@en" } };
    const opened = valueOf(await openSmall([{ layout: own, text: "Maker,Name\nthorn,Thorn\n" }], given, ["en"]));
    const { catalogue, target } = opened;
    const plan = valueOf(planImport(catalogue, target, { bytesOf: () => 0, headerBytes: () => 0, pictures: [] }));
    const report = { refused: null, rows: [{ line: 2, outcome: "created" }] };
    return collectIds({
      ...{ catalogue, kinds, target, plan, heldBack: nothingHeldBack, ledger: new Ledger(), run: "r" },
      reports: new Map([["01-makers.csv", report]]),
      readExport: () => Promise.resolve(false),
    });
  };
  for (const form of ["report", "export"] as const) {
    const { ledger, confirmed } = valueOf(await collectedWith({}, form));
    assert.deepEqual([confirmed, ledger.has("brand", "thorn")], [1, true], form);
  }
  const asked = await collectedWith({ No: "brand.id" }, "export");
  assert.deepEqual(codes(asked.findings.list()), ["collect/no-export"]);
});

test("tells records of one name apart by their path, where the export says what is above them", async () => {
  const byPath = text.replace(
    /( {2}branches:[\s\S]*?)ids: \{ told: report \}/,
    `$1ids:
      told: export
      matched by: [path]
      layout:
        layout: branches-export
        format: { csv: { delimiter: "\\t", quote: none, line end: lf } }
        language: en
        rows: { each: category }
        columns: { Id: category.id, Under: { field: category.parent, as: { by: id } }, Title: category.name@en }`,
  );
  const own = new Findings();
  const target = own.took(parseTarget(byPath, "by-path.yaml", kinds));
  assert.ok(target && byPath !== text, JSON.stringify(own.list()));
  const shelves = [
    single("a", { Shelf: "Hives / Full", "Feature 1": "" }),
    single("b", { Shelf: "Suits / Full", "Feature 1": "" }),
  ];
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(...shelves) }]);
  const answers = new Answers(catalogue, undefined, target);
  const header = "Id\tUnder\tTitle\n";
  const goods = "Id\tTag\tTitle\n8001\ta\ta\n8002\tb\tb\n";
  answers.exports = { goods, branches: `${header}7001\t\tHives\n7002\t\tSuits\n` };
  await answers.round();
  // The platform shows the children the other way round, below their parents.
  answers.exports = { goods, branches: `${answers.exports["branches"]}7003\t7002\tFull\n7004\t7001\tFull\n` };
  await answers.round();
  const table = catalogue.table("category");
  const idsOf = Array.from({ length: table.size }, (_, row) => {
    const [above] = targetsOf(catalogue, table, "parent", row);
    const names = [...(above === undefined ? [] : [above]), row].map((one) => table.text("name@en", one));
    return [names.join(" / "), answers.ledger.id("category", table.key(row))];
  });
  assert.deepEqual(
    codes(answers.list).filter((code) => code.startsWith("collect/")),
    [],
  );
  assert.deepEqual(Object.fromEntries(idsOf), {
    Hives: "7001",
    Suits: "7002",
    "Hives / Full": "7004",
    "Suits / Full": "7003",
  });
});

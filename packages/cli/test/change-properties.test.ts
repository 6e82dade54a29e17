/**
 * The laws of changing, over generated catalogues with every kind: what is uploaded onto what is on the platform leaves there what was
 * to be, as expected, and the same again writes nothing.
 */

import assert from "node:assert/strict";
import { after, before, test } from "node:test";
import fc from "fast-check";
import { startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import {
  valueOf,
  Findings,
  Ledger,
  stepsNow,
  writeZip,
  type ChangeWishes,
  type Finding,
  type Prepared,
  type Target,
  type TargetFile,
  type TargetView,
} from "zest-tier";
import {
  Changes,
  collectIds,
  compareWithPlatform,
  encodeFile,
  fileRows,
  withDelivered,
  noWishes,
  prepareBuild,
  readSource,
  playUpload,
  type ImportReport,
  type RowSelection,
  withIds,
} from "zest-tier/parts";
import { nodeSha256 } from "zest-tier/node";
import { memoryFiles } from "./generate.js";
import { kinds, pictureNames, readRich, rich, shipped, type ReadRich, type Rich } from "./rich.js";
import { differencesOn } from "./on-platform.js";
import { readPlatform } from "#src/platform.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 8);
const zip = writeZip(new Map(pictureNames.map((name) => [name, new Uint8Array([1])])));
const everything: ChangeWishes = {
  ...noWishes,
  fields: { "product.stock": "overwrite", "variant.stock": "overwrite" },
};
const mostRounds = 14;

interface Round {
  readonly files: number;
  readonly problems: string[];
}

interface Planned {
  readonly catalogue: TargetView;
  readonly changes: Changes;
  readonly prepared: Prepared;
  readonly found: readonly Finding[];
}

/** Plays one side: builds what differs from what is on the platform, sends it, collects. */
class Side {
  ledger = new Ledger();
  constructor(
    readonly standIn: StandIn,
    readonly target: Target,
    readonly wishes = everything,
    /** Whether each upload is the whole range: what it does not name is deleted. */
    readonly replaces = false,
  ) {}

  async changesOf({ catalogue }: ReadRich, ledger: Ledger): Promise<Changes> {
    const { target, wishes } = this;
    const platform = await readPlatform(this.standIn.url, target, kinds);
    const input = { catalogue, target, platform, ledger, sha256: nodeSha256, pairs: [] };
    const comparison = compareWithPlatform(input, new Findings());
    return new Changes({
      catalogue,
      target,
      platform,
      comparison,
      ledger,
      wishes,
      tasks: [],
      redirects: [],
      replaces: this.replaces,
    });
  }

  async plan(given: ReadRich): Promise<Planned> {
    const read = { ...given, catalogue: withIds(given.catalogue, this.ledger) };
    const changes = await this.changesOf(read, this.ledger);
    const choices = { holdBack: false, despite: new Set<string>(), pictureNames, there: changes.there };
    const result = prepareBuild({ catalogue: read.catalogue, target: this.target, ...choices, found: new Findings() });
    const prepared = await changes.plan(valueOf(result));
    return { catalogue: read.catalogue, changes, prepared, found: result.findings.list() };
  }

  /** @returns how many files went, and where the stand-in did otherwise than expected. */
  async round(read: ReadRich): Promise<Round> {
    const { target, standIn, ledger } = this;
    const { catalogue, changes, prepared } = await this.plan(read);
    const files: Record<string, Uint8Array> = {};
    const reports = new Map<string, ImportReport>();
    for (const step of stepsNow(prepared.plan)) {
      if (step.is === "lists") await this.setUp(step.lists);
      if (step.is !== "upload") continue;
      const file = target.files.get(step.slot.file)!;
      for (const { name, blocks } of step.files) {
        files[name] = await bytesOf(catalogue, file, { blocks, step });
        reports.set(name, (await this.send(file, name, files[name])).report);
      }
    }
    const rehearsed = await playUpload({
      catalogue,
      target,
      ...prepared,
      files: memoryFiles(files),
      platform: changes.start(),
      goal: changes.goal,
    });
    assert.ok(rehearsed.ok);
    const problems = rehearsed.value.files.flatMap(({ name, rows }) =>
      rows.flatMap((row, at) => {
        const told = reports.get(name)!.rows[at];
        return told?.outcome === row.outcome
          ? []
          : [
              `${name}:${row.line} ${told?.outcome} ${told?.reasons?.join() ?? ""}, expected ${row.outcome} ${row.reasons.join()}`,
            ];
      }),
    );
    const common = { catalogue, target, plan: prepared.plan, heldBack: prepared.heldBack, ledger, run: "law" };
    const collected = await collectIds({
      ...common,
      kinds,
      reports,
      readExport: async (file, layout, into) => {
        const bytes = new Uint8Array(await (await fetch(standIn.url + file.ids!.endpoint!)).arrayBuffer());
        await readSource({ file: "export.tsv", layout }, into, memoryFiles({ "export.tsv": bytes }), new Findings());
        return true;
      },
    });
    if (collected.ok) {
      const { taken, ledger: known } = collected.value;
      this.ledger = withDelivered({
        ...common,
        ledger: known,
        taken,
        sha256: nodeSha256,
        kept: changes.kept(),
      });
    }
    return { files: Object.keys(files).length, problems };
  }

  /** Sends the uploads of a round, then what sets them back. @returns what is then otherwise than before, but for what was listed. */
  async thereAndBack(read: ReadRich): Promise<readonly unknown[]> {
    const { changes, prepared } = await this.plan(read);
    const { plan, rollback = [], lost = [] } = prepared;
    const refused: unknown[] = [];
    for (const step of [...stepsNow(plan), ...rollback]) {
      if (step.is === "lists") await this.setUp(step.lists);
      if (step.is !== "upload") continue;
      const file = this.target.files.get(step.slot.file)!;
      for (const { name, blocks } of step.files) {
        const bytes = await bytesOf(read.catalogue, file, { blocks, step });
        const { report } = await this.send(file, name, bytes, step.slot.endpoint);
        if (report.refused !== null || report.rows.some(({ outcome }) => outcome === "refused"))
          refused.push([name, report.refused, report.rows.filter(({ outcome }) => outcome === "refused")]);
      }
    }
    const known = new Set(lost.map(({ kind, key }) => `${kind} ${key}`));
    const left = await differencesOn(this.standIn.url, this.target, changes.before, changes.before);
    return [...refused, ...left.filter(({ kind, key }) => !known.has(`${kind} ${key}`))];
  }

  async setUp(lists: readonly { readonly name: string; readonly entries: readonly string[] }[]): Promise<void> {
    for (const { name, entries } of lists)
      await fetch(`${this.standIn.url}/lists/${name}`, { method: "POST", body: JSON.stringify(entries) });
  }

  async send(
    file: TargetFile,
    name: string,
    bytes: Uint8Array,
    own?: string,
  ): Promise<{ readonly report: ImportReport }> {
    const endpoint = (own ?? file.endpoint ?? this.target.endpoints.upload).replace("{name}", name);
    const response = await fetch(this.standIn.url + endpoint, { method: "POST", body: bytes });
    return { report: (await response.json()) as ImportReport };
  }

  /** Round after round until there is nothing to send. */
  async whole(read: ReadRich): Promise<{ rounds: number; problems: string[] }> {
    const problems: string[] = [];
    for (let rounds = 0; rounds < mostRounds; rounds++) {
      const { files, problems: own } = await this.round(read);
      problems.push(...own);
      if (files === 0) return { rounds, problems };
    }
    return { rounds: mostRounds, problems: [...problems, "it never ends"] };
  }
}

async function bytesOf(
  catalogue: TargetView,
  file: TargetFile,
  selection: Pick<RowSelection, "blocks" | "step">,
): Promise<Uint8Array> {
  const rows = fileRows(catalogue, file, { ...selection, isLeftOut: () => false }, new Findings());
  return Buffer.concat([...(await encodeFile(catalogue, file, rows, new Findings(0)))]);
}

/** Cells that another later may say otherwise, each with what it may say. */
const edits: readonly (readonly [keyof Rich, string, (cell: string, n: number) => string])[] = [
  ["range", "Name", (cell) => (cell === "" ? "" : `${cell} new`)],
  ["range", "Name de", (_, n) => (n % 2 === 0 ? "" : "Neu")],
  ["range", "Text", (_, n) => `Text ${n}`],
  ["range", "Price", (_, n) => String(n + 1)],
  ["range", "Cost", (_, n) => String(n + 1)],
  ["range", "kg", (_, n) => `${n}.5`],
  ["range", "State", (_, n) => ["", "selling", "paused"][n % 3]!],
  ["range", "Barn", (_, n) => String(n)],
  ["range", "Maker", (cell, n) => (cell === "" ? "" : ["Alder", "Birch & Co"][n % 2]!)],
  ["range", "Shelf", (cell) => (cell === "" ? "" : "c0")],
  ["range", "Web", (cell) => (cell === "" ? "" : cell === "yes" ? "no" : "yes")],
  ["categories", "Name", (cell) => `${cell} new`],
  ["categories", "Open", (cell) => (cell === "yes" ? "no" : "yes")],
  ["categories", "Story", (_, n) => `Story ${n}`],
  ["options", "More", (_, n) => String(n)],
  ["prices", "Amount", (_, n) => String(n + 2)],
  ["parts", "Count", (_, n) => String(n + 1)],
  ["details", "Seek", (_, n) => `Seek ${n}`],
  ["details", "Path", (_, n) => `path-${n}`],
  ["sizes", "Long", (_, n) => String(n + 1)],
  ["numbers", "Number", (_, n) => `N ${n}`],
  ["facts", "Says", (_, n) => `is ${n}`],
  ["properties", "Unit", (_, n) => `u${n}`],
  ["baskets", "Name", (cell) => `${cell} new`],
];

interface Edit {
  readonly which: number;
  readonly row: number;
  readonly n: number;
}

/** The same, later: some cells say something else, perhaps a product is new. */
function later(given: Rich, changes: readonly Edit[], isMore: boolean): Rich {
  const next = Object.fromEntries(
    Object.entries(given).map(([name, rows]) => [name, rows.map((row) => ({ ...row }))]),
  ) as Rich;
  for (const { which, row, n } of changes) {
    const [sheet, column, to] = edits[which % edits.length]!;
    const rows = next[sheet];
    if (rows.length === 0) continue;
    const one = rows[row % rows.length]!;
    one[column] = to(one[column] ?? "", n);
    // A was price stays above the price.
    if (column === "Price" && one["Was"] !== "") one["Was"] = String(n + 6);
  }
  if (isMore) next.range.push({ Range: "p-new", No: "NEW-1", Name: "New", Price: "5", Web: "yes", Shelf: "c0" });
  return next;
}

/** The same without a product, and without all rows that name it or one of its codes. */
function without(given: Rich, product: string | undefined): Rich {
  const codes = given.range.flatMap((row) => (row["Range"] === product ? [row["No"]] : []));
  const gone = new Set([product, ...codes].filter((word) => word !== undefined && word !== ""));
  const isNaming = (cell: string | undefined) => (cell ?? "").split(/[,;|]/).some((word) => gone.has(word.trim()));
  const rest = (rows: Rich["range"]) => rows.filter((row) => !Object.values(row).some(isNaming));
  return Object.fromEntries(Object.entries(given).map(([name, rows]) => [name, rest(rows)])) as Rich;
}

const twoCatalogues = fc.record({
  first: rich(),
  changes: fc.array(fc.record({ which: fc.nat(999), row: fc.nat(99), n: fc.nat(30) }), { maxLength: 6 }),
  isMore: fc.boolean(),
});

for (const name of ["pennywort", "saltmarsh", "tollgate"] as const satisfies readonly StandInName[]) {
  let standIn: StandIn;
  let target: Target;
  before(async () => {
    standIn = await startStandIn(name);
    target = await shipped(name);
  });
  after(() => standIn.stop());
  const empty = async () => {
    await fetch(`${standIn.url}/reset`, { method: "POST" });
    await fetch(`${standIn.url}/pictures`, { method: "POST", body: zip });
  };

  test(`L9 ${name}: a rollback gives back all that a change wrote, but for what it lists, and touches nothing else`, async () => {
    await fc.assert(
      fc.asyncProperty(twoCatalogues, async ({ first, changes, isMore }) => {
        await empty();
        const side = new Side(standIn, target);
        assert.deepEqual((await side.whole(await readRich(first))).problems, []);
        assert.deepEqual(await side.thereAndBack(await readRich(later(first, changes, isMore))), []);
      }),
      { numRuns: Math.ceil(runs / 2) },
    );
  });

  test(`${name}: a project that only updates creates nothing, also not because rows name it`, async () => {
    const sizes = async () => {
      const { catalogue } = await readPlatform(standIn.url, target, kinds);
      return kinds.roots.map((kind) => `${kind.name} ${catalogue.table(kind.name).size}`);
    };
    await fc.assert(
      fc.asyncProperty(twoCatalogues, async ({ first, changes }) => {
        await empty();
        const side = new Side(standIn, target);
        assert.deepEqual((await side.whole(await readRich(first))).problems, []);
        const before = await sizes();
        const updating = new Side(standIn, target, { ...everything, only: "update" });
        updating.ledger = side.ledger;
        assert.deepEqual((await updating.whole(await readRich(later(first, changes, true)))).problems, []);
        const after = await sizes();
        assert.deepEqual(
          after.filter((size, at) => Number(size.split(" ")[1]) > Number(before[at]!.split(" ")[1])),
          [],
        );
      }),
      { numRuns: Math.ceil(runs / 2) },
    );
  });

  test(`L4, L7 ${name}: what changes is written onto what is there, as expected; then nothing more is`, async () => {
    await fc.assert(
      fc.asyncProperty(twoCatalogues, async ({ first, changes, isMore }) => {
        await empty();
        const side = new Side(standIn, target);
        assert.deepEqual((await side.whole(await readRich(first))).problems, []);
        const read = await readRich(later(first, changes, isMore));
        const { changes: wanted, found } = await side.plan(read);
        const { goal, before } = wanted;
        const { problems } = await side.whole(read);
        assert.deepEqual(problems, []);
        // What the target cannot carry is reported before.
        const uncarried = new Set(
          found.flatMap(({ code, at }) => (code === "target/variants-only" ? [`${at?.file}:${at?.line}`] : [])),
        );
        const left = await differencesOn(standIn.url, target, goal, before);
        assert.deepEqual(
          left.filter(({ at }) => !uncarried.has(`${at?.file}:${at?.line}`)),
          [],
        );
      }),
      { numRuns: runs },
    );
  });
}

test("L9 tollgate: the whole range at once is set back too, but for what is listed", async () => {
  const standIn = await startStandIn("tollgate");
  try {
    const target = await shipped("tollgate");
    await fc.assert(
      fc.asyncProperty(twoCatalogues, fc.nat(9), async ({ first, changes, isMore }, which) => {
        await fetch(`${standIn.url}/reset`, { method: "POST" });
        await fetch(`${standIn.url}/pictures`, { method: "POST", body: zip });
        const side = new Side(standIn, target, everything, true);
        const before = new Side(standIn, target);
        assert.deepEqual((await before.whole(await readRich(first))).problems, []);
        side.ledger = before.ledger;
        const next = later(first, changes, isMore);
        const gone = next.range[which % Math.max(1, next.range.length)]?.["Range"];
        assert.deepEqual(await side.thereAndBack(await readRich(without(next, gone))), []);
      }),
      { numRuns: Math.ceil(runs / 2) },
    );
  } finally {
    await standIn.stop();
  }
});

import assert from "node:assert/strict";
import { execFile, spawnSync } from "node:child_process";
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, beforeEach, test } from "node:test";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { commands, main } from "#src/main.js";

const root = fileURLToPath(new URL("../../../../", import.meta.url));
const bin = join(root, "packages/cli/bin/zest-tier.js");

let work: string;
before(() => {
  work = mkdtempSync(join(tmpdir(), "zest-tier-cli-"));
});
after(() => rmSync(work, { recursive: true, force: true }));

let shop: string;
beforeEach(() => {
  shop = mkdtempSync(join(work, "shop-"));
  cpSync(join(root, "demo/clean"), shop, { recursive: true });
});

interface Said {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

async function run(...argv: string[]): Promise<Said> {
  let out = "";
  let err = "";
  const code = await main(argv, {
    out: (text) => (out += text),
    err: (text) => (err += text),
    cwd: work,
    colour: false,
    width: 200,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  });
  return { code, out, err };
}

const json = (
  said: Said,
): Record<string, unknown> & {
  findings: {
    code: string;
    severity: string;
    message: string;
    remedy: string;
    at: { file: string; line?: number; char?: number } | null;
  }[];
} => JSON.parse(said.out) as never;
const change = (file: string, from: string, to: string): void => {
  const path = join(shop, file);
  const text = readFileSync(path, "utf8");
  assert.ok(text.includes(from), `${file} has no ${from}`);
  writeFileSync(path, text.replace(from, to));
};

test("check says what was read, data to one stream and findings to the other", async () => {
  const { code, out, err } = await run("check", shop);
  assert.equal(code, 0);
  assert.match(
    out,
    /\n {2}sources\/values\.csv {10}65 rows {2}layout bramblecomb-values {6}CSV ";" utf-8\n {2}sources\/range\.csv {10}262 rows/,
  );
  assert.match(out, /41 categories · 11 axes · 65 values/);
  assert.match(err, /no errors, 47 warnings, 14 notes\n$/);
  assert.match((await run("check", shop, "--all")).err, /check\/missing-combinations\n/);
});

test("check names the cell, what is wrong with it, and what to do", async () => {
  change("sources/range.csv", "2600413737005", "2600413737006");
  const { code, err } = await run("check", shop);
  assert.equal(code, 1);
  assert.match(
    err,
    /error "2600413737006" is not a valid GTIN: its check digit is wrong\n {6}sources\/range\.csv:2 \[EAN\], variant \S+\n {6}→ Get the number again/,
  );
});

test("check --format json is one document, findings in it, nothing on the other stream", async () => {
  change("sources/range.csv", "2600413737005", "2600413737006");
  const said = await run("check", shop, "--format", "json");
  const { findings, ok, records } = json(said);
  assert.deepEqual([said.code, said.err, ok], [1, "", false]);
  assert.equal((records as Record<string, number>)["product"], 84);
  const found = findings.find((one) => one.code === "check/barcode")!;
  assert.deepEqual([found.severity, found.at!.file, found.at!.line], ["error", "sources/range.csv", 2]);
});

test("shows the first of many findings, and all when asked", async () => {
  const file = join(shop, "sources/range.csv");
  writeFileSync(file, readFileSync(file, "utf8").replaceAll("€ ", "EUR "));
  const few = await run("check", shop);
  assert.match(few.err, /and \d+ more like (this|these): --all lists them/);
  const all = await run("check", shop, "--all");
  assert.ok(all.err.length > few.err.length * 5);
});

test("plan says the steps, and why each is there", async () => {
  const { code, out } = await run("plan", shop);
  assert.equal(code, 0);
  assert.match(out, /^4 steps: 1 upload, 0 collections of ids, 0 links postponed/);
  assert.match(
    out,
    /3\. Upload items\n {3}02-items\.csv {2}84 products\n {3}Why: Creates the products with their variants, and the categories, axes, values, brands, customer groups that they name/,
  );
  const { plan } = json(await run("plan", shop, "--format", "json")) as unknown as {
    plan: { steps: { is: string }[] };
  };
  assert.deepEqual(
    plan.steps.map((step) => step.is),
    ["save", "pictures", "upload", "look"],
  );
});

test("build, then rehearse: rebuilt as intended", async () => {
  const built = await run("build", shop);
  assert.equal(built.code, 0, built.err);
  assert.match(built.out, /^Built shop-\w+\/upload-pennywort\n/);
  assert.deepEqual(readdirSync(join(shop, "upload-pennywort")), [
    ".zest-tier-upload.json",
    "01-pictures.zip",
    "02-items.csv",
    "datapackage.json",
    "run-sheet.html",
    "run-sheet.md",
  ]);
  const rehearsed = await run("rehearse", shop);
  assert.equal(rehearsed.code, 0);
  assert.match(
    rehearsed.out,
    /^Rebuilt as intended: everything that pennywort can store would arrive\.\nExpected: 305 rows created, 0 updated, 0 unchanged, none refused\.\nOf 3 665 filled cells, 3 360 arrive, 305 have no place there and 0 are held back\.\n41 fields and 6 kinds have no place on it: .*\n+A shopper would see every product\./,
  );
});

test("rehearse shows what was changed in the upload by hand, with the source cell it should have come from", async () => {
  await run("build", shop);
  change("upload-pennywort/02-items.csv", ";Orchard hive;", ";Orchid hive;");
  change("upload-pennywort/02-items.csv", ";Meadow hive;", ";;");
  const { code, out } = await run("rehearse", shop);
  assert.equal(code, 1);
  assert.match(
    out,
    /product orchard-hive +name@en +Orchard hive intended, Orchid hive instead +sources\/range\.csv:2 \[Name\]/,
  );
  assert.match(out, /Refused \(1 product\)\n {2}02-items\.csv:\d+–\d+ +meadow-hive +Title en: needed/);
});

test("rehearse without a build says to build first", async () => {
  const { code, err } = await run("rehearse", shop);
  assert.equal(code, 3);
  assert.match(
    err,
    /the upload folder does not have this file.*Run zest-tier build first.*build\/not-built/s,
    "build/not-built",
  );
});

test("build writes nothing while there are errors, leaves an older upload alone, and --hold-back goes on", async () => {
  await run("build", shop);
  const before = readFileSync(join(shop, "upload-pennywort/02-items.csv"));
  change("sources/range.csv", "€ 189,00", "on request");
  const refused = await run("build", shop);
  assert.equal(refused.code, 1);
  assert.match(refused.out, /Nothing was written: 1 error blocks the upload\. --hold-back leaves out faulty records\./);
  assert.deepEqual(readFileSync(join(shop, "upload-pennywort/02-items.csv")), before);
  const held = await run("build", shop, "--hold-back", "--format", "json");
  assert.equal(held.code, 0);
  assert.deepEqual(
    json(held)
      .findings.filter((one) => one.code === "build/held-back")
      .map((one) => one.at!.line),
    [2],
  );
});

/** What could not be read or written exits 3; what was read and is wrong, 1. */
const broken: readonly (readonly [string, (at: string) => void, string, (1 | 3)?])[] = [
  ["an empty source", (at) => writeFileSync(join(at, "sources/range.csv"), ""), "read/empty-file"],
  [
    "a source of nothing but a header",
    (at) => writeFileSync(join(at, "sources/values.csv"), "Feature;Merkmal;Value;Wert\n"),
    "read/header-only",
  ],
  [
    "a source in another encoding",
    (at) =>
      writeFileSync(
        join(at, "sources/values.csv"),
        Buffer.from("Feature;Merkmal;Value;Wert\nGröße;H\u00f6lzer;a;b\n").map((byte, at) => (at === 45 ? 0xff : byte)),
      ),
    "read/wrong-encoding",
  ],
  [
    "a source that is a folder",
    (at) => (rmSync(join(at, "sources/range.csv")), mkdirSync(join(at, "sources/range.csv"))),
    "read/folder",
    3,
  ],
  ["a source that is missing", (at) => rmSync(join(at, "sources/range.csv")), "read/missing-file", 3],
  ["a layout that is broken", (at) => writeFileSync(join(at, "layouts/range.yaml"), "layout: [\n"), "given/not-yaml"],
  [
    "a layout that is binary",
    (at) => writeFileSync(join(at, "layouts/range.yaml"), Buffer.from([0xff, 0x00, 0xc3])),
    "read/wrong-encoding",
  ],
  [
    "a target that there is not",
    (at) =>
      writeFileSync(
        join(at, "project.yaml"),
        readFileSync(join(at, "project.yaml"), "utf8").replace("pennywort", "pennywart"),
      ),
    "project/mistake",
  ],
  [
    "a target that is broken",
    (at) => (
      writeFileSync(join(at, "mine.yaml"), "target: Mine\n"),
      writeFileSync(
        join(at, "project.yaml"),
        readFileSync(join(at, "project.yaml"), "utf8").replace("target: pennywort", "target: mine.yaml"),
      )
    ),
    "given/wrong-value",
  ],
  [
    "a project file that is broken",
    (at) => writeFileSync(join(at, "project.yaml"), "project: a\nsource: []\n"),
    "given/unknown-word",
  ],
  ["a project that is missing", (at) => rmSync(join(at, "project.yaml")), "project/missing", 3],
];

for (const [what, damage, code, exits = 1] of broken) {
  for (const command of ["check", "build"]) {
    test(`${command} finds ${what}, exits ${exits}, and writes nothing`, async () => {
      damage(shop);
      const said = await run(command, shop, "--format", "json");
      assert.equal(said.code, exits);
      assert.ok(
        json(said).findings.some((one) => one.code === code && one.remedy.length > 5),
        said.out,
      );
      assert.deepEqual(
        readdirSync(shop).filter((name) => name.includes("upload")),
        [],
      );
    });
  }
}

test("says that a file cannot be read", async () => {
  change("project.yaml", "sources/range.csv", `sources/${"r".repeat(300)}.csv`);
  assert.ok(json(await run("check", shop, "--format", "json")).findings.some((one) => one.code === "read/unreadable"));
});

test("does not write into a folder that holds something else", async () => {
  mkdirSync(join(shop, "mine"));
  writeFileSync(join(shop, "mine/precious.txt"), "x");
  const said = await run("build", shop, "--upload", join(shop, "mine"), "--format", "json");
  assert.equal(said.code, 3);
  assert.ok(json(said).findings.some((one) => one.code === "build/folder-there"));
  assert.deepEqual(readdirSync(join(shop, "mine")), ["precious.txt"]);
});

test("says so where the upload folder cannot be made", async () => {
  const said = await run("build", shop, "--upload", join(shop, "project.yaml/upload"), "--format", "json");
  assert.equal(said.code, 3);
  assert.ok(json(said).findings.some((one) => one.code === "build/cannot-write"));
});

const wrongUse: readonly (readonly [readonly string[], RegExp])[] = [
  [[], /Usage: zest-tier/],
  [["chek"], /unknown command 'chek'[\s\S]*Did you mean check\?/],
  [["check", "--formt", "json"], /unknown option '--formt'[\s\S]*--format/],
  [["check", "--format", "xml"], /Allowed choices are text, json/],
  [["build", "--despite", "check/barcod"], /there is no finding "check\/barcod"/],
  [["standin", "pennyworth"], /Allowed choices are pennywort/],
  [["standin", "pennywort", "--port", "x"], /"x" is not a valid port/],
];

for (const [argv, says] of wrongUse) {
  test(`a usage error exits 2 with a hint: zest-tier ${argv.join(" ")}`, async () => {
    const { code, out, err } = await run(...argv);
    assert.equal(code, 2);
    assert.equal(out, "");
    assert.match(err, says);
  });
}

test("a target that the project does not have is a usage error", async () => {
  const { code, err } = await run("check", shop, "--for", "wickerby");
  assert.equal(code, 2);
  assert.match(err, /the project has no target "wickerby"\n→ It has pennywort, saltmarsh, tollgate\./);
});

test("the file that npm links as the command is in the sources, and runs", () => {
  const folder = join(root, "packages/cli");
  const { bin } = JSON.parse(readFileSync(join(folder, "package.json"), "utf8")) as { bin: Record<string, string> };
  const file = join(folder, bin["zest-tier"]!);
  assert.ok(!file.includes("dist"), "what is built is not there when npm links it");
  const { status, stdout } = spawnSync(process.execPath, [file, "--help"], { encoding: "utf8" });
  assert.equal(status, 0);
  assert.match(stdout, /draft/);
});

test("the command keeps what it parsed in the user's cache, for the user alone, and says the same from it", () => {
  const checked = (cache: string, more: NodeJS.ProcessEnv = {}): string => {
    const env = { ...process.env, XDG_CACHE_HOME: join(work, cache), ...more };
    const { status, stdout } = spawnSync(process.execPath, [bin, "check", shop], { encoding: "utf8", env });
    assert.equal(status, 0);
    return stdout;
  };
  const fresh = checked("none", { ZEST_TIER_KEEP: "off" });
  assert.ok(!existsSync(join(work, "none")));
  assert.equal(checked("cache"), fresh);
  const kept = join(work, "cache/zest-tier");
  const names = readdirSync(kept);
  assert.ok(names.length > 3);
  assert.equal(statSync(kept).mode & 0o077, 0);
  assert.equal(checked("cache"), fresh);
  assert.deepEqual(readdirSync(kept), names);
  for (const name of names) writeFileSync(join(kept, name), "damaged");
  assert.equal(checked("cache"), fresh);
});

test("without a home, or with a relative cache folder, the command keeps nothing, and works", () => {
  const noHome = 'import os from "node:os"; os.homedir = () => { throw new Error("no home"); };';
  const started = (flags: readonly string[], cache: string | undefined) =>
    spawnSync(process.execPath, [...flags, bin, "check", shop], {
      encoding: "utf8",
      cwd: work,
      env: { ...process.env, XDG_CACHE_HOME: cache },
    }).status;
  const before = readdirSync(work);
  assert.equal(started(["--import", `data:text/javascript,${encodeURIComponent(noHome)}`], undefined), 0);
  assert.equal(started([], "some-cache"), 0);
  assert.deepEqual(readdirSync(work), before);
});

test("each command has help with examples", async () => {
  for (const { name, examples } of commands) {
    const { code, out } = await run(name, "--help");
    assert.equal(code, 0);
    assert.ok(out.includes(examples[0]!.line), name);
  }
});

test("standin says where it listens, and stops when it is interrupted", async () => {
  const { code, out } = await run("standin", "pennywort");
  assert.equal(code, 0);
  assert.match(out, /pennywort listens on http:\/\/127\.0\.0\.1:\d+/);
});

test("demo refuses a folder with other files", async () => {
  writeFileSync(join(shop, "other.txt"), "x");
  rmSync(join(shop, "project.yaml"));
  const { code, err } = await run("demo", shop);
  assert.equal(code, 2);
  assert.match(err, /contains other files/);
});

test("the binary does the whole demo: from a supplier's files to a shop as intended", async () => {
  const folder = join(work, "demo");
  const { stdout } = await promisify(execFile)(process.execPath, [bin, "demo", folder]);
  for (const stage of ["Check", "Plan", "Build", "Rehearse", "Upload", "Compare"])
    assert.match(stdout, new RegExp(`^${stage}$`, "m"));
  assert.match(
    stdout,
    /Rebuilt as intended: everything that pennywort can store would arrive\.\n +Expected: 305 rows created/,
  );
  assert.match(
    stdout,
    /Everything that pennywort can store is on it as intended\.\n {2}41 fields and 6 kinds have no place on it: .*\n {2}Every row came out as the rehearsal expected\./,
  );
  assert.ok(existsSync(join(folder, "upload-pennywort/run-sheet.md")));
  const again = JSON.parse(
    (
      await promisify(execFile)(process.execPath, [bin, "demo", folder, "--for", "pennywort", "--format", "json"], {
        maxBuffer: 1 << 24,
      })
    ).stdout,
  ) as { rebuilt: boolean };
  assert.equal(again.rebuilt, true);
});

test("the binary's exit code and streams reach the shell", async () => {
  const failed = await promisify(execFile)(process.execPath, [bin, "check", join(root, "demo/rough")]).catch(
    (error: { code: number; stdout: string; stderr: string }) => error,
  );
  assert.equal((failed as { code: number }).code, 1);
  assert.match(failed.stderr, /\d\d errors, \d\d warnings, \d\d notes\n$/);
  assert.match(failed.stderr, / plan\/cycle\n/);
});

test("the README's example is strict TypeScript, and does what it says for every target", async () => {
  const code = /```ts\n([\s\S]*?)```/.exec(readFileSync(join(root, "README.md"), "utf8"))![1]!;
  assert.ok(code.trim().split("\n").length <= 20);
  // The modules are those of this workspace, found from beside the command line.
  const file = join(root, "packages/cli/dist/readme-example.mts");
  const node = (...argv: readonly string[]) => promisify(execFile)(process.execPath, argv, { cwd: root });
  writeFileSync(file, code.replaceAll("`out/", `\`${join(work, "readme")}/`));
  try {
    const options = [
      "--ignoreConfig",
      "--strict",
      "--noUncheckedIndexedAccess",
      "--module",
      "nodenext",
      "--target",
      "es2022",
    ];
    await node(join(root, "node_modules/tsc7/bin/tsc"), ...options, "--types", "node", file);
    const { stdout } = await node(file.replace(/mts$/, "mjs"));
    assert.deepEqual(stdout.trim().split("\n"), [
      "pennywort: 305 rows created, 0 refused, 0 fields differ",
      "saltmarsh: 1551 rows created, 0 refused, 0 fields differ",
      "tollgate: 339 rows created, 0 refused, 0 fields differ",
    ]);
  } finally {
    for (const ending of ["mts", "mjs"]) rmSync(file.replace(/mts$/, ending), { force: true });
  }
});

test("plan says what the target recommends, and what another system overwrites", async () => {
  const codes = async (target: string) =>
    json(await run("plan", shop, "--for", target, "--format", "json")).findings.filter(({ code }) =>
      ["target/recommended", "target/overwritten"].includes(code),
    );
  const advised = await codes("saltmarsh");
  assert.deepEqual(new Set(advised.map(({ code }) => code)), new Set(["target/recommended"]));
  assert.match(
    advised.map(({ message }) => message).join(),
    /saltmarsh recommends a value in "Seek title". 39 category records have none/,
  );
  const overwritten = await codes("tollgate");
  assert.match(overwritten[0]!.message, /"Stock Barn" is overwritten by the tills\. \d+ variant records do not keep/);
});

test("plan --left-out lists every record of which something is left out, as a table", async () => {
  const { code, out } = await run("plan", shop, "--for", "tollgate", "--left-out");
  assert.equal(code, 0);
  const [header, ...rows] = out.trim().split("\n");
  assert.equal(header, "No place for\tRecord\tInstead");
  assert.equal(rows.filter((row) => row.startsWith("axis.name@de\t")).length, 11);
  assert.ok(rows.includes("assortment\tgifts\tput its members into a category of that name"));
});

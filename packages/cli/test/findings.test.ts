/** How findings are shown: once, gathered, a screenful, in two languages, and as SARIF. */

import assert from "node:assert/strict";
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { Ajv2020 } from "ajv/dist/2020.js";
import addFormats from "ajv-formats";
import fc from "fast-check";
import { describeFinding, finding, Findings, findingTable, toSarif, type Finding, type FindingCode } from "zest-tier";
import { commands, main } from "#src/main.js";
import { coloursOf } from "#src/io.js";
import { renderFindings } from "#src/render/findings.js";
import { damagedRich, readRich } from "./rich.js";

const root = fileURLToPath(new URL("../../../../", import.meta.url));
let rough: string;
before(() => {
  const work = mkdtempSync(join(tmpdir(), "zest-tier-findings-"));
  rough = join(work, "rough");
  cpSync(join(root, "demo/rough"), rough, { recursive: true });
  cpSync(join(root, "demo/clean/pictures"), join(work, "clean/pictures"), { recursive: true });
});
after(() => rmSync(join(rough, ".."), { recursive: true, force: true }));

async function run(...argv: string[]): Promise<{ code: number; out: string; err: string }> {
  const said = { out: "", err: "" };
  const code = await main(argv, {
    out: (text) => void (said.out += text),
    err: (text) => void (said.err += text),
    cwd: rough,
    colour: false,
    width: 120,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  });
  return { code, ...said };
}
const codesOf = (out: string): string[] =>
  (JSON.parse(out) as { findings: Finding[] }).findings.map(({ code, facts }) => `${code} ${JSON.stringify(facts)}`);

test("check prints a screenful, the errors first, and counts what it leaves out; --all prints everything", async () => {
  const { err } = await run("check");
  const lines = err.trim().split("\n");
  assert.ok(lines.length <= 40, `${lines.length} lines`);
  assert.match(lines[0]!, /^error "2700501112309" is not a valid GTIN: its check digit is wrong$/);
  assert.match(
    lines[1]!,
    /^ +sources\/books\.json#\/@graph\/0\/hasVariant\/0 \[\/hasVariant\/gtin13\], variant FX-101$/,
  );
  assert.match(err, /→ Get the number again from its source, in a column formatted as text\. {2}check\/barcode\n/);
  assert.match(err, /And \d+ more kinds of finding \(\d+ errors, \d+ warnings, \d+ notes\): --all lists them\.\n/);
  assert.match(lines.at(-1)!, /^\d+ errors, \d+ warnings, \d+ notes$/);
  const all = (await run("check", "--all")).err;
  const { findings } = JSON.parse((await run("check", "--format", "json")).out) as { findings: Finding[] };
  assert.ok(findings.length > 50);
  for (const { code } of findings) assert.ok(all.includes(`  ${code}\n`) || all.includes(` ${code}\n`), code);
});

test("plan, build and rehearse count what check reports, and print only what is new", async () => {
  const known = new Set(codesOf((await run("check", "--format", "json")).out));
  const summary = /^\d+ errors, \d+ warnings, \d+ notes in the sources, as in zest-tier check\n$/m;
  for (const command of ["plan", "build", "rehearse"]) assert.match((await run(command)).err, summary, command);
  // Of what is only seen when the files are written there is one kind.
  for (const command of ["plan", "build"]) {
    const { err } = await run(command);
    const printed = [...err.matchAll(/ ([a-z]+\/[a-z-]+)$/gm)].map(([, code]) => code);
    assert.deepEqual(printed, ["write/names-incomplete"], err);
  }
  const held = await run("build", "--hold-back");
  assert.match(held.err, /warning the record is held back/);
  const own = codesOf((await run("plan", "--hold-back", "--format", "json")).out);
  const others = own.filter((one) => !known.has(one)).map((one) => one.split("/")[0]);
  assert.deepEqual(new Set(others), new Set(["build"]), "only holding back is new to a plan");
});

test("equal findings are gathered, with their records and how many more there are", () => {
  const list = Array.from({ length: 9 }, (_, at) =>
    finding(
      "check/no-code",
      { kind: "variant" },
      { file: "a.csv", line: at + 2, record: { kind: "variant", key: `v${at}` } },
    ),
  );
  const io = { colour: false } as Parameters<typeof coloursOf>[0];
  const view = { colours: coloursOf(io), width: 120, language: "en", lines: 40 } as const;
  const text = renderFindings(list, view);
  assert.equal(
    text,
    [
      "error the variant has no code",
      "      a.csv:2, variant v0; a.csv:3, variant v1; a.csv:4, variant v2; and 6 more places",
      "      → Give it a code.  check/no-code",
      "",
      "9 errors",
      "",
    ].join("\n"),
  );
});

test("a screenful is kept whatever the findings are", () => {
  const codes = Object.keys(findingTable) as FindingCode[];
  const io = { colour: false } as Parameters<typeof coloursOf>[0];
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.constantFrom(...codes), fc.nat(30)), { maxLength: 80 }), (given) => {
      const list = given.map(([code, line]) =>
        finding(code, anyFacts as never, { file: "a.csv", line, record: { kind: "product", key: `p${line}` } }),
      );
      const text = renderFindings(list, { colours: coloursOf(io), width: 120, language: "en", lines: 40 });
      assert.ok(text.split("\n").length <= 41, text);
      const told = text.match(/(\d+) (?:error|warning|note)s?(?=[,\n]|$)/g) ?? [];
      assert.ok(list.length === 0 || told.length > 0);
    }),
  );
});

/** Facts that are there whatever is asked for: lists where a text joins them, else a word. */
const anyFacts = new Proxy(
  {},
  {
    get: (_, name) =>
      /^(nearest|candidates|examples|chain|kinds|names|among|reasons|ids|ways|fields|missing|columns|keys|elsewhere|refusedBy|imports)$/.test(
        String(name),
      )
        ? ["x"]
        : "x",
  },
);

test("every finding of damaged catalogues has a whole German sentence of its own", async () => {
  const seen = new Set<string>();
  await fc.assert(
    fc.asyncProperty(damagedRich(), async (rich) => {
      const { findings } = await readRich(rich);
      for (const one of findings.list()) {
        const [german, english] = [describeFinding(one, "de"), describeFinding(one)];
        for (const text of [german.message, german.remedy]) {
          assert.ok(text.length > 3 && !/\{\d\}|undefined|\[object|NaN/.test(text), text);
        }
        assert.notEqual(german.message, english.message);
        assert.notEqual(german.remedy, english.remedy);
        seen.add(one.code);
      }
    }),
  );
  const [english, german] = await Promise.all(
    ["en", "de"].map(async (lang) => {
      const { out } = await run("check", "--format", "json", "--language", lang);
      return (JSON.parse(out) as { findings: { code: string; message: string; remedy: string }[] }).findings;
    }),
  );
  german!.forEach(({ code, message, remedy }, at) => {
    assert.ok(!/\{\d\}|undefined|\[object|NaN/.test(message + remedy), message);
    assert.notEqual(message, english![at]!.message);
    assert.notEqual(remedy, english![at]!.remedy);
    seen.add(code);
  });
  assert.ok(seen.size > 45, `${seen.size} codes`);
});

test("--language de: findings, steps and run sheets are in German", async () => {
  assert.match((await run("check", "--language", "de")).err, /ist keine gültige GTIN: ihre Prüfziffer ist falsch/);
  const plan = await run("plan", "--language", "de");
  assert.match(plan.out, /Eine Sicherung der Plattform speichern/);
  const text = readFileSync(join(rough, "project.yaml"), "utf8");
  cpSync(join(root, "demo/clean"), join(rough, "..", "clean"), { recursive: true });
  const built = await run("build", "../clean/project.yaml", "--language", "de");
  assert.equal(built.code, 0, built.err);
  const sheet = readFileSync(join(rough, "../clean/upload-pennywort/run-sheet.md"), "utf8");
  assert.match(sheet, /# bramblecomb: Upload zu pennywort/);
  assert.match(sheet, /84 Produkte mit 284 Artikelnummern: 305 Zeilen angelegt, keine abgelehnt/);
  assert.match(readFileSync(join(rough, "../clean/upload-pennywort/run-sheet.html"), "utf8"), /<html lang="de">/);
  assert.equal(readFileSync(join(rough, "project.yaml"), "utf8"), text);
});

test("each command that takes a format writes it: one document for programs, one of findings", async () => {
  const words: Readonly<Record<string, readonly string[]>> = {
    trace: ["--cell", "01-items.csv:2"],
    guide: ["pennywort"],
    calibrate: ["sources/range.csv", "--layout", "layouts/range.yaml"],
    draft: ["sources/range.csv"],
    new: ["new-FORMAT", "sources/range.csv", "--for", "pennywort"],
    translations: ["--into", "fr"],
  };
  // The demo begins servers, and these need an export.
  const others = new Set(["demo", "compare", "collect", "rehearse", "build"]);
  const seen: string[] = [];
  for (const { name, options = [] } of commands) {
    const formats = options.find(({ flags }) => flags.startsWith("--format"))?.choices ?? [];
    if (others.has(name) || formats.length === 0) continue;
    for (const format of formats.filter((one) => one !== "text")) {
      const given = (words[name] ?? []).map((word) => word.replace("FORMAT", format));
      const { out, err } = await run(name, ...given, "--format", format);
      assert.notEqual(out, "", `${name} ${format}: ${err}`);
      const document = JSON.parse(out) as { command?: string; version?: string };
      assert.ok(format === "sarif" ? document.version === "2.1.0" : document.command === name, `${name} ${format}`);
      seen.push(`${name} ${format}`);
    }
  }
  for (const wanted of ["check sarif", "plan sarif", "trial sarif", "trace sarif", "ledger sarif", "reshape json"])
    assert.ok(seen.includes(wanted), wanted);
});

test("SARIF of every finding and of the demo is valid by the standard's schema, and says the same", async () => {
  const ajv = new Ajv2020({ strict: false, allErrors: true });
  addFormats.default(ajv);
  const schema = JSON.parse(readFileSync(join(root, "packages/cli/test/sarif/sarif-2.1.0.json"), "utf8")) as object;
  const isValid = ajv.compile(schema);
  const { out } = await run("check", "--format", "sarif");
  const log = JSON.parse(out) as { runs: [{ results: { ruleId: string; message: { text: string } }[] }] };
  assert.ok(isValid(log), JSON.stringify(isValid.errors?.slice(0, 3)));
  const { findings } = JSON.parse((await run("check", "--format", "json")).out) as {
    findings: { code: string; message: string }[];
  };
  assert.deepEqual(
    log.runs[0].results.map(({ ruleId, message }) => [ruleId, message.text]),
    findings.map(({ code, message }) => [code, message]),
  );
  const location = {
    file: "a b/ü.xlsx",
    sheet: "S 1",
    line: 3,
    char: 2,
    column: "EAN",
    record: { kind: "product", key: "p" },
  };
  const each = (Object.keys(findingTable) as FindingCode[]).map((code) =>
    finding(code, anyFacts as never, location, [{ file: "b.json", pointer: "/a/0" }]),
  );
  for (const language of ["en", "de"] as const)
    assert.ok(isValid(toSarif(each, "1.0.0", language)), JSON.stringify(isValid.errors?.slice(0, 3)));
  assert.ok(!isValid({ version: "2.1.0", runs: [{}] }), "the check can fail");
  assert.ok(isValid(JSON.parse(JSON.stringify(toSarif([], "1.0.0")))));
  void new Findings();
});

test("a project with old words gets a finding at each, with the new word", async () => {
  const project = join(rough, "..", "old.yaml");
  writeFileSync(
    project,
    "project: old\nsources: [{ file: a.csv, layout: old-layout.yaml }]\nkinds: { product: { fields: { maker: { refers to: brand, tie: linking } } } }\ntargets:\n  - target: pennywort\n    repairs: {}\n    stops: []\n",
  );
  const { findings } = JSON.parse((await run("check", project, "--format", "json")).out) as {
    findings: { code: string; message: string; at: { line: number } }[];
  };
  assert.deepEqual(
    findings.filter(({ code }) => code === "given/old-word").map(({ message, at }) => [at.line, message]),
    [
      [3, '"tie" is now called "dependency"'],
      [6, '"repairs" is now called "bulk changes"'],
      [7, '"stops" is now called "manual steps"'],
    ],
  );
});

test("old options and the old command say what they are called now", async () => {
  for (const [argv, now] of [
    [["plan", "--target", "pennywort"], "--for"],
    [["build", "--replace"], "--whole-range"],
    [["build", "--repair", "x"], "--bulk-change"],
    [["words", "--into", "de"], "translations"],
  ] as const) {
    const { code, err } = await run(...argv);
    assert.equal(code, 2, err);
    assert.ok(err.includes(`is now called ${now}`), err);
  }
});

/** docs/safety.md: what is promised of hostile files and broken disks, the caps, the packages that are used. */

import { readFileSync } from "node:fs";
import { capNames, capTable } from "zest-tier";

const root = new URL("../../../../", import.meta.url);

interface Manifest {
  readonly dependencies?: Readonly<Record<string, string>>;
  readonly license?: string;
}

const manifestOf = (folder: string): Manifest =>
  JSON.parse(readFileSync(new URL(`${folder}/package.json`, root), "utf8")) as Manifest;

/** The folders of what is published or built, with what they are called on the page. */
const users = {
  "packages/library": "library",
  "packages/cli": "command line",
  "packages/standins": "stand-ins",
  "examples/kit": "pages",
  "examples/workbench": "workbench",
} as const;

/** Why each package is there. A package without a reason does not get onto the page: a test fails. */
export const reasons: Readonly<Record<string, string>> = {
  "@e965/xlsx": "takes workbooks apart (XLSX, XLS, ODS) and writes them",
  "@exodus/bytes": "writes encodings other than UTF-8",
  "@marcbachmann/cel-js": "evaluates expressions (CEL)",
  "@noble/hashes": "SHA-256 in browsers",
  "@sindresorhus/slugify": "slugs",
  "@streamparser/json": "JSON, streaming",
  "big.js": "exact decimals",
  chardet: "tells encodings apart",
  "crc-32": "checksums of archives",
  "d3-dsv": "quotes cells of CSV",
  "fast-xml-parser": "writes XML",
  "fastest-levenshtein": "the nearest spelling",
  "franc-min": "the language of texts in drafts",
  hepburn: "slugs of Japanese syllables",
  fflate: "packs and unpacks archives",
  papaparse: "takes CSV apart",
  re2js: "patterns in linear time",
  saxes: "takes XML apart; no external entities",
  yaml: "files that people write",
  zod: "the schemas of those files",
  "@hono/node-server": "serves pages and stand-ins",
  hono: "routes of the servers",
  "cli-progress": "the bar while long work goes on",
  "cli-table3": "columns of text",
  "env-paths": "the folder of a program's cache",
  commander: "arguments and help",
  "@pnpm/tabtab": "completion scripts of shells",
  picocolors: "colours",
  "wrap-ansi": "breaks lines",
  "csv-parse": "the stand-ins' own reader of CSV",
  libsql: "the stand-ins' storage",
  "read-excel-file": "the stand-ins' own reader of workbooks",
  yauzl: "the stand-ins' own reader of archives",
  "@mantine/core": "interface components",
  "@mantine/hooks": "needed by the components",
  react: "the pages",
  "react-dom": "the pages",
  comlink: "calls between a page and its worker",
};

interface Used {
  readonly name: string;
  readonly by: readonly string[];
  readonly license: string;
}

/** What others made, and is installed with what is published or built. */
export function usedPackages(): readonly Used[] {
  const by = new Map<string, string[]>();
  for (const [folder, user] of Object.entries(users))
    for (const name of Object.keys(manifestOf(folder).dependencies ?? {}))
      if (!name.startsWith("@zest-tier/") && name !== "zest-tier") by.set(name, [...(by.get(name) ?? []), user]);
  return [...by]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, own]) => ({ name, by: own, license: manifestOf(`node_modules/${name}`).license ?? "" }));
}

const promises = `# Safety

Files from outside are taken for hostile until they are parsed. This page lists what is promised, how it is tested, and where the limits are.

## What is promised

| promise | how it is tested |
|---|---|
| Whatever a file holds, the command ends with findings, in time and within memory | \`cli/test/hostile.test.ts\` with files that once crashed a reader; \`npm run fuzz\` |
| XML has no external entities, and none that expand | \`library/test/formats.test.ts\` |
| Archives unpack to a bounded size, and no name leads out of its folder; two files of one name are refused | \`formats.test.ts\` |
| Workbooks are looked at before a package takes them apart: no cell far away costs memory | \`hostile.test.ts\` |
| Patterns of expressions run in linear time; a loop within a loop is refused | \`hostile.test.ts\` |
| Devices and pipes are refused as files | \`hostile.test.ts\` |
| Control characters and changes of writing direction are shown by their numbers in everything printed, and escaped in JSON | \`hostile.test.ts\` |
| The same in run sheets, guides, drawings and on all pages; no markup of a catalogue is markup there | \`hostile.test.ts\`, \`examples/workbench\` |
| Cells that a spreadsheet would take for a formula are reported | \`library/test/before-upload.test.ts\` |
| Files that a project names stay in its folder and those under \`outside\`, links followed first | \`library/test/outside.test.ts\` |
| The stand-ins and the shopfront answer this machine only, and let no page of another origin change anything. The workbench's server takes nothing | \`cli/test/servers.test.ts\`, \`examples/workbench\` |
| Servers go on whatever they are sent: archives, workbooks, bodies of JSON; others are answered during a long upload | \`servers.test.ts\` |
| Uploads at once lose nothing and double nothing | \`servers.test.ts\` |
| An upload folder appears whole or not at all; a ledger's batch counts whole or not at all | \`cli/test/disk.test.ts\`, \`crash.test.ts\` |
| Whatever the disk does, and whenever the process ends: nothing is lost, doubled or half-written, and the next run goes on | \`crash.test.ts\`; \`npm run crash\` |
| What layouts, targets and projects were parsed to is kept in the user's cache folder, for the user alone. A damaged file there is not believed. The folder can be deleted at any time; \`ZEST_TIER_KEEP=off\` keeps nothing | \`library/test/given-kept.test.ts\`, \`cli/test/cli.test.ts\` |
| Two commands at once do not spoil each other's files | \`disk.test.ts\` |

\`npm run fuzz -- --minutes 10\` damages the demo's sources, layouts and targets, a small project, and the answers of a platform. The functions that read such files get them. An exception, more than 10 seconds, or more than 1.5 GB fails. It prints the seed of each failure; \`--only SEED\` tries it again, and \`--keep FOLDER\` keeps its input. What once failed is in \`packages/cli/test/fuzz/corpus\`, and runs with the tests.

\`npm run crash\` counts the calls of the file system that a build, a collection of ids and the demo's upload make. At each of them in turn the disk is full, reports a fault, refuses, or takes only half. Or the process is killed. \`--every N\` tries each Nth call.

## Limits

- A project says itself what it may read under \`outside\`. Look at that line before you run a project of somebody you do not know.
- Between the moment that a path is checked and the moment that it is read, another program could put a link in its place.
- An import into a stand-in is worked through in pieces. While it reads or answers with very many rows, others wait up to two seconds.
- A command line that is given a hostile project runs its expressions. They are bounded, but they can be many.
- The workbench reads files in the browser: its memory is that of the page.`;

/** The page. */
export function safetyPage(about: string): string {
  const caps = capNames.map((name) => `| \`${name}\` | ${capTable[name].most} | ${capTable[name].counts} |`);
  const packages = usedPackages().map(
    ({ name, by, license }) => `| \`${name}\` | ${license} | ${by.join(", ")} | ${reasons[name] ?? ""} |`,
  );
  return [
    about,
    promises,
    "## Caps\n\nWhat is over a cap is not read, and is a finding with the cap. A project raises one for its sources under `caps`: `caps: { columns: 20000 }`.",
    `| cap | at most | counts |\n|---|--:|---|\n${caps.join("\n")}`,
    "Files that people write (projects, layouts, targets) have at most 2 000 000 characters.",
    "## Packages\n\nWhat others made, with its licence and why it is there. Packages that npm installs bring their licences. Built pages contain code of others: the texts of those licences are in `third-party-notices.md` beside each page.",
    `| package | licence | used by | why |\n|---|---|---|---|\n${packages.join("\n")}`,
  ].join("\n\n");
}

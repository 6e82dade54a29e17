/** The pages of docs/ and the published schemas that are made from data, as texts by their path. */

import { z } from "zod";
import { findingTable } from "zest-tier";
import {
  builtInKinds,
  exampleFacts,
  expressionReference,
  kindMeanings,
  knownMeaning,
  layoutReference,
  projectReference,
  targetReference,
  type FieldSpec,
  type KindSpec,
  type ReferenceSection,
} from "zest-tier/parts";
import { givenLayout, givenProject, givenTarget } from "zest-tier/schemas";
import { exportsAsMarkdown, hostEntries, partsEntry, wholeEntry } from "./api-page.js";
import type { Command } from "./command.js";
import { sampleFacts } from "./finding-samples.js";
import { commands } from "./main.js";
import { recipePages, recipesByFinding } from "./recipe-pages.js";
import { safetyPage } from "./safety-page.js";

const made = "<!-- Made by `npm run docs`; changes here are lost. -->";

const apiAbout = `${made}

# The library

Everything that \`zest-tier\` exports. The examples run as tests. \`ports\`, \`files\`, \`sources\`, \`target\`, \`planned\`, \`upload\` are of the demo: see the beginning of \`packages/library/test/api.test.ts\`. The stages by themselves are in [\`zest-tier/parts\`](parts.md), what belongs to a host in [\`/node\`, \`/web\` and \`/schemas\`](hosts.md).`;

const partsAbout = `${made}

# The stages

Everything that \`zest-tier/parts\` exports: the stages, each usable on its own. [Architecture](../architecture.md) shows how they follow each other. The examples run as tests; what they begin with stands at the beginning of \`packages/library/test/parts.test.ts\`.`;

const hostsAbout = `${made}

# Node, browsers, schemas

What the library has for the place where it runs. The examples run as tests.`;

function hostsPage(): string {
  const parts = hostEntries.map((entry) => exportsAsMarkdown(entry));
  return [hostsAbout, ...parts].join("\n\n");
}

/** By path from the project's root. */
export function madeFiles(): ReadonlyMap<string, string> {
  return new Map([
    ["docs/findings.md", findingsPage()],
    ["docs/reference/kinds.md", kindsPage()],
    ["docs/reference/layout-words.md", settingsPage("Words of a layout", layoutAbout, layoutReference)],
    ["docs/reference/project-words.md", settingsPage("Words of a project", projectAbout, projectReference)],
    ["docs/reference/target-words.md", settingsPage("Words of a target", targetAbout, targetReference)],
    ["docs/reference/expressions.md", expressionsPage()],
    ["docs/reference/api.md", `${apiAbout}\n\n${exportsAsMarkdown(wholeEntry)}`],
    ["docs/reference/parts.md", `${partsAbout}\n\n${exportsAsMarkdown(partsEntry)}`],
    ["docs/reference/hosts.md", hostsPage()],
    ["docs/safety.md", safetyPage(made)],
    ...recipePages(made),
    ...commands.map((command) => [`docs/commands/${command.name}.md`, commandPage(command)] as const),
    ...Object.entries({ layout: givenLayout, target: givenTarget, project: givenProject }).map(
      ([name, schema]) =>
        [
          `packages/library/schemas/${name}.schema.json`,
          `${JSON.stringify(z.toJSONSchema(schema, { io: "input" }), null, 2)}\n`,
        ] as const,
    ),
  ]);
}

const page = (title: string, ...parts: readonly string[]): string => `${[`# ${title}`, made, ...parts].join("\n\n")}\n`;
const table = (headers: readonly string[], rows: readonly (readonly string[])[]): string =>
  [headers, headers.map(() => "---"), ...rows].map((cells) => `| ${cells.join(" | ")} |`).join("\n");
const inCode = (text: string): string => text.replaceAll("|", "\\|");
const inTable = (text: string): string => inCode(text).replaceAll("&", "&amp;").replaceAll("<", "&lt;");
/** Lines of a table's cell stand below each other. */
const code = (text: string): string =>
  text
    .split("\n")
    .filter((line) => line !== "")
    .map((line) => `\`${inCode(line)}\``)
    .join("<br>");
const sentence = (text: string): string => `${text[0]!.toUpperCase()}${text.slice(1)}.`;

function findingsPage(): string {
  const all = Object.entries(findingTable);
  const stages = new Set(all.map(([name]) => name.split("/")[0]!));
  const recipes = recipesByFinding();
  return page(
    "Findings",
    "Every finding that Zest Tier can report, with an example of its message. Errors block a build. `--despite CODE` builds in spite of one code; `--hold-back` leaves out the records with errors.",
    ...[...stages].map((stage) => {
      const ofStage = all.filter(([name]) => name.startsWith(`${stage}/`));
      const rows = ofStage.map(([name, { severity, says, remedy }]) => [
        code(name),
        severity,
        inTable((says as (facts: unknown) => string)(sampleFacts(name))),
        remedy,
        (recipes.get(name) ?? []).join("<br>"),
      ]);
      return `## ${stage}\n\n${table(["code", "severity", "example", "what to do", "shown in"], rows)}`;
    }),
  );
}

function kindsPage(): string {
  const product = builtInKinds.find(({ name }) => name === "product")!;
  const variant = builtInKinds.find(({ name }) => name === "variant")!;
  const passed = variant.fields.filter(({ name, own }) => !own && product.fields.some((one) => one.name === name));
  const entries = Object.keys(variant.entries ?? {});
  return page(
    "Kinds and fields",
    "A record is of a kind. This page lists every kind with its fields. A layout names a field as `product.name@en`: the kind, the field, and the language if the field has one.",
    "A field of an entry is named by its list: `variant.prices(price).amount` is the amount of the entry `price` in the list `prices`. A project can add kinds and fields: see [Words of a project](project-words.md).",
    [
      "## From product to variant",
      "A product without variants is a *single*: it is sold itself, and has the fields of a variant too.",
      `A variant that has no value of its own takes the value of its product. This holds for ${passed.map(({ name }) => code(name)).join(", ")}. It also holds for one entry of ${entries.map(code).join(", ")} that a column names, such as \`variant.prices(price).amount\`.`,
      `${variant.fields
        .filter(({ own }) => own)
        .map(({ name }) => code(name))
        .join(", ")} never pass from product to variant.`,
    ].join("\n\n"),
    ...builtInKinds.map(kindSection),
  );
}

function kindSection(kind: KindSpec): string {
  const rows = kind.fields.map((field) => {
    const { means, example } = knownMeaning(kind.name, field.name)!;
    return [code(field.name), typeOf(field), sentence(inTable(means)), code(example)];
  });
  if (!kind.entryKey) {
    const key = knownMeaning(kind.name, "key")!;
    rows.unshift([code("key"), "text", sentence(key.means), code(key.example)]);
  }
  const lists = Object.entries(kind.entries ?? {}).map(([name, of]) => [
    code(name),
    `list of [${of}](#${of})`,
    kindMeanings[of]!,
    code(entryExample(kind.name, name, of)),
  ]);
  return [
    `## ${kind.name}`,
    kindMeanings[kind.name]!,
    ...(kind.entryKey
      ? [`An entry of a record. Entries of a record differ in ${kind.entryKey.map(code).join(", ")}.`]
      : []),
    table(["field", "type", "meaning", "example"], [...rows, ...lists]),
  ].join("\n\n");
}

function typeOf({ type, perLanguage, reference, among }: FieldSpec): string {
  if (reference) return `${reference.list ? "list of " : ""}[${reference.to}](#${reference.to})`;
  if (among) return `one of ${among.map(code).join(", ")}`;
  return perLanguage ? `${type} in each language` : type!;
}

/** A binding of one field of an entry: the key in parentheses, and a field that is not the key. */
function entryExample(kind: string, list: string, of: string): string {
  const { fields, entryKey } = builtInKinds.find(({ name }) => name === of)!;
  const [first] = entryKey!;
  const other = fields.find(({ name }) => !entryKey!.includes(name)) ?? fields.find(({ name }) => name !== first)!;
  const key = knownMeaning(of, first!)!.example;
  return `${kind}.${list}(${key}).${other.name}${other.perLanguage ? "@en" : ""}`;
}

const layoutAbout =
  "A [layout](../layouts.md) says how records stand in the rows and cells of a file. This page has every word with one example. An example is a part of a layout.";
const projectAbout =
  "A [project](../projects.md) names sources, layouts, rules and targets. This page has every word with one example. An example is a part of a project.";

const targetAbout =
  "A [target](../targets.md) describes a platform. This page has every word with one example. An example is a part of a target.";

function settingsPage(title: string, about: string, reference: readonly ReferenceSection[]): string {
  return page(
    title,
    about,
    ...reference.map(({ title: section, about: what, entries }) => {
      const rows = entries.map(({ word, means, example }) => [code(word), inTable(means), code(example)]);
      return `## ${section}\n\n${what}\n\n${table(["word", "meaning", "example"], rows)}`;
    }),
  );
}

function expressionsPage(): string {
  return page(
    "Expressions",
    "Conditions and computed fields are written in [CEL](https://cel.dev), an open expression language. Numbers are exact decimals. Each example shows what it gives for this record:",
    `\`\`\`json\n${JSON.stringify(exampleFacts, null, 2)}\n\`\`\``,
    ...expressionReference.map(({ title, entries }) => {
      const rows = entries.map(({ name, means, example, gives }) => [code(name), means, code(example), code(gives)]);
      return `## ${title}\n\n${table(["function or operator", "meaning", "example", "gives"], rows)}`;
    }),
  );
}

function commandPage({ name, summary, argument, options, examples }: Command): string {
  const usage = `zest-tier ${name}${argument ? ` ${argument.flags}` : ""}${options.length > 0 ? " [options]" : ""}`;
  const rows = [
    ...(argument ? [[code(argument.flags), inTable(argument.means)]] : []),
    ...options.map(({ flags, means, choices, preset }) => [
      code(flags),
      inTable(
        `${means}${choices ? ` (${choices.join(", ")})` : ""}${preset === undefined ? "" : `; ${preset} if left out`}`,
      ),
    ]),
  ];
  return page(
    `zest-tier ${name}`,
    sentence(summary),
    `\`\`\`\n${usage}\n\`\`\``,
    table(["argument or option", "meaning"], rows),
    "## Examples",
    ...examples.map(({ line, does }) => `\`\`\`sh\n${line}\n\`\`\`\n\n${sentence(does)}`),
    "## Output",
    "Exit codes: 0 fine, 1 errors found, 2 usage error, 3 could not read or write. Data goes to standard output, findings to standard error. With `--format json` both are one document on standard output.",
  );
}

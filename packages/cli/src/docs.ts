/** Writes the parts of docs/ that are made from data: findings, a page a command, and the published schemas. `npm run docs`. */

import { mkdirSync, writeFileSync } from "node:fs";
import { z } from "zod";
import { findingTable, givenLayout, givenProject, givenTarget } from "zest-tier";
import type { Command } from "./command.js";
import { commands } from "./main.js";

const root = new URL("../../../../", import.meta.url);
const made = "<!-- Made by `npm run docs`; changes here are lost. -->";

/** Facts that show their own names, so that a message can be shown without a case. */
const lists = new Set([
  "nearest",
  "candidates",
  "examples",
  "chain",
  "kinds",
  "names",
  "among",
  "reasons",
  "ids",
  "ways",
  "fields",
  "missing",
  "columns",
  "keys",
]);
const namedFacts = new Proxy(
  {},
  { get: (_, name) => (lists.has(String(name)) ? [`‹${String(name)}›`] : `‹${String(name)}›`) },
);

function findingsPage(): string {
  const sections = new Map<string, string[]>();
  for (const [code, { severity, says, remedy }] of Object.entries(findingTable)) {
    const stage = code.slice(0, code.indexOf("/"));
    const message = (says as (facts: unknown) => string)(namedFacts).replaceAll("|", "\\|");
    const lines = sections.get(stage) ?? [];
    sections.set(stage, [...lines, `| \`${code}\` | ${severity} | ${message} | ${remedy} |`]);
  }
  const tables = [...sections].map(
    ([stage, lines]) =>
      `## ${stage}\n\n| code | severity | says | what to do |\n|---|---|---|---|\n${lines.join("\n")}`,
  );
  return `# Findings\n\n${made}\n\nEvery finding that Zest Tier can make. Errors stop a build, unless their code is given with \`--despite\` or their records are left out with \`--hold-back\`.\n\n${tables.join("\n\n")}\n`;
}

function commandPage({ name, summary, argument, options, examples }: Command): string {
  const usage = `zest-tier ${name}${argument ? ` ${argument.flags}` : ""}${options.length > 0 ? " [options]" : ""}`;
  const rows = [
    ...(argument ? [[argument.flags, argument.means]] : []),
    ...options.map((option) => [
      option.flags,
      `${option.means}${option.choices ? ` (${option.choices.join(", ")})` : ""}${option.preset === undefined ? "" : `; ${option.preset} if left out`}`,
    ]),
  ];
  const table = rows.map(([flags, means]) => `| \`${flags}\` | ${means} |`).join("\n");
  const shown = examples
    .map(({ line, does }) => `\`\`\`sh\n${line}\n\`\`\`\n\n${does[0]!.toUpperCase()}${does.slice(1)}.`)
    .join("\n\n");
  return `# zest-tier ${name}\n\n${made}\n\n${summary[0]!.toUpperCase()}${summary.slice(1)}.\n\n\`\`\`\n${usage}\n\`\`\`\n\n| | |\n|---|---|\n${table}\n\n## Examples\n\n${shown}\n\nExit codes: 0 fine, 1 findings of severity error, 2 a usage error. Data goes to standard output, findings to standard error; with \`--format json\` both are one document on standard output.\n`;
}

mkdirSync(new URL("docs/commands", root), { recursive: true });
mkdirSync(new URL("packages/library/schemas", root), { recursive: true });
writeFileSync(new URL("docs/findings.md", root), findingsPage());
for (const command of commands) writeFileSync(new URL(`docs/commands/${command.name}.md`, root), commandPage(command));
for (const [name, schema] of Object.entries({ layout: givenLayout, target: givenTarget, project: givenProject }))
  writeFileSync(
    new URL(`packages/library/schemas/${name}.schema.json`, root),
    `${JSON.stringify(z.toJSONSchema(schema, { io: "input" }), null, 2)}\n`,
  );

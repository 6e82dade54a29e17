/** The references in docs/: every word and field is in them, and every example loads or evaluates. */

import assert from "node:assert/strict";
import { readdirSync, readFileSync } from "node:fs";
import { test } from "node:test";
import { parse, stringify } from "yaml";
import { z } from "zod";
import { describeFinding, Findings } from "#src/index.js";
import {
  baseLayout,
  baseProject,
  baseTarget,
  builtInKinds,
  compileLayout,
  exampleFacts,
  expressionReference,
  Kinds,
  knownMeaning,
  kindMeanings,
  layoutReference,
  loadProject,
  parseGiven,
  parseTarget,
  projectReference,
  targetReference,
  type ReferenceSection,
} from "#src/parts.js";
import { givenLayout, givenProject, givenTarget } from "#src/schemas.js";
import { exampleEvaluator } from "#src/derive/example.js";
import { filesOf } from "./support.js";

/** The names of all settings that a schema knows. */
function settingsOf(schema: z.ZodType): Set<string> {
  const names = new Set<string>();
  const walk = (node: unknown): void => {
    if (typeof node !== "object" || node === null) return;
    for (const [name, value] of Object.entries(node)) {
      if (name === "properties" && typeof value === "object" && value !== null)
        Object.keys(value).forEach((key) => names.add(key));
      walk(value);
    }
  };
  walk(z.toJSONSchema(schema, { io: "input", unrepresentable: "any" }));
  return names;
}

/** Settings that are explained where another one of the same name is, or with the word above them. */
const sameAs: Readonly<Record<string, readonly string[]>> = {
  layout: ["column", "namespaces", "of", "encoding", "kind", "header"],
  project: [
    ...["into", "axis", "values", "name", "take", "along", "key", "to", "under", "on", "instead of", "from", "by"],
    ...["pattern", "value", "in", "where", "keys", "escape", "sheet", "field", "constant", "of", "file"],
    // Codecs are explained with layouts.
    ...[...settingsOf(givenLayout)],
  ],
  target: ["name", "layout", ...[...settingsOf(givenLayout)]],
};

for (const [what, reference, schema] of [
  ["layout", layoutReference, givenLayout],
  ["project", projectReference, givenProject],
  ["target", targetReference, givenTarget],
] as const)
  test(`the reference of a ${what} has every word of its schema, and no other`, () => {
    const told = new Set(
      reference.flatMap(({ entries }: ReferenceSection) => entries.map(({ word }) => word.split(": ").at(-1)!)),
    );
    const known = settingsOf(schema);
    assert.ok(known.size > 40);
    assert.deepEqual(
      [...known].filter((name) => !told.has(name) && !sameAs[what]!.includes(name)),
      [],
    );
    assert.deepEqual(
      [...told].filter((name) => !known.has(name)),
      [],
    );
  });

/** A part of a file, over what it leaves out. */
function whole(base: string, part: string): string {
  const [given, own] = [parse(base) as Record<string, unknown>, parse(part) as Record<string, unknown>];
  return stringify({ ...given, ...own });
}

const messages = (findings: Findings): string[] => findings.list().map((one) => describeFinding(one).message);

/** What is wrong with a part of a layout. */
function messagesOfLayout(part: string): string[] {
  const findings = new Findings();
  const given = findings.took(parseGiven(whole(baseLayout, part), "example.yaml", givenLayout));
  if (given) findings.took(compileLayout(given.value, given.at, new Kinds()));
  return messages(findings);
}

type Part = Readonly<Record<string, unknown>>;
const isPart = (value: unknown): value is Part => typeof value === "object" && value !== null && !Array.isArray(value);
const over = (base: Part, part: Part): Part => ({
  ...base,
  ...Object.fromEntries(
    Object.entries(part).map(([name, own]) => {
      const below = base[name];
      return [name, isPart(own) && isPart(below) ? over(below, own) : own];
    }),
  ),
});

/** What is wrong with a part of a target. What it leaves out, at any depth, is as in `baseTarget`. */
function messagesOfTarget(part: string): string[] {
  const findings = new Findings();
  const text = stringify(over(parse(baseTarget) as Part, parse(part) as Part));
  findings.took(parseTarget(text, "example.yaml", new Kinds()));
  return messages(findings);
}

/** What is wrong with a part of a project. All its layouts are `baseLayout`. */
async function messagesOfProject(part: string): Promise<string[]> {
  const findings = new Findings();
  const layouts = [...part.matchAll(/layout: ([\w/-]+\.yaml)/g)].map(([, path]) => [path!, baseLayout] as const);
  const files = filesOf({
    "project.yaml": whole(baseProject, part),
    "range.yaml": baseLayout,
    ...Object.fromEntries(layouts),
  });
  const shippedLayout = (name: string) => Promise.resolve(name === "schema-org" ? baseLayout : undefined);
  const target = (name: string) =>
    Promise.resolve(readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8"));
  const project = findings.took(await loadProject("project.yaml", files, target, shippedLayout));
  return project ? messages(findings) : ["not loaded", ...messages(findings)];
}

test("every example of a layout's reference is read without a finding", () => {
  for (const { entries } of layoutReference)
    for (const { word, example } of entries) {
      assert.deepEqual(messagesOfLayout(example), [], `${word}\n${example}`);
    }
});

test("every example of a project's reference loads without a finding", async () => {
  for (const { entries } of projectReference)
    for (const { word, example } of entries) {
      assert.deepEqual(await messagesOfProject(example), [], `${word}\n${example}`);
    }
});

test("every example of a target's reference loads without a finding", () => {
  for (const { entries } of targetReference)
    for (const { word, example } of entries) {
      assert.deepEqual(messagesOfTarget(example), [], `${word}\n${example}`);
    }
});

test("every example of an expression gives what the reference says", () => {
  const evaluate = exampleEvaluator(exampleFacts);
  let count = 0;
  for (const { entries } of expressionReference)
    for (const { name, example, gives } of entries) {
      assert.equal(evaluate(example), gives, name);
      count++;
    }
  assert.ok(count > 15);
});

test("every built-in kind and field has a meaning and an example", () => {
  for (const { name, fields } of builtInKinds) {
    assert.ok(kindMeanings[name], name);
    for (const field of fields) {
      const meaning = knownMeaning(name, field.name);
      assert.ok(meaning && meaning.means !== "" && meaning.example !== "", `${name}.${field.name}`);
      if (field.among) assert.ok(field.among.includes(meaning.example), `${name}.${field.name}: ${meaning.example}`);
    }
  }
});

test("a field by another name is suggested, with the page that lists all fields", () => {
  for (const [field, nearest] of [
    ["product.images", "pictures"],
    ["variant.ean", "barcode"],
    ["product.title", "name"],
    ["variant.sku", "code"],
    ["product.manufacturer", "brand"],
    ["product.descripton", "description"],
  ]) {
    const findings = new Findings();
    const yaml = `layout: x\nrows: { each: variant, of: product, grouped by: P }\ncolumns: { P: product.key, A: ${field} }\n`;
    const given = findings.took(parseGiven(yaml, "x.yaml", givenLayout))!;
    findings.took(compileLayout(given.value, given.at, new Kinds()));
    const [one] = findings.list();
    const { message } = describeFinding(one!);
    assert.ok(message.includes(`Did you mean "${nearest}"?`), message);
    assert.match(message, /docs\/reference\/kinds\.md#(product|variant)/);
  }
});

test("every layout and every part of a project or a target in the docs loads without a finding", async () => {
  const folder = new URL("../../../../docs/", import.meta.url);
  let count = 0;
  for (const name of readdirSync(folder).filter((one) => one.endsWith(".md")))
    for (const [, info, block] of readFileSync(new URL(name, folder), "utf8").matchAll(
      /^ *```yaml(.*)\n([^]*?)^ *```$/gm,
    )) {
      // Whoever follows the page has the files beside it: the tests of the command line do.
      if (info!.includes("file=project.yaml")) continue;
      const isTarget = name === "targets.md" && !/^(layout|project):/.test(block!);
      const found = block!.startsWith("layout:")
        ? messagesOfLayout(block!)
        : isTarget
          ? messagesOfTarget(block!)
          : await messagesOfProject(block!);
      assert.deepEqual(found, [], `${name}\n${block}`);
      count++;
    }
  assert.ok(count >= 8);
});

/** From what was drawn to a target: the files of generated layouts, with an importer and rules for their columns. */

import fc from "fast-check";
import type { Binding, Given, PlainSheet } from "../layouts/feature.js";
import { drawn as drawnLayout, generate as generateLayouts, type Drawn } from "../layouts/generate.js";
import { extras, type DraftTarget } from "./extras.js";
import { importerValues, type ImporterWord } from "./importers.js";
import { isOfLists, isOfNumbers, isOfTheName, rulesFor, type OtherColumns } from "./rules.js";

export interface DrawnTarget {
  readonly laid: Drawn;
  /** Words of the importer, each with which of its values. */
  readonly importer: readonly { readonly word: ImporterWord; readonly way: number }[];
  readonly isForOneFile: boolean;
  /** Columns by number, each with which of its rules. */
  readonly wanted: number | null;
  readonly rules: readonly { readonly at: number; readonly way: number }[];
  readonly extras: readonly { readonly name: string; readonly way: number }[];
}

const settings = Object.keys(importerValues) as ImporterWord[];
/** Extras that few targets can have are drawn more often. */
const seldom = [
  "columns later",
  "columns later",
  "columns later",
  "each kind",
  "inherit",
] satisfies (keyof typeof extras)[];

interface Seldom {
  readonly word: string;
  readonly features: readonly string[];
  /** Whether it is about rows that are found by a column. */
  readonly isLinked?: boolean;
}

/** Words that few targets can have, each with the features that it needs. */
const scarce: readonly Seldom[] = [
  { word: "above", features: ["price", "offer"] },
  { word: "not below", features: ["price", "weight", "offer"] },
  { word: "generated from", features: ["two fields of a column", "name"] },
  { word: "picture", features: ["pictures"] },
  { word: "as many as", features: ["relations", "audience"] },
  { word: "entry key", features: ["redirects", "identifiers", "tiers"], isLinked: true },
];

export const drawnTarget: fc.Arbitrary<DrawnTarget> = fc.record({
  laid: drawnLayout,
  importer: fc.uniqueArray(fc.record({ word: fc.constantFrom(...settings), way: fc.nat(11) }), {
    maxLength: 4,
    selector: ({ word }) => word,
  }),
  isForOneFile: fc.boolean(),
  rules: fc.array(fc.record({ at: fc.nat(40), way: fc.nat(250) }), { maxLength: 4 }),
  /** One of the words above. */
  wanted: fc.option(fc.nat(scarce.length - 1), { freq: 2 }),
  extras: fc.uniqueArray(fc.record({ name: fc.constantFrom(...Object.keys(extras), ...seldom), way: fc.nat(11) }), {
    maxLength: 2,
    selector: ({ name }) => name,
  }),
});

export interface GeneratedTarget {
  readonly plain: readonly PlainSheet[];
  readonly target: Given;
  /** Its words, and what is laid down in it: for counting. */
  readonly combined: readonly string[];
}

/** What a rule says, whichever other columns it names. */
const wordOf = (rule: Given, headers: readonly string[]): string =>
  JSON.stringify(Object.entries(rule).map(([word, value]) => [word, headers.includes(value as string) ? "" : value]));

export function generate(given: DrawnTarget): GeneratedTarget {
  const wanted = given.wanted === null ? undefined : scarce[given.wanted];
  const laid = played(wanted ? fitFor(wanted, given.laid) : given.laid);
  const { before, plain, layouts, combined } = generateLayouts(laid);
  const files: Record<string, Record<string, unknown>> = {};
  for (const [at, { layout }] of before.entries())
    files[`before-${at + 1}`] = { layout: named(layout, `before ${at + 1}`) };
  // What is uploaded is not filled down: targets refuse the word.
  const uploaded = layouts.map((layout) => omitted(layout, "filled down"));
  const [goods, german] = uploaded.map(withoutMissing);
  files["goods"] = { layout: named(goods!, "goods") };
  if (german) files["german-texts"] = { layout: named(german, "german texts"), columns: creating(layouts[1]!) };
  const columns = goods!["columns"] as Readonly<Record<string, Binding>>;
  const headers = Object.keys(columns);
  const draft: DraftTarget = {
    files,
    imports: [
      ...before.map((_, at) => ({ file: `before-${at + 1}` })),
      // What is found by a column is there already.
      { file: "goods", ...(laid.isLinked ? { mode: "update" } : {}) },
      ...(german ? [{ file: "german-texts", mode: "update" }] : []),
    ],
    rest: {},
    headers,
    telling: tellingIn(goods!["rows"] as Given),
  };
  const importer = Object.fromEntries(
    given.importer
      .filter(({ word }) => isAbout(word, laid))
      .map(({ word, way }) => [word, importerValues[word][way % importerValues[word].length]]),
  );
  if (given.isForOneFile) draft.files["goods"]!["importer"] = importer;
  else draft.rest["importer"] = importer;
  const ruled = creating(layouts[0]!);
  for (const { at, way } of given.rules) {
    const words = new Map<string, { readonly header: string; readonly rule: Given }[]>();
    for (const header of headers)
      for (const rule of rulesOf(header, at + way)) {
        const word = wordOf(rule, headers);
        words.set(word, [...(words.get(word) ?? []), { header, rule }]);
      }
    // A word first, then a column that it means something in; every other time a word that few columns can have.
    const own = wanted && [...words].find(([word]) => word.includes(`"${wanted.word}"`))?.[1];
    const all = own ? [own] : [...words.values()];
    const few = all.filter((able) => able.length === 1);
    const among = way % 2 === 0 || few.length === 0 ? all : few;
    const able = among[(way >> 1) % among.length]!;
    const { header, rule } = able[at % able.length]!;
    ruled[header] = { ...ruled[header], ...rule };
  }
  draft.files["goods"]!["columns"] = ruled;

  function rulesOf(header: string, by: number): readonly Given[] {
    return rulesFor({
      header,
      binding: columns[header]!,
      isLane: isOfLane(goods!, columns[header]!),
      isCreating: creating(layouts[0]!)[header] !== undefined,
      others: othersThan(header, by),
    });
  }

  function othersThan(header: string, by: number): OtherColumns {
    const all = headers.filter((one) => one !== header && !isOfLane(goods!, columns[one]!));
    const nth = (some: readonly string[]) => some[by % Math.max(1, some.length)];
    const those = (is: (binding: Binding) => boolean) => nth(all.filter((one) => is(columns[one]!)));
    return {
      any: nth(all) ?? header,
      number: those(isOfNumbers),
      list: those(isOfLists),
      name: those(isOfTheName),
    };
  }
  const asked = wanted && Object.hasOwn(extras, wanted.word) ? [{ name: wanted.word, way: given.wanted ?? 0 }] : [];
  const more = [...asked, ...given.extras].filter(({ name }) => name !== "two files of goods" || isSplit(laid));
  for (const { name, way } of more) extras[name]!(draft, way);
  const target = {
    target: "made-up",
    version: 1,
    languages: ["en", "de"],
    endpoints: { pictures: "/pictures", upload: "/in/{name}", catalogue: "/all", lists: "/lists/{list}" },
    ...draft.rest,
    files: draft.files,
    imports: draft.imports,
  };
  return {
    plain,
    target,
    combined: [
      ...combined.filter((one) => !one.startsWith("cell:")),
      ...more.map(({ name }) => `extra: ${name}`),
      ...saidIn(target),
    ],
  };
}

/** Whether a word of the importer means something for such rows. */
function isAbout(word: ImporterWord, { shape, isLinked }: Drawn): boolean {
  const hasVersions = shape !== "flat" && !isLinked;
  const ofVersions: ReadonlySet<ImporterWord> = new Set([
    "children not named",
    "child of another parent",
    "parent without children",
    "axes of a known parent",
    "shared cells below the first row",
  ]);
  return hasVersions || (!ofVersions.has(word) && word !== "identified by");
}

/** Whether two files can share such rows. */
const isSplit = ({ shape, isLinked }: Drawn): boolean =>
  !isLinked && shape !== "grouped" && shape !== "grouped, every row" && shape !== "scattered";

/** Shapes, formats and headers that a target takes. */
function fitFor({ features: names, isLinked }: Seldom, laid: Drawn): Drawn {
  const missing = names.filter((name) => !laid.picked.some((one) => one.name === name));
  const picked = [...laid.picked, ...missing.map((name, at) => ({ name, way: laid.turn + at }))];
  return isLinked
    ? { ...laid, picked, isLinked, shape: laid.turn % 2 === 0 ? "flat" : "document" }
    : { ...laid, picked };
}

function played(laid: Drawn): Drawn {
  const shape = laid.shape === "expanded" ? "grouped" : laid.shape;
  return {
    ...laid,
    shape,
    // Whose data is wrong whatever the target.
    picked: laid.picked.filter(({ name }) => name !== "option groups"),
    isLinked: laid.isLinked && (shape === "flat" || shape === "document"),
  };
}

/** A target says elsewhere what becomes of names that no record has. */
const withoutMissing = (layout: Given): Given => ({
  ...layout,
  columns: Object.fromEntries(
    Object.entries(layout["columns"] as Given).map(([header, binding]) => {
      if (typeof binding !== "object" || binding === null || Array.isArray(binding)) return [header, binding];
      return [header, Object.fromEntries(Object.entries(binding).filter(([word]) => word !== "missing"))];
    }),
  ),
});

/** Columns whose names make records. */
const creating = (layout: Given): Record<string, Given> =>
  Object.fromEntries(
    Object.entries(layout["columns"] as Given).flatMap(([header, binding]) =>
      JSON.stringify(binding).includes('"missing":"create"') ? [[header, { unknown: "create" }]] : [],
    ),
  );

function tellingIn(rows: Given): string[] {
  const isOf = (one: unknown): one is { readonly column: string } =>
    typeof one === "object" && one !== null && "column" in one;
  return ["language", "found by", "marker", "joined by"].flatMap((word) => {
    const one = rows[word];
    return isOf(one) ? [one.column] : [];
  });
}

const named = (layout: Given, name: string): Given => ({ ...layout, layout: name });

const isOfLane = (layout: Given, binding: Binding): boolean => {
  const lanes = Object.keys(layout["lanes"] ?? {});
  const words = JSON.stringify(binding);
  return lanes.some((lane) => words.includes(`"${lane}.`));
};

/** The words of a target, each with its value where that is one of a few. */
export function saidIn(target: Given): string[] {
  const words: string[] = [];
  const { importer, files, imports, ...rest } = target as Record<string, Record<string, Given>>;
  const add = (where: string, given: Given | undefined) => {
    for (const [word, value] of Object.entries(given ?? {}))
      words.push(`${where}: ${word}${typeof value === "string" ? `: ${value}` : ""}`);
  };
  add("importer", importer);
  for (const file of Object.values(files ?? {})) {
    add("importer", file["importer"] as Given | undefined);
    for (const rule of Object.values((file["columns"] ?? {}) as Readonly<Record<string, Given>>))
      for (const [word, value] of Object.entries(rule))
        words.push(
          `column: ${word}${["blank", "over", "unknown", "looked up"].includes(word) ? `: ${String(value)}` : ""}`,
        );
    for (const word of Object.keys(file)) words.push(`file: ${word}`);
    for (const word of Object.keys(file["limits"] ?? {})) words.push(`limits: ${word}`);
  }
  for (const one of Object.values(imports ?? {})) for (const word of Object.keys(one)) words.push(`import: ${word}`);
  for (const word of Object.keys(rest)) words.push(`target: ${word}`);
  return [...new Set(words)];
}

const omitted = (given: Given, word: string): Given =>
  Object.fromEntries(Object.entries(given).filter(([one]) => one !== word));

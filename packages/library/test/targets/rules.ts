/** The rules that a column may have, by what is bound to it. */

import type { Binding, Given } from "../layouts/feature.js";

export interface RuledColumn {
  readonly header: string;
  readonly binding: Binding;
  readonly isLane: boolean;
  /** Whether its names make records. */
  readonly isCreating: boolean;
  /** Other columns of the file. */
  readonly others: OtherColumns;
}

export interface OtherColumns {
  readonly any: string;
  /** Of numbers, of lists, of names; undefined where there is none. */
  readonly number: string | undefined;
  readonly list: string | undefined;
  readonly name: string | undefined;
}

const asText = (binding: Binding): string => JSON.stringify(binding);
const fieldOf = (words: string): string => /"(?:field":")?([a-z]+[^"]*)"/.exec(words)?.[1] ?? "";
export function isOfNumbers(binding: Binding): boolean {
  const words = asText(binding);
  return /amount|weight|length|position|quantity|cost$/.test(fieldOf(words)) && !words.includes('"holds"');
}
export const isOfLists = (binding: Binding): boolean => /"list"|\.each/.test(asText(binding));
export const isOfTheName = (binding: Binding): boolean => /^product\.name(@en)?$/.test(fieldOf(asText(binding)));

const always: readonly Given[] = [{ recommended: true }, { "overwritten by": "the tills" }];
const ofTexts: readonly Given[] = [
  { "characters at most": 400 },
  { "characters at most": 3 },
  { "characters at most": 3, over: "cut" },
  { "characters recommended": 4 },
  { trimmed: true },
  { only: "a-zA-Z0-9ßn." },
  { "starts as": "begun" },
  { condition: { holds: "true", otherwise: "that is never" } },
  // Not of entries.
  { fixed: true },
];
const ofNumbers: readonly Given[] = [
  { from: "0" },
  { from: "20" },
  { to: "99999" },
  { to: "50" },
  { "places at most": 1 },
  { "starts as": "7" },
  { fixed: true },
];
const ofLists: readonly Given[] = [{ "entries at most": 9 }, { "entries at most": 1 }, { once: true }];
const ofNames: readonly Given[] = [
  { unknown: "refuse" },
  { unknown: "leave out" },
  { unknown: "create" },
  { "looked up": "as rows arrive" },
  { "looked up": "at the end of the file" },
  { "looked up": "before the file" },
  { "looked up": "after the import" },
  { unknown: "refuse", "in list": "known names" },
];
const ofMadeNames: readonly Given[] = [
  { unknown: "leave out" },
  { unknown: "refuse" },
  { unknown: "refuse", "in list": "known names" },
];
const ofPaths: readonly Given[] = [
  { "deep at most": 6 },
  { "deep at most": 1 },
  { unknown: "refuse", "in list": { name: "known shelves", "joined by": "+" } },
];
const blanks: readonly Given[] = ["clear", "leave", "refuse"].map((blank) => ({ blank }));

/** Rules that look at other columns. */
const besides = ({ any }: OtherColumns): readonly Given[] => [
  { "together with": any },
  { "only if": { field: "sort", is: "hire" } },
  { "needed if": { field: "sort", is: "hire" } },
];

/** What of them means something in a column like that. */
export function rulesFor({ binding, isLane, isCreating, others }: RuledColumn): readonly Given[] {
  const words = asText(binding);
  const field = fieldOf(words);
  if (words.includes('"axis') || words.includes('"constant')) return [...always, { required: true }];
  if (words.includes('"beside"')) return always;
  const isKey = /(product\.key|variant\.code)$/.test(field);
  if (isKey)
    return [...always, { required: true }, { "characters at most": 40 }, { trimmed: true }, { only: "cp0-9-" }];
  const isDate = /until|from$/.test(field);
  const isNumber = isOfNumbers(binding);
  const isList = isOfLists(binding);
  const isNamed = /"by"|missing|\.to"/.test(words);
  // Of a record that the row names.
  const isVia = /^product\.(brand|categories)\./.test(field);
  const isEntry = /\(|components|relations|supplies|properties/.test(field);
  if (isDate) return [...always, { required: true }];
  const usual = [
    ...always,
    ...(isLane ? [] : [...blanks, ...besides(others)]),
    { required: true },
    ...(!isNumber && !isNamed && !isList && !words.includes('"code words"')
      ? isEntry || isVia
        ? ofTexts.slice(0, -1)
        : ofTexts
      : []),
  ];
  const pair = isLane ? undefined : others.number;
  const own = [
    ...(/slug/.test(field) && others.name !== undefined ? [{ blank: "generate", "generated from": others.name }] : []),
    ...(/barcode/.test(field) ? [{ gtin: true }] : []),
    ...(isNumber ? (isEntry ? ofNumbers.slice(0, -1) : ofNumbers) : []),
    ...(isNumber && pair !== undefined ? [{ above: pair }, { "not below": pair }] : []),
    ...(isList && !isLane && !isVia ? ofLists : []),
    ...(isList && others.list !== undefined && !isLane ? [{ "as many as": others.list }] : []),
    ...(isNamed && !isCreating ? ofNames : []),
    ...(isNamed && isCreating && !words.includes('"within"') ? ofMadeNames : []),
    ...(words.includes('"path"') ? ofPaths : []),
    ...(/pictures.*file/.test(field) && !isVia ? [{ picture: true }] : []),
  ];
  // A value of the field: other words are refused at load.
  const [first = "begun"] = valuesOf(binding);
  return [...usual, ...own].map((rule) => (rule["starts as"] === "begun" ? { "starts as": first } : rule));
}

/** Two values that a column can hold, where not any text will do. */
export function valuesOf(binding: Binding): readonly [string, string] {
  const field = fieldOf(asText(binding));
  if (isOfNumbers(binding)) return ["7", "8"];
  if (/sort$/.test(field)) return ["service", "goods"];
  if (/status$/.test(field)) return ["ended", "paused"];
  if (/backorder$/.test(field)) return ["allowed", "refused"];
  if (/shown$|hidden$|required$/.test(field)) return ["true", "false"];
  if (/type$/.test(field)) return ["text", "number"];
  return ["full", "low"];
}

/** The rules that a column may have, by what is bound to it. */

import type { Binding, Given } from "../layouts/feature.js";

export interface RuledColumn {
  readonly header: string;
  readonly binding: Binding;
  readonly isLane: boolean;
  /** Whether its names make records. */
  readonly isCreating: boolean;
}

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
const ofPaths: readonly Given[] = [
  { "deep at most": 6 },
  { "deep at most": 1 },
  { unknown: "refuse", "in list": { name: "known shelves", "joined by": "+" } },
];
const blanks: readonly Given[] = ["clear", "leave", "refuse"].map((blank) => ({ blank }));

/** What of them means something in a column like that. */
export function rulesFor({ binding, isLane, isCreating }: RuledColumn): readonly Given[] {
  const words = JSON.stringify(binding);
  const field = /"(?:field":")?([a-z]+[^"]*)"/.exec(words)?.[1] ?? "";
  if (words.includes('"axis') || words.includes('"constant')) return [...always, { required: true }];
  if (words.includes('"beside"')) return always;
  const isKey = /(product\.key|variant\.code)$/.test(field);
  if (isKey)
    return [...always, { required: true }, { "characters at most": 40 }, { trimmed: true }, { only: "cp0-9-" }];
  const isDate = /until|from$/.test(field);
  const isNumber = /amount|weight|length|position|quantity|cost$/.test(field) && !words.includes('"holds"');
  const isList = words.includes('"list"') || /\.each/.test(words);
  const isNamed = /"by"|missing|\.to"/.test(words);
  // Of a record that the row names.
  const isVia = /^product\.(brand|categories)\./.test(field);
  const isEntry = /\(|components|relations|supplies|properties/.test(field);
  if (isDate) return [...always, { required: true }];
  return [
    ...always,
    ...(isLane ? [] : blanks),
    { required: true },
    ...(isNumber ? (isEntry ? ofNumbers.slice(0, -1) : ofNumbers) : []),
    ...(!isNumber && !isNamed && !isList && !words.includes('"code words"')
      ? isEntry || isVia
        ? ofTexts.slice(0, -1)
        : ofTexts
      : []),
    ...(isList && !isLane && !isVia ? ofLists : []),
    ...(isNamed && !isCreating ? ofNames : []),
    ...(isNamed && isCreating && !words.includes('"within"') ? [{ unknown: "leave out" }, { unknown: "refuse" }] : []),
    ...(words.includes('"path"') ? ofPaths.slice(0, isCreating ? 2 : 3) : []),
    ...(/pictures.*file/.test(field) ? [{ picture: true }] : []),
  ];
}

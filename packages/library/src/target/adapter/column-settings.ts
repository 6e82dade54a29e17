/** Which words of a column the rehearsal of a change cannot play, by what the column is in its file. */

import { firstOf } from "../../checked.js";
import type { Column, Layout } from "../../layout/layout.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import type { ColumnRule, GivenColumnRule } from "../schema.js";
import { rowFormOf } from "./importer.js";

/** What the machines hold of a column: a field, an entry of a list on rows of its own, or what rows are told apart by. */
type Holds = "field" | "list" | "entry" | "names beside" | "axis" | "word";

function holdsOf(layout: Layout, { header, scope, bindings }: Column): Holds {
  const { feed } = firstOf(bindings);
  const { shape } = layout;
  const isGrouped = rowFormOf(layout) === "grouped";
  if (scope.is === "lane") return "entry";
  if (feed.is === "key" || feed.is === "shape" || layout.link?.column === header) return "word";
  if (shape.is !== "flat" && scope.is === "child" && feed.is === "text" && feed.field === "code") return "word";
  if (!isGrouped) return "field";
  if (feed.is === "axis") return "axis";
  if (feed.is === "naming") return "names beside";
  const isList = feed.is === "entry" && feed.field.is === "reference" && feed.field.list;
  return isList || (feed.is === "reference" && feed.spec.inTree) ? "list" : "field";
}

type Blank = ColumnRule["blank"];
type HeldWord = "starts as" | "fixed" | "in list" | "picture" | "over";

interface PlayedSettings {
  readonly blank: readonly Blank[];
  readonly words: readonly HeldWord[];
  /** Whether "required" is looked at. */
  readonly required: boolean;
}

const everyBlank = ["clear", "leave", "refuse", "generate", "inherit"] as const;
/** What tells rows apart is never blank: there it makes no difference. */
const ofWord: PlayedSettings = { blank: everyBlank, words: [], required: true };

const grouped: Readonly<Record<Holds, PlayedSettings>> = {
  field: { blank: ["clear", "leave", "refuse"], words: ["starts as", "picture", "over"], required: true },
  list: { blank: ["clear", "leave", "refuse"], words: ["picture"], required: true },
  entry: { blank: ["clear"], words: ["picture", "over"], required: false },
  "names beside": { blank: ["leave"], words: [], required: true },
  axis: { blank: ["clear"], words: [], required: true },
  word: ofWord,
};

const records: Readonly<Record<"field" | "entry" | "word", PlayedSettings>> = {
  field: { blank: everyBlank, words: ["starts as", "fixed", "in list", "picture", "over"], required: true },
  entry: { blank: ["clear", "leave", "inherit"], words: ["starts as", "in list", "picture", "over"], required: true },
  word: ofWord,
};

const heldSettings = ["starts as", "fixed", "in list", "picture"] as const;

/** What of a column cannot be played, at a word of it. */
export interface UnplayedSetting {
  readonly word: keyof GivenColumnRule;
  readonly problem: Text;
}

export function* unplayedSettings(layout: Layout, column: Column, rule: ColumnRule): Generator<UnplayedSetting> {
  const holds = holdsOf(layout, column);
  const isGrouped = rowFormOf(layout) === "grouped";
  const played = isGrouped ? grouped[holds] : records[holds === "entry" || holds === "word" ? holds : "field"];
  const { header } = column;
  const no = (word: keyof GivenColumnRule, says: string): UnplayedSetting => ({
    word,
    problem: phrase('{0}: changes with "{1}" cannot be rehearsed yet in such a column', header, says),
  });
  if (!played.blank.includes(rule.blank)) yield no("blank", `blank: ${rule.blank}`);
  if (rule.required && !played.required) yield no("required", "required");
  if (rule.over === "cut" && !played.words.includes("over")) yield no("over", "over: cut");
  for (const word of heldSettings)
    if (rule[word] !== undefined && rule[word] !== false && !played.words.includes(word)) yield no(word, word);
}

/** All rules of columns, by the words that say them. What has nothing to check in a row is looked after by the stage that it is about. */

import type { GivenColumnRule } from "../schema.js";
import { onlyRule, trimmedRule } from "./characters.js";
import { aboveRule, asManyRule, notBelowRule, togetherRule } from "./compared.js";
import { conditionRule } from "./condition.js";
import { neededIfRule, onlyIfRule } from "./conditions.js";
import { gtinRule } from "./gtin.js";
import { lengthRule } from "./length.js";
import { depthRule, entriesRule, onceRule } from "./lists.js";
import { partsRule } from "./parts.js";
import { rangeRule } from "./range.js";
import { recommendedLengthRule } from "./recommended-length.js";
import type { RuleKind } from "./rule-kind.js";

/** A word of a column, or the rules of the parts of its cells. */
export type RuleWord = keyof GivenColumnRule | "parts" | "holds";

/** What depends on what the platform has: the rehearsal plays it. */
const ofPlatform: RuleKind = {};
/** What another stage looks at: which columns are filled, which names there are, which pictures. */
const elsewhere: RuleKind = {};

/** In the order in which a cell is checked. */
export const columnRules = {
  "characters at most": lengthRule,
  over: lengthRule,
  "characters recommended": recommendedLengthRule,
  only: onlyRule,
  trimmed: trimmedRule,
  from: rangeRule,
  to: rangeRule,
  "places at most": rangeRule,
  "entries at most": entriesRule,
  parts: partsRule,
  once: onceRule,
  "deep at most": depthRule,
  gtin: gtinRule,
  above: aboveRule,
  "not below": notBelowRule,
  "as many as": asManyRule,
  "together with": togetherRule,
  "only if": onlyIfRule,
  "needed if": neededIfRule,
  condition: conditionRule,
  holds: conditionRule,
  required: elsewhere,
  recommended: elsewhere,
  picture: elsewhere,
  "in list": elsewhere,
  "looked up": elsewhere,
  unknown: elsewhere,
  blank: ofPlatform,
  "generated from": ofPlatform,
  inherits: ofPlatform,
  "overwritten by": elsewhere,
  "starts as": ofPlatform,
  fixed: ofPlatform,
} satisfies Record<RuleWord, RuleKind>;

/** Each rule once. */
export const allRules: readonly RuleKind[] = [...new Set<RuleKind>(Object.values(columnRules))];

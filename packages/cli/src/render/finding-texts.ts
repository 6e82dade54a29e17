/** What stands around findings in a terminal, in each language. */

import type { Language, Severity } from "zest-tier";
import { counted } from "./text.js";

const en = {
  severity: { error: "error", warning: "warning", note: "note" } as Readonly<Record<Severity, string>>,
  count: (count: number, severity: Severity): string => counted(count, severity),
  none: "no errors",
  more: (kinds: number, tally: string): string =>
    `And ${counted(kinds, "more kind")} of finding (${tally}): --all lists them.`,
  alike: (left: number, shown: number): string =>
    `and ${left} more like ${shown === 1 ? "this" : "these"}: --all lists them`,
  seeAlso: (places: string): string => `(see also ${places})`,
  andMore: (count: number): string => ` and ${count} more`,
  morePlaces: (count: number): string => `and ${counted(count, "more place")}`,
  inSources: (command: string): string => `in the sources, as in ${command}`,
};

const nouns: Readonly<Record<Severity, readonly [one: string, many: string]>> = {
  error: ["Fehler", "Fehler"],
  warning: ["Warnung", "Warnungen"],
  note: ["Hinweis", "Hinweise"],
};

const de: typeof en = {
  severity: { error: "Fehler", warning: "Warnung", note: "Hinweis" },
  count: (count, severity) => `${count} ${nouns[severity][count === 1 ? 0 : 1]}`,
  none: "keine Fehler",
  more: (kinds, tally) =>
    `Und ${kinds} weitere ${kinds === 1 ? "Art" : "Arten"} von Befunden (${tally}): --all zeigt sie.`,
  alike: (left) => `und ${left} weitere dieser Art: --all zeigt sie`,
  seeAlso: (places) => `(siehe auch ${places})`,
  andMore: (count) => ` und ${count} weitere`,
  morePlaces: (count) => `und ${count} weitere ${count === 1 ? "Stelle" : "Stellen"}`,
  inSources: (command) => `in den Quellen, wie bei ${command}`,
};

export const findingTexts: Readonly<Record<Language, typeof en>> = { en, de };

import { useLanguage } from "@zest-tier/kit";
import { de } from "./de.js";
import { en, type Words } from "./en.js";

const all: Readonly<Record<"en" | "de", Words>> = { en, de };

export const useWords = (): Words => all[useLanguage().lang];
export type { Words };

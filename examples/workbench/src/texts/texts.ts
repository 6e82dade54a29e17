import { useLanguage } from "@zest-tier/kit";
import { de } from "./de.js";
import { en, type Texts } from "./en.js";

const all: Readonly<Record<"en" | "de", Texts>> = { en, de };

export const useTexts = (): Texts => all[useLanguage().lang];
export type { Texts };

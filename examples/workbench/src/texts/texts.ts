import { useLanguage } from "@zest-tier/kit";
import { de } from "./de.js";
import { en, type WorkbenchTexts } from "./en.js";

const all: Readonly<Record<"en" | "de", WorkbenchTexts>> = { en, de };

export const useTexts = (): WorkbenchTexts => all[useLanguage().lang];
export type { WorkbenchTexts };

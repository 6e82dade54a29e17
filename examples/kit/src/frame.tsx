/** What every page stands in: the component library with our colours, light or dark, and the language of the interface. */

import { Anchor, createTheme, MantineProvider, type MantineColorsTuple } from "@mantine/core";
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from "react";

const pine: MantineColorsTuple = [
  "#e8f5f0",
  "#d3e9e0",
  "#a6d4c2",
  "#86d3b6",
  "#57ab8f",
  "#3d9478",
  "#2b7d63",
  "#1f6b54",
  "#17594a",
  "#0e4236",
];

const theme = createTheme({
  primaryColor: "pine",
  primaryShade: { light: 8, dark: 3 },
  autoContrast: true,
  colors: { pine },
  fontFamily: "var(--sans)",
  fontFamilyMonospace: "var(--mono)",
  defaultRadius: 4,
  cursorType: "pointer",
  respectReducedMotion: true,
  components: { Anchor: Anchor.extend({ defaultProps: { inherit: true } }) },
});

export type PageLanguage = "en" | "de";
const langs: readonly PageLanguage[] = ["en", "de"];
const langKey = "zest-tier-words";

interface Spoken {
  readonly lang: PageLanguage;
  readonly speak: (lang: PageLanguage) => void;
}
const Language = createContext<Spoken>({ lang: "en", speak: () => undefined });
export const useLanguage = (): Spoken => useContext(Language);

/** What was chosen before, else what the browser wants, else English. */
function firstLang(): PageLanguage {
  const wanted = [localStorage.getItem(langKey), ...navigator.languages.map((one) => one.slice(0, 2))];
  return wanted.find((one): one is PageLanguage => langs.includes(one as PageLanguage)) ?? "en";
}

export function Frame({ children }: { readonly children: ReactNode }) {
  const [lang, setLang] = useState(firstLang);
  useEffect(() => {
    document.documentElement.lang = lang;
  }, [lang]);
  const spoken = useMemo<Spoken>(
    () => ({
      lang,
      speak: (next) => {
        localStorage.setItem(langKey, next);
        setLang(next);
      },
    }),
    [lang],
  );
  return (
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <Language.Provider value={spoken}>{children}</Language.Provider>
    </MantineProvider>
  );
}

/** Which way a text runs, by its language. */
export const directionOf = (lang: string): "rtl" | "ltr" => (/^(ar|he|fa|ur)\b/.test(lang) ? "rtl" : "ltr");

/** A language by its own name: "Deutsch", "日本語". */
export function languageName(lang: string): string {
  try {
    return new Intl.DisplayNames([lang], { type: "language" }).of(lang) ?? lang;
  } catch {
    return lang;
  }
}

/**
 * The languages of an account: in a target, `{main}` stands for the first of them and `{other}` for each further one.
 *
 * A column whose name holds `{other}` comes once for each; so does an item of a list of texts. Nothing is left of them where the
 * account has one language.
 */

import { present } from "../checked.js";
import type { Given } from "../given/yaml.js";
import { finding, type Findings } from "../findings/finding.js";
import { phrase } from "../phrases/phrase.js";
import type { GivenFile, GivenTarget } from "./schema.js";
import type { Settings } from "./settings.js";

type Path = readonly (string | number)[];

/** @param chosen the account's settings, all of them. @returns the target as it is for the languages of the account. */
export function withLanguages(given: Given<GivenTarget>, chosen: Settings, findings: Findings): Given<GivenTarget> {
  const { settings, languages: all } = given.value;
  const own = Object.entries(settings).flatMap(([name, one]) => one.languages?.[present(chosen[name])] ?? []);
  const languages = own.length > 0 ? own : all;
  const { value, written, unfilled } = filledFor(languages, given.value);
  const problem = phrase('"{other}" is for names of columns, and for items of a list');
  for (const path of unfilled)
    findings.add(finding("target/mistake", { problem, nearest: undefined }, given.at(...path)));
  const at = (...path: Path) => given.at(...path.map((part) => written.get(part) ?? part));
  return { at, value: withoutEmptied({ ...value, languages }) };
}

/** Files of the further languages, where there is none, and their uploads. */
function withoutEmptied(value: GivenTarget): GivenTarget {
  const files = Object.fromEntries(
    Object.entries(value.files).filter(([, { languages }]: [string, GivenFile]) => languages?.length !== 0),
  );
  const isLeft = (file: string): boolean => Object.hasOwn(files, file) || !Object.hasOwn(value.files, file);
  return { ...value, files, imports: value.imports.filter(({ file }) => isLeft(file)) };
}

/** @returns what names were written as, and the paths of what has `{other}` left. */
function filledFor(languages: readonly string[], value: GivenTarget) {
  const [main = "", ...others] = languages;
  const written = new Map<string | number, string>();
  const unfilled: Path[] = [];
  const isEach = (text: string, other: string | undefined): boolean => other === undefined && text.includes("{other}");
  const text = (one: string, other: string | undefined): string => {
    const withMain = one.replaceAll("{main}", main);
    return other === undefined ? withMain : withMain.replaceAll("{other}", other);
  };
  const fill = (one: unknown, other: string | undefined, path: Path): unknown => {
    if (typeof one === "string") {
      if (isEach(one, other)) unfilled.push(path);
      return text(one, other);
    }
    if (Array.isArray(one))
      return one.flatMap((item: unknown, at) =>
        typeof item === "string" && isEach(item, other)
          ? others.map((lang) => text(item, lang))
          : [fill(item, other, [...path, at])],
      );
    if (typeof one !== "object" || one === null) return one;
    const entry = (key: string, inner: unknown, lang: string | undefined): [string, unknown] => {
      const name = text(key, lang);
      if (name !== key) written.set(name, key);
      return [name, fill(inner, lang, [...path, key])];
    };
    return Object.fromEntries(
      Object.entries(one).flatMap(([key, inner]) =>
        isEach(key, other) ? others.map((lang) => entry(key, inner, lang)) : [entry(key, inner, other)],
      ),
    );
  };
  return { value: fill(value, undefined, []) as GivenTarget, written, unfilled };
}

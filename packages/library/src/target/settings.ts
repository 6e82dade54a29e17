/**
 * Settings of an account: what a platform's files look like depends on them. Columns are left out, or called otherwise; which languages
 * there are stands in languages.ts.
 */

import { present } from "../checked.js";
import type { Given } from "../given/yaml.js";
import { finding, type Findings } from "../findings/finding.js";
import { nearestSpelling } from "../spelling.js";
import type { Location } from "../location.js";
import type { GivenLayout } from "../layout/schema.js";
import type { GivenColumnRule, GivenTarget } from "./schema.js";
import { phrase, type Text } from "../phrases/phrase.js";

export type Settings = Readonly<Record<string, string>>;

/**
 * @param settings as the project says them; what it does not say is as the target presets it. @param where they stand.
 * @returns all of them; undefined when one is unknown.
 */
export function allSettings(
  given: Given<GivenTarget>,
  settings: Settings,
  where: Location | undefined,
  findings: Findings,
): Settings | undefined {
  const known = given.value.settings;
  const mistake = (problem: Text, nearest: string | undefined): undefined => {
    findings.add(finding("project/mistake", { problem, nearest }, where));
    return undefined;
  };
  for (const [name, value] of Object.entries(settings)) {
    const setting = known[name];
    if (!setting)
      return mistake(
        phrase('{0} has no setting "{1}"', given.value.target, name),
        nearestSpelling(name, Object.keys(known)),
      );
    if (!setting.choices.includes(value))
      return mistake(phrase('"{0}" is not a choice of {1}', value, name), nearestSpelling(value, setting.choices));
  }
  return Object.fromEntries(Object.entries(known).map(([name, { preset }]) => [name, settings[name] ?? preset]));
}

/** Reports settings that cannot be so, each at its line. */
export function checkSettings({ value, at }: Given<GivenTarget>, findings: Findings): void {
  const mistake = (problem: Text, nearest: string | undefined, ...path: (string | number)[]): void =>
    findings.add(finding("target/mistake", { problem, nearest }, at("settings", ...path)));
  const headers = Object.values(value.files).flatMap(({ layout, more }) =>
    [layout, ...more.map((one) => one.layout)].flatMap(({ columns }) => Object.keys(columns)),
  );
  for (const [name, { choices, preset, languages, drops, renames }] of Object.entries(value.settings)) {
    const isChoice = (choice: string, ...path: string[]): void => {
      if (!choices.includes(choice))
        mistake(phrase('"{0}" is not a choice of {1}', choice, name), nearestSpelling(choice, choices), name, ...path);
    };
    const isColumn = (header: string, ...path: (string | number)[]): void => {
      if (!headers.includes(header))
        mistake(phrase('no file has a column "{0}"', header), nearestSpelling(header, headers), name, ...path);
    };
    isChoice(preset, "preset");
    for (const [choice, columns] of Object.entries(drops)) {
      isChoice(choice, "drops", choice);
      columns.forEach((header, nth) => isColumn(header, "drops", choice, nth));
    }
    for (const [choice, columns] of Object.entries(renames)) {
      isChoice(choice, "renames", choice);
      for (const header of Object.keys(columns)) isColumn(header, "renames", choice, header);
    }
    if (!languages) continue;
    const first = Object.keys(value.settings).find((other) => value.settings[other]!.languages);
    if (first !== name)
      mistake(phrase('the languages are those of the setting "{0}"', first ?? ""), undefined, name, "languages");
    for (const choice of choices)
      if (!Object.hasOwn(languages, choice))
        mistake(phrase('the languages of "{0}" are missing', choice), undefined, name, "languages");
    for (const [choice, own] of Object.entries(languages)) {
      isChoice(choice, "languages", choice);
      own.forEach((lang, nth) => {
        const problem = phrase('"{0}" is not a language of {1}', lang, value.target);
        if (!value.languages.includes(lang))
          mistake(problem, nearestSpelling(lang, value.languages), name, "languages", choice, nth);
        else if (own.indexOf(lang) < nth)
          mistake(phrase('"{0}" occurs twice', lang), undefined, name, "languages", choice, nth);
      });
    }
  }
}

/** @param chosen all of the account's settings. @returns the target's file with the columns of that account. */
export function withSettings(given: Given<GivenTarget>, chosen: Settings): Given<GivenTarget> {
  const dropped = new Set<string>();
  const renamed = new Map<string, string>();
  for (const [name, { drops, renames }] of Object.entries(given.value.settings)) {
    for (const header of drops[present(chosen[name])] ?? []) dropped.add(header);
    for (const [old, now] of Object.entries(renames[present(chosen[name])] ?? {})) renamed.set(old, now);
  }
  /** What a blank inherits is known once the account's settings are. */
  const inherited = (rule: GivenColumnRule): GivenColumnRule =>
    rule.inherits === undefined ? rule : { ...rule, "starts as": chosen[rule.inherits] };
  const changed = <T>(columns: Readonly<Record<string, T>>, headers: ReadonlySet<string>): Record<string, T> =>
    Object.fromEntries(
      Object.entries(columns).flatMap(([written, one]) => {
        const { header, part } = splitPart(written, headers);
        return dropped.has(header) ? [] : [[(renamed.get(header) ?? header) + part, one] as const];
      }),
    );
  const ofAccount = (layout: GivenLayout): GivenLayout => ({
    ...layout,
    columns: changed(layout.columns, new Set(Object.keys(layout.columns))),
  });
  const files = Object.fromEntries(
    Object.entries(given.value.files).map(([name, file]) => {
      const headers = new Set(Object.keys(file.layout.columns));
      const rules = Object.entries(file.columns).map(([header, rule]) => [header, inherited(rule)] as const);
      return [
        name,
        {
          ...file,
          layout: ofAccount(file.layout),
          more: file.more.map((one) => ({ ...one, layout: ofAccount(one.layout) })),
          columns: changed(Object.fromEntries(rules), headers),
        },
      ];
    }),
  );
  const imports = given.value.imports.map((one) =>
    one.columns
      ? {
          ...one,
          columns: one.columns.filter((column) => !dropped.has(column)).map((column) => renamed.get(column) ?? column),
        }
      : one,
  );
  return { ...given, value: { ...given.value, files, imports } };
}

/** A column as rules are written for it, and the part of its cells that they are of: `Steps/amount` is `Steps` and `/amount`. */
export function splitPart(
  written: string,
  headers: ReadonlySet<string>,
): { readonly header: string; readonly part: string } {
  for (let at = written.length; at > 0; at = written.lastIndexOf("/", at - 1)) {
    const header = written.slice(0, at);
    if (headers.has(header)) return { header, part: written.slice(at) };
  }
  return { header: written, part: "" };
}

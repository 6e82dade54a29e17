/** Settings of an account: what a platform's files look like depends on them. Columns are left out, or called otherwise. */

import { present } from "../checked.js";
import type { Given } from "../given/yaml.js";
import { finding, type Findings } from "../findings/finding.js";
import { nearestSpelling } from "../spelling.js";
import type { Location } from "../location.js";
import type { GivenColumnRule, GivenTarget } from "./schema.js";
import { phrase, type Text } from "../phrases/phrase.js";

export type Settings = Readonly<Record<string, string>>;

/**
 * @param settings as the project says them; what it does not say is as the target presets it. @param where they stand.
 * @returns the target's file with the columns of that account; undefined when a setting is unknown.
 */
export function withSettings(
  given: Given<GivenTarget>,
  settings: Settings,
  where: Location | undefined,
  findings: Findings,
): Given<GivenTarget> | undefined {
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
  const value = (name: string): string | undefined => settings[name] ?? known[name]?.preset;
  const dropped = new Set<string>();
  const renamed = new Map<string, string>();
  for (const [name, { drops, renames }] of Object.entries(known)) {
    for (const header of drops[present(value(name))] ?? []) dropped.add(header);
    for (const [old, now] of Object.entries(renames[present(value(name))] ?? {})) renamed.set(old, now);
  }
  /** What a blank inherits is known once the account's settings are. */
  const inherited = (rule: GivenColumnRule): GivenColumnRule =>
    rule.inherits === undefined ? rule : { ...rule, "starts as": value(rule.inherits) };
  const changed = <T>(columns: Readonly<Record<string, T>>, headers: ReadonlySet<string>): Record<string, T> =>
    Object.fromEntries(
      Object.entries(columns).flatMap(([written, one]) => {
        const { header, part } = splitPart(written, headers);
        return dropped.has(header) ? [] : [[(renamed.get(header) ?? header) + part, one] as const];
      }),
    );
  const files = Object.fromEntries(
    Object.entries(given.value.files).map(([name, file]) => {
      const headers = new Set(Object.keys(file.layout.columns));
      const rules = Object.entries(file.columns).map(([header, rule]) => [header, inherited(rule)] as const);
      return [
        name,
        {
          ...file,
          layout: { ...file.layout, columns: changed(file.layout.columns, headers) },
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

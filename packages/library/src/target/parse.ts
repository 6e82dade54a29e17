/**
 * From a target file to a target.
 *
 * In: its text, the settings of the account. Out: the target, or what is wrong with it, each mistake at its line.
 */

import { Findings, type Result } from "../findings/finding.js";
import { parseGiven } from "../given/yaml.js";
import type { Kinds } from "../kinds.js";
import type { Location } from "../location.js";
import { TargetCompiler } from "./compile.js";
import { givenTarget } from "./schema.js";
import { importsOf } from "./slots.js";
import { withLanguages } from "./languages.js";
import { allSettings, checkSettings, withSettings, type Settings } from "./settings.js";
import type { Target } from "./target.js";

/**
 * Parses a target; fails where its file has mistakes.
 *
 * @param file as findings call it.
 * @param account the settings of the account there, and where a project says them.
 */
export function parseTarget(
  text: string,
  file: string,
  kinds: Kinds,
  account: { readonly settings: Settings; readonly at: Location | undefined } = { settings: {}, at: undefined },
): Result<Target> {
  const findings = new Findings();
  const parsed = findings.took(parseGiven(text, file, givenTarget));
  const chosen = parsed && allSettings(parsed, account.settings, account.at, findings);
  if (!parsed || !chosen) return { ok: false, findings };
  checkSettings(parsed, findings);
  if (findings.hasErrors) return { ok: false, findings };
  const given = withSettings(withLanguages(parsed, chosen, findings), chosen);
  const compiler = new TargetCompiler(given, kinds, findings);
  const { files, imports, exports, demands } = compiler.compile();
  if (findings.hasErrors) return { ok: false, findings };
  const { target, version, languages, endpoints, visible, before, after } = given.value;
  const value: Target = {
    name: target,
    version,
    languages,
    languageSettings: Object.entries(parsed.value.settings).flatMap(([setting, { languages: all = {} }]) =>
      Object.entries(all).map(([choice, own]) => ({ setting, choice, languages: own })),
    ),
    endpoints,
    files,
    ...importsOf(imports),
    has: new Map(),
    demands,
    exports,
    visible,
    before,
    after,
  };
  return { ok: true, value, findings };
}

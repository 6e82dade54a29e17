/** Targets that are refused when they are loaded, loaded in spite of that: what would go wrong shows why they are refused. */

import { Findings, openTarget, type Finding, type OpenedTarget, type Result } from "#src/index.js";
import { parseGiven } from "#src/given/yaml.js";
import { Kinds } from "#src/kinds.js";
import { TargetCompiler } from "#src/target/compile.js";
import { withLanguages } from "#src/target/languages.js";
import { givenTarget } from "#src/target/schema.js";
import { importsOf } from "#src/target/slots.js";
import { allSettings, withSettings } from "#src/target/settings.js";
import type { Target } from "#src/target/target.js";
import { openSources, type SmallSheet } from "../small-project.js";

export interface Forced {
  readonly opened: Result<OpenedTarget>;
  /** Why it is refused. */
  readonly refused: readonly Finding[];
}

/** Opens a target whatever is wrong with it; undefined where it cannot be read at all. */
export async function openForced(sheets: readonly SmallSheet[], given: unknown): Promise<Forced | undefined> {
  const findings = new Findings();
  const target = forcedTarget(JSON.stringify(given), findings);
  const sources = await openSources(sheets, harmless);
  if (!target || !sources.ok) return undefined;
  const { project } = sources.value;
  const opened = await openTarget(
    { ...sources.value, project: { ...project, targets: [target] } },
    { target: target.name },
  );
  return { opened, refused: findings.list() };
}

const harmless = {
  target: "made-up",
  version: 1,
  languages: ["en", "de"],
  endpoints: { pictures: "/pictures", upload: "/in/{name}", catalogue: "/all", lists: "/lists/{list}" },
  files: { goods: { layout: { layout: "goods", rows: { each: "product" }, columns: { Key: "product.key" } } } },
  imports: [{ file: "goods" }],
};

function forcedTarget(text: string, findings: Findings): Target | undefined {
  const parsed = findings.took(parseGiven(text, "made-up.yaml", givenTarget));
  const chosen = parsed && allSettings(parsed, {}, undefined, findings);
  if (!parsed || !chosen) return undefined;
  const given = withSettings(withLanguages(parsed, chosen, findings), chosen);
  const { files, imports, exports, demands } = new TargetCompiler(given, new Kinds(), findings).compile();
  const { target: name, version, languages, endpoints, visible, before, after } = given.value;
  return {
    ...{ name, version, languages, endpoints, visible, before, after, files, exports, demands },
    ...importsOf(imports),
    has: new Map(),
    languageSettings: [],
  };
}

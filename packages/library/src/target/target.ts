/** A target, ready to use: a platform as its importer behaves, its layouts compiled. */

import { parseGiven, type Given } from "../given/yaml.js";
import { nearestWord } from "../near.js";
import { finding, type Findings } from "../finding.js";
import type { Kinds } from "../kind.js";
import { compileLayout } from "../layout/compile.js";
import type { Layout } from "../layout/layout.js";
import {
  givenTarget,
  type ColumnRule,
  type Demand,
  type GivenTarget,
  type ImporterRules,
  type ReadbackRules,
  type Slot,
  type VisibleRule,
} from "./schema.js";

export interface TargetFile {
  readonly name: string;
  readonly layout: Layout;
  /** By header. */
  readonly rules: ReadonlyMap<string, ColumnRule>;
  readonly importer: ImporterRules;
  readonly limits: {
    readonly products?: number | undefined;
    readonly bytes?: number | undefined;
    readonly "axes advised"?: number | undefined;
  };
}

export interface Target {
  readonly name: string;
  readonly version: number;
  readonly languages: readonly string[];
  readonly endpoints: GivenTarget["endpoints"];
  readonly files: ReadonlyMap<string, TargetFile>;
  readonly slots: readonly Slot[];
  /** What a reference, `kind.field`, asks of the order. */
  readonly demands: ReadonlyMap<string, Demand>;
  readonly visible: readonly VisibleRule[];
  readonly readback: ReadbackRules;
}

/** @returns undefined when the file has mistakes; they are in `findings`. */
export function parseTarget(text: string, file: string, kinds: Kinds, findings: Findings): Target | undefined {
  const given = parseGiven(text, file, givenTarget, findings);
  if (!given) return undefined;
  const before = findings.list().length;
  const files = new Map<string, TargetFile>();
  for (const name of Object.keys(given.value.files)) {
    const made = compileFile(name, given, kinds, findings);
    if (made) files.set(name, made);
  }
  checkSlots(given, kinds, findings);
  if (findings.list().length > before) return undefined;
  const { target, version, languages, endpoints, slots, demands, visible, readback } = given.value;
  return {
    name: target,
    version,
    languages,
    endpoints,
    files,
    slots,
    demands: new Map(Object.entries(demands)),
    visible,
    readback,
  };
}

function compileFile(
  name: string,
  given: Given<GivenTarget>,
  kinds: Kinds,
  findings: Findings,
): TargetFile | undefined {
  const { layout: givenLayout, rules: givenRules, importer, limits } = given.value.files[name]!;
  const layout = compileLayout(givenLayout, (...path) => given.at("files", name, "layout", ...path), kinds, findings);
  if (!layout) return undefined;
  const headers = layout.columns.map((column) => column.header);
  const check = (header: string, ...path: (string | number)[]) => {
    if (!headers.includes(header))
      findings.add(
        finding(
          "target/mistake",
          { problem: `"${header}" is no column of ${name}`, nearest: nearestWord(header, headers) },
          given.at("files", name, ...path),
        ),
      );
  };
  const rules = new Map<string, ColumnRule>();
  for (const [written, rule] of Object.entries(givenRules)) {
    const count = written.includes("{n}") ? givenLayout.numbered : 1;
    for (let number = 1; number <= count; number++) {
      const header = written.replace("{n}", String(number));
      check(header, "rules", written);
      if (rule.above !== undefined) check(rule.above, "rules", written, "above");
      if (rule["together with"] !== undefined) check(rule["together with"], "rules", written, "together with");
      rules.set(header, rule);
    }
  }
  check(importer["parent by"], "importer", "parent by");
  check(importer["child by"], "importer", "child by");
  return { name, layout, rules, importer, limits };
}

function checkSlots(given: Given<GivenTarget>, kinds: Kinds, findings: Findings): void {
  const { slots, files } = given.value;
  const mistake = (problem: string, nearest: string | undefined, ...path: (string | number)[]) =>
    findings.add(finding("target/mistake", { problem, nearest }, given.at("slots", ...path)));
  slots.forEach((slot, at) => {
    if (!files[slot.file])
      mistake(`there is no file "${slot.file}"`, nearestWord(slot.file, Object.keys(files)), at, "file");
    for (const kind of slot.creates)
      if (!kinds.find(kind))
        mistake(
          `"${kind}" is no kind of record`,
          nearestWord(
            kind,
            kinds.roots.map((root) => root.name),
          ),
          at,
          "creates",
        );
  });
}

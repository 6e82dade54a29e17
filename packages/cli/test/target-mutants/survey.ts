/** What becomes of the mutants of a target. */

import { Findings, findingTable, type Target } from "zest-tier";
import { shippedTarget } from "zest-tier/node";
import { parseTarget, prepareBuild } from "zest-tier/parts";
import { parse } from "yaml";
import { pictureNames as shopPictures } from "../generate.js";
import { kinds, pictureNames as richPictures, type ReadRich } from "../rich.js";
import { reasonFor } from "./equivalents.js";
import { mutantsOf, type Json, type Mutant } from "./mutants.js";
import { harms } from "./harms.js";
import {
  catalogues,
  isOtherwise,
  isWrittenOtherwise,
  record,
  withAim,
  withHarms,
  type PlatformName,
} from "./recorded.js";

export interface Survey {
  readonly counts: Readonly<Record<Fate, number>>;
  /** Those that nothing tells from the target as it is, and that are not listed. */
  readonly survived: readonly Mutant[];
}

export type Fate =
  "refused at load" | "another verdict" | "another plan or finding" | "other files" | "equivalent" | "survived";

/** So many recorded uploads are tried with each harm in a mutated column. */
const mostAimed = 12;
const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

const everything = new Set(Object.keys(findingTable));

export interface SurveyChoices {
  /** Every so many mutants. */
  readonly every: number;
  /** Pairs of catalogues that a mutant is tried on. */
  readonly pairs: number;
  readonly tell?: ((mutant: Mutant, fate: Fate) => void) | undefined;
}

export async function survivors(name: PlatformName, { every, pairs, tell }: SurveyChoices): Promise<Survey> {
  const text = (await shippedTarget(name))!;
  const right = targetOf(text, name)!;
  const given = await catalogues(name, pairs);
  const asTheyAre = await Promise.all(given.map((pair) => record(name, right, pair)));
  const harmed = (turn: number) => Promise.all(asTheyAre.map((one, at) => withHarms(one, right, at + turn)));
  const [some, others] = [await harmed(0), await harmed(10_000)];
  const recorded = asTheyAre.flatMap((one, at) => [one, some[at]!, others[at]!]);
  const planned = given.map(([one]) => plannedBy(one!, right, name));
  const counts: Record<Fate, number> = {
    "refused at load": 0,
    "another verdict": 0,
    "another plan or finding": 0,
    "other files": 0,
    equivalent: 0,
    survived: 0,
  };
  const survived: Mutant[] = [];
  for (const [at, mutant] of mutantsOf(parse(text, { merge: true }) as Json).entries()) {
    if (at % every !== 0) continue;
    const fate = await fateOf(mutant);
    counts[fate]++;
    tell?.(mutant, fate);
    if (fate === "survived") survived.push(mutant);
  }
  return { counts, survived };

  async function fateOf(mutant: Mutant): Promise<Fate> {
    const target = targetOf(JSON.stringify(mutant.target), name);
    if (!target) return "refused at load";
    for (const one of recorded) if (await isOtherwise(one, target)) return "another verdict";
    for (const [at, [one]] of given.entries())
      if (plannedBy(one!, target, name) !== planned[at]) return "another plan or finding";
    for (const one of asTheyAre) if (await isWrittenOtherwise(one, target)) return "other files";
    if (reasonFor(name, mutant) !== undefined) return "equivalent";
    return (await isToldByAim(mutant, target)) ? "another verdict" : "survived";
  }

  /** Whether a cell that its column should not have tells a mutant of a column from the target. */
  async function isToldByAim({ path }: Mutant, target: Target): Promise<boolean> {
    const [, file = "", written = ""] = /^files\.([^.]+)\.columns\.([^.]+)/.exec(path) ?? [];
    if (written === "") return false;
    const pattern = new RegExp(
      `^${written
        .split(/\{[^}]*\}/)
        .map(escaped)
        .join(".*")}$`,
    );
    const isChosen = (name: string, header: string) => name.startsWith(file) && pattern.test(header);
    for (const one of asTheyAre.slice(0, mostAimed))
      for (const harm of harms) if (await isOtherwise(await withAim(one, right, isChosen, harm), target)) return true;
    return false;
  }
}

function targetOf(text: string, name: string): Target | undefined {
  const findings = new Findings();
  const target = findings.took(parseTarget(text, name, kinds));
  return findings.list().some(({ severity }) => severity === "error") ? undefined : target;
}

/** What is planned and found, as text. */
function plannedBy({ catalogue, findings }: ReadRich, target: Target, name: PlatformName): string {
  const prepared = prepareBuild({
    catalogue,
    target,
    pictureNames: name === "pennywort" ? shopPictures : richPictures,
    holdBack: false,
    despite: everything,
    found: findings,
  });
  const found = prepared.findings.list().map(({ code, facts, at }) => [code, facts, at]);
  return JSON.stringify([found, prepared.ok && prepared.value.plan], (_, value: unknown) =>
    value instanceof Map || value instanceof Set ? [...(value as Iterable<unknown>)] : value,
  );
}

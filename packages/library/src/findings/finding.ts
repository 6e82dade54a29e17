/**
 * Findings: what is worth saying about the data, as values. Their text is made here, from the one table.
 *
 * Exceptions are for our own bugs; whatever the data does ends up as a finding.
 */

import type { Severity } from "./definition.js";
import type { Language } from "../phrases/phrase.js";
import { findingTable } from "./finding-table.js";
import { germanFindings } from "./german.js";
import { compareLocations, compareText, type Location } from "../location.js";
/** `stage/what`: each is listed in docs/findings.md. */
export type FindingCode = keyof typeof findingTable;
/** The facts that the sentence of a code tells. */
export type FactsOf<C extends FindingCode> = Parameters<(typeof findingTable)[C]["says"]>[0];

type FindingOf<C extends FindingCode> = {
  readonly code: C;
  readonly severity: Severity;
  readonly facts: FactsOf<C>;
  readonly at: Location | undefined;
  readonly related: readonly Location[];
};
/** Something worth saying about the data: a code, facts, and where it is. `describeFinding` makes its sentence. */
export type Finding = { [C in FindingCode]: FindingOf<C> }[FindingCode];

/** A finding of a code. @param facts what its sentence tells. @param related other places that belong to it. */
export function finding<C extends FindingCode>(
  code: C,
  facts: FactsOf<C>,
  at?: Location,
  related: readonly Location[] = [],
): Finding {
  // The union cannot be narrowed by a generic code; each member is exactly this shape.
  return { code, severity: findingTable[code].severity, facts, at, related } as unknown as Finding;
}

/** What a finding says and what to do about it, in a language. */
export function describeFinding(
  given: Finding,
  language: Language = "en",
): { readonly message: string; readonly remedy: string } {
  const entry = language === "de" ? germanFindings[given.code] : findingTable[given.code];
  const says = entry.says as (facts: unknown) => string;
  return { message: says(given.facts), remedy: entry.remedy };
}

/** Findings as somebody sees them who does not add to them. */
export interface ReadonlyFindings {
  readonly hasErrors: boolean;
  /** Whether errors went over the limit of their code: then not every faulty record is known. */
  readonly hasUnlistedErrors: boolean;
  /** In source order; codes that went over the limit are followed by one finding that says how many more there are. */
  list(): readonly Finding[];
  /** The same findings, to be added to. */
  copy(): Findings;
}

/** Keeps findings up to a limit a code, and counts what is beyond, so that hostile input cannot fill the memory. */
export class Findings implements ReadonlyFindings {
  readonly #kept: Finding[] = [];
  /** As they are listed, until one more comes. */
  #listed: readonly Finding[] | undefined;
  readonly #keptOf = new Map<FindingCode, number>();
  /** By code: how many went over the limit. */
  readonly #beyond = new Map<FindingCode, number>();
  #hasErrors = false;
  #hasUnlistedErrors = false;

  constructor(readonly mostPerCode = 10_000) {}

  copy(): Findings {
    const made = new Findings(this.mostPerCode);
    made.addAll(this);
    return made;
  }

  add(one: Finding): void {
    const { code, severity } = one;
    this.#listed = undefined;
    const kept = this.#keptOf.get(code) ?? 0;
    if (kept >= this.mostPerCode) return this.#countBeyond(code, severity);
    if (severity === "error") this.#hasErrors = true;
    this.#keptOf.set(code, kept + 1);
    this.#kept.push(one);
  }

  /** Adds one of a code of which there may be many: what it tells is worked out only where it is listed. */
  addOf(code: FindingCode, make: () => Finding): void {
    const { severity } = findingTable[code];
    if ((this.#keptOf.get(code) ?? 0) < this.mostPerCode) this.add(make());
    else this.#countBeyond(code, severity);
  }

  #countBeyond(code: FindingCode, severity: Severity): void {
    this.#listed = undefined;
    this.#beyond.set(code, (this.#beyond.get(code) ?? 0) + 1);
    if (severity !== "error") return;
    this.#hasErrors = true;
    this.#hasUnlistedErrors = true;
  }

  /** Takes the findings of a result, and the count of those beyond its limit. @returns its value, if it has one. */
  took<T>(result: Result<T>): T | undefined {
    this.addAll(result.findings);
    return result.ok ? result.value : undefined;
  }

  /** Takes many; of other findings also the count of those beyond their limit. */
  addAll(given: Iterable<Finding> | ReadonlyFindings): void {
    if ("list" in given) this.#takeAll(given instanceof Findings ? given : given.copy());
    else for (const one of given) this.add(one);
  }

  #takeAll(given: Findings): void {
    for (const one of given.#kept) this.add(one);
    for (const [code, count] of given.#beyond) this.#beyond.set(code, (this.#beyond.get(code) ?? 0) + count);
    this.#listed = undefined;
    this.#hasErrors ||= given.#hasErrors;
    this.#hasUnlistedErrors ||= given.#hasUnlistedErrors;
  }

  /** The same findings, but for some of those that are listed. */
  without(isLeftOut: (one: Finding) => boolean): Findings {
    const made = new Findings(this.mostPerCode);
    for (const one of this.#kept) if (!isLeftOut(one)) made.add(one);
    for (const [code, count] of this.#beyond) made.#beyond.set(code, count);
    made.#hasUnlistedErrors = this.#hasUnlistedErrors;
    made.#hasErrors ||= this.#hasUnlistedErrors;
    return made;
  }

  get hasUnlistedErrors(): boolean {
    return this.#hasUnlistedErrors;
  }

  /** Of all that were added, whether they are listed or not. */
  get hasErrors(): boolean {
    return this.#hasErrors;
  }

  list(): readonly Finding[] {
    return (this.#listed ??= this.#inOrder());
  }

  #inOrder(): readonly Finding[] {
    const more = [...this.#beyond].map(([code, count]) => finding("findings/more", { code, more: count }));
    return [...this.#kept].sort((a, b) => compareLocations(a.at, b.at) || compareText(a.code, b.code)).concat(more);
  }
}

/** What everything answers that can fail. `findings` are all that led there, also where it succeeded. */
export type Result<T> =
  | { readonly ok: true; readonly value: T; readonly findings: ReadonlyFindings }
  | { readonly ok: false; readonly findings: ReadonlyFindings };

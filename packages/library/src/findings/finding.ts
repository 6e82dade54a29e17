/**
 * Findings: what is worth saying about the data, as values. Their text is made here, from the one table.
 *
 * Exceptions are for our own bugs; whatever the data does ends up as a finding.
 */

import type { Language } from "../phrases/phrase.js";
import { findingTable } from "./finding-table.js";
import { germanFindings } from "./german.js";
import { compareLocations, compareText, type Location } from "../location.js";

export type Severity = "error" | "warning" | "note";
export type FindingCode = keyof typeof findingTable;
export type FactsOf<C extends FindingCode> = Parameters<(typeof findingTable)[C]["says"]>[0];

type FindingOf<C extends FindingCode> = {
  readonly code: C;
  readonly severity: Severity;
  readonly facts: FactsOf<C>;
  readonly at: Location | undefined;
  readonly related: readonly Location[];
};
export type Finding = { [C in FindingCode]: FindingOf<C> }[FindingCode];

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

/** Keeps findings up to a limit a code, and counts what is beyond, so that hostile input cannot fill the memory. */
export class Findings {
  readonly #kept: Finding[] = [];
  readonly #counts = new Map<FindingCode, number>();

  constructor(readonly mostPerCode = 10_000) {}

  add(...given: readonly Finding[]): void {
    for (const one of given) {
      const count = (this.#counts.get(one.code) ?? 0) + 1;
      this.#counts.set(one.code, count);
      if (count <= this.mostPerCode) this.#kept.push(one);
    }
  }

  /** Whether errors went over the limit of their code: then not every faulty record is known. */
  get hasUnlistedErrors(): boolean {
    return this.#kept.some((one) => one.severity === "error" && this.#counts.get(one.code)! > this.mostPerCode);
  }

  get hasErrors(): boolean {
    return this.#kept.some((one) => one.severity === "error");
  }

  /** In source order; codes that went over the limit are followed by one finding that says how many more there are. */
  list(): readonly Finding[] {
    const more = [...this.#counts]
      .filter(([, count]) => count > this.mostPerCode)
      .map(([code, count]) => finding("findings/more", { code, more: count - this.mostPerCode }));
    return [...this.#kept].sort((a, b) => compareLocations(a.at, b.at) || compareText(a.code, b.code)).concat(more);
  }
}

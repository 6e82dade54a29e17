/** Findings as the pages show them: counted, grouped, listed, and as marks on the cells of the sources. */

import {
  type Language,
  describeFinding,
  formatLocation,
  type Finding,
  type Location,
  type Project,
  type Severity,
} from "zest-tier";
import { lineOf } from "./line-of.js";
import type { FindingFilter, FindingGroup, FindingView, FindingCounts, Mark } from "./views.js";

export const noFindings: FindingCounts = { error: 0, warning: 0, note: 0 };

export function countFindings(findings: readonly Finding[]): FindingCounts {
  const counts = { error: 0, warning: 0, note: 0 };
  for (const { severity } of findings) counts[severity]++;
  return counts;
}

const weight: Readonly<Record<Severity, number>> = { error: 0, warning: 1, note: 2 };

/** Findings, looked up by what the pages ask for. */
export class FindingIndex {
  readonly #bySource = new Map<number, Mark[]>();
  /** Which source a place is in; undefined where it is in none. */
  readonly sourceOf: (location: Location | undefined) => number | undefined;

  constructor(
    readonly all: readonly Finding[],
    project: Project | undefined,
    readonly language: Language = "en",
  ) {
    this.sourceOf = sourceFinder(project);
  }

  counts(source: number): FindingCounts {
    return countFindings(this.all.filter(({ at }) => this.sourceOf(at) === source));
  }

  groups(filter: FindingFilter): FindingGroup[] {
    const groups = new Map<string, Finding[]>();
    for (const one of this.#fitting({ ...filter, code: undefined })) {
      const own = groups.get(one.code);
      if (own) own.push(one);
      else groups.set(one.code, [one]);
    }
    return [...groups.values()]
      .map((own): FindingGroup => {
        const [first] = own as [Finding];
        const { message, remedy } = describeFinding(first, this.language);
        return { code: first.code, severity: first.severity, count: own.length, remedy, example: message };
      })
      .sort((a, b) => weight[a.severity] - weight[b.severity] || b.count - a.count || (a.code < b.code ? -1 : 1));
  }

  /** @returns those from a number on, and how many there are of all. */
  list(filter: FindingFilter, from: number, count: number): { readonly total: number; readonly rows: FindingView[] } {
    const fitting = this.#fitting(filter);
    return { total: fitting.length, rows: fitting.slice(from, from + count).map((one) => this.view(one)) };
  }

  view(one: Finding): FindingView {
    const { code, severity, at, related } = one;
    const { message } = describeFinding(one, this.language);
    return { code, severity, message, at, location: at ? formatLocation(at) : "", related, source: this.sourceOf(at) };
  }

  #fitting({ severity, code, file, text }: FindingFilter): Finding[] {
    const texts = text?.trim().toLowerCase() ?? "";
    return this.all.filter(
      (one) =>
        (severity === undefined || one.severity === severity) &&
        (code === undefined || one.code === code) &&
        (file === undefined || one.at?.file === file) &&
        (texts === "" || this.#says(one).includes(texts)),
    );
  }

  #says(one: Finding): string {
    const location = one.at ? `${formatLocation(one.at)} ${one.at.record?.key ?? ""}` : "";
    return `${one.code} ${describeFinding(one, this.language).message} ${location}`.toLowerCase();
  }

  /** The marks on a source, by line. */
  marks(source: number): readonly Mark[] {
    let marks = this.#bySource.get(source);
    if (!marks) {
      marks = this.all.flatMap((one): Mark[] => {
        if (!one.at || this.sourceOf(one.at) !== source) return [];
        const line = lineOf(one.at);
        if (line === undefined) return [];
        return [
          {
            line,
            column: one.at.column,
            severity: one.severity,
            code: one.code,
            ...describeFinding(one, this.language),
          },
        ];
      });
      marks.sort((a, b) => a.line - b.line);
      this.#bySource.set(source, marks);
    }
    return marks;
  }
}

/** Which source of a project a place is in: by file, and by sheet where several sources read sheets of one workbook. */
function sourceFinder(project: Project | undefined): (location: Location | undefined) => number | undefined {
  const sources = (project?.sources ?? []).map(({ file, within, layout }) => ({
    file: within === undefined ? file : `${file}/${within}`,
    sheet: layout.format.is === "workbook" ? layout.format.sheet : undefined,
  }));
  return (location) => {
    if (!location) return undefined;
    const own = (sheet: string | number | undefined) =>
      sources.findIndex((one) => one.file === location.file && (sheet === undefined || one.sheet === sheet));
    const at = location.sheet !== undefined && own(location.sheet) >= 0 ? own(location.sheet) : own(undefined);
    return at < 0 ? undefined : at;
  };
}

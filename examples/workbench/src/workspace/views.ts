/** What the workspace gives the pages: plain data, small enough to be sent from the worker. */

import type { Outcome, Location, PlanDiagram, Question, RecordName, Severity } from "zest-tier";

/** What an edit did, and to what: for undo. */
export interface Did {
  readonly what: "opened" | "replied" | "bound" | "layout" | "target" | "files";
  readonly to: string;
}

export interface FindingCounts {
  readonly error: number;
  readonly warning: number;
  readonly note: number;
}

export interface SourceView {
  readonly file: string;
  readonly within: string | undefined;
  /** The sheet of a workbook. */
  readonly sheet: string | undefined;
  /** The file of its layout in the project, or the name of a shipped one. */
  readonly layout: string;
  readonly isShipped: boolean;
  /** Undefined until it has been read. */
  readonly rows: number | undefined;
  readonly form: string | undefined;
  readonly found: FindingCounts;
}

/** What may take more memory than is taken unasked. */
export type Large = "sources" | "rehearsal";

export interface Overview {
  readonly name: string;
  readonly isDemo: boolean;
  /** What could not be known when the project was made of files. */
  readonly questions: readonly Question[];
  readonly sources: readonly SourceView[];
  readonly targets: readonly string[];
  readonly target: string | undefined;
  readonly languages: readonly string[];
  readonly holdBack: boolean;
  /** By kind, most first. */
  readonly records: readonly (readonly [kind: string, count: number])[];
  readonly found: FindingCounts;
  /** `broken`: the project or a layout is not right; `too large`: it is not read unless asked. */
  readonly state: "broken" | "too large" | "read";
  readonly bytes: number;
  /** What waits until it is asked for, with the bytes of memory that it is expected to take. */
  readonly large: { readonly what: Large; readonly memory: number } | undefined;
  readonly undo: Did | undefined;
  readonly redo: Did | undefined;
  /** Goes up with every edit. */
  readonly version: number;
}

export interface FindingView {
  readonly code: string;
  readonly severity: Severity;
  readonly message: string;
  readonly at: Location | undefined;
  readonly location: string;
  readonly related: readonly Location[];
  /** Which source the place is in, and its column there; undefined where it is in none. */
  readonly source: number | undefined;
}

export interface FindingGroup {
  readonly code: string;
  readonly severity: Severity;
  readonly count: number;
  readonly remedy: string;
  readonly example: string;
}

export interface FindingFilter {
  readonly severity?: Severity | undefined;
  readonly code?: string | undefined;
  readonly file?: string | undefined;
  readonly text?: string | undefined;
}

/** A mark on a cell of a source. */
export interface Mark {
  readonly line: number;
  /** The header; undefined where the whole row is intended. */
  readonly column: string | undefined;
  readonly severity: Severity;
  readonly code: string;
  readonly message: string;
  readonly remedy: string;
}

export interface LayoutColumn {
  readonly header: string;
  /** As it stands in the layout; undefined where it is not bound. */
  readonly binding: string | undefined;
  readonly isIgnored: boolean;
  readonly sure: "sure" | "likely" | "by hand";
  readonly why: string;
  readonly found: FindingCounts;
}

export interface LayoutView {
  readonly file: string;
  readonly isShipped: boolean;
  readonly text: string;
  readonly columns: readonly LayoutColumn[];
  /** Fields to choose from. */
  readonly choices: readonly string[];
  readonly mistakes: readonly FindingView[];
}

export interface TreeNode {
  readonly key: string;
  readonly name: string;
  /** Products in it, and below. */
  readonly products: number;
  readonly children: readonly TreeNode[];
}

export interface ProductLine {
  readonly key: string;
  readonly name: string;
  readonly variants: number;
  readonly code: string;
  readonly found: FindingCounts;
}

export interface TextRow {
  readonly field: string;
  readonly source: string;
  readonly cells: readonly { readonly lang: string; readonly text: string | undefined; readonly state: TextState }[];
}
export type TextState = "source" | "done" | "missing" | "stale" | "same as the source";

export interface MatrixCell {
  readonly code: string;
  readonly price: string;
  readonly status: string;
}

/** Values of the last axis across, all others down. */
export interface Matrix {
  readonly axes: readonly string[];
  readonly across: readonly string[];
  readonly down: readonly { readonly values: readonly string[]; readonly cells: readonly (MatrixCell | undefined)[] }[];
  readonly made: number;
  readonly possible: number;
  /** More combinations than are shown. */
  readonly isCut: boolean;
}

export interface ProductView {
  readonly key: string;
  readonly name: string;
  readonly location: Location;
  readonly source: number | undefined;
  readonly facts: readonly (readonly [field: string, value: string])[];
  readonly categories: readonly string[];
  readonly matrix: Matrix | undefined;
  readonly optionGroups: readonly {
    readonly name: string;
    readonly isRequired: boolean;
    readonly choices: readonly { readonly name: string; readonly surcharge: string; readonly isPercent: boolean }[];
  }[];
  readonly components: readonly {
    readonly key: string;
    readonly name: string;
    readonly code: string;
    readonly quantity: string;
  }[];
  readonly sums:
    | {
        readonly price: string | undefined;
        readonly weight: string | undefined;
        readonly available: string | undefined;
      }
    | undefined;
  readonly pictures: readonly { readonly file: string; readonly alternative: string; readonly isThere: boolean }[];
  readonly texts: readonly TextRow[];
  readonly relations: readonly { readonly name: string; readonly key: string; readonly title: string }[];
  readonly findings: readonly FindingView[];
}

export interface StepView {
  readonly number: number;
  readonly is: string;
  readonly title: string;
  readonly why: string;
  readonly files: readonly string[];
  readonly detail: string;
  readonly after: readonly { readonly step: number; readonly withIds: boolean }[];
}

export interface PlanView {
  readonly steps: readonly StepView[];
  readonly picture: Omit<PlanDiagram, "boxes"> & {
    readonly boxes: readonly {
      readonly step: number;
      readonly x: number;
      readonly y: number;
      readonly detail: string;
    }[];
  };
  readonly uploads: number;
  readonly collections: number;
  readonly postponed: number;
  readonly bound: { readonly collections: number; readonly uploads: number } | undefined;
}

export interface ChainLink {
  readonly step: number;
  readonly title: string;
  readonly update: string | undefined;
  readonly file: string;
  readonly needs: readonly {
    readonly record: RecordName;
    readonly by: string;
    readonly createdIn: number | undefined;
    readonly collectedIn: number | undefined;
  }[];
}

export interface UploadFileView {
  readonly name: string;
  readonly step: number;
  readonly rows: number;
  readonly bytes: number | undefined;
  /** False for what waits until ids have been collected. */
  readonly isNow: boolean;
}

export interface UploadWindow {
  readonly headers: readonly string[];
  readonly rows: readonly { readonly line: number; readonly cells: readonly string[] }[];
  readonly total: number;
}

export interface OriginView {
  readonly field: string;
  readonly location: Location;
  readonly source: number | undefined;
}
export interface TraceView {
  readonly file: string;
  readonly line: number;
  readonly header: string;
  readonly text: string;
  readonly record: RecordName;
  readonly origins: readonly OriginView[];
}

export interface PlayedView {
  readonly steps: readonly {
    readonly round: number;
    readonly step: number;
    readonly title: string;
    readonly counts: Readonly<Record<Outcome, number>>;
    readonly refused: readonly { readonly file: string; readonly reason: string }[];
    readonly held: readonly (readonly [kind: string, count: number])[];
  }[];
  readonly rebuilt: boolean;
  readonly counts: Readonly<Record<Outcome, number>>;
  readonly differences: readonly {
    readonly kind: string;
    readonly key: string;
    readonly field: string | undefined;
    readonly intended: string;
    readonly actual: string;
    readonly at: Location | undefined;
    readonly source: number | undefined;
  }[];
  readonly differenceCount: number;
  readonly refusedRows: readonly {
    readonly file: string;
    readonly line: number;
    readonly record: string;
    readonly reasons: readonly string[];
  }[];
  readonly hidden: readonly { readonly key: string; readonly reasons: readonly string[] }[];
  readonly uncarried: readonly {
    readonly lost: string;
    readonly count: number;
    readonly examples: readonly string[];
    readonly instead: string | undefined;
  }[];
}

/** A target, ready to use: a platform as its importer behaves, its layouts compiled. */

import { driverOf } from "../formats/drivers/drivers.js";
import type { Header, Lang } from "../nominal.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { firstOf } from "../checked.js";
import { parseGiven, type Given } from "../given/yaml.js";
import { nearestSpelling } from "../spelling.js";
import type { Kinds } from "../kinds.js";
import { compileLayout } from "../layout/compile/compile.js";
import type { Feed, Layout } from "../layout/layout.js";
import { sheetsOf } from "../layout/write/layout-file.js";
import type { Location } from "../location.js";
import { withSettings, type Settings } from "./settings.js";
import { eachFile, eachLayout, eachSlot, type ExpandedFile } from "./expand.js";
import {
  givenTarget,
  type ColumnRule,
  type Demand,
  type GivenTarget,
  type ImporterRules,
  type ReadbackRules,
  type RecordReadback,
  type RecordRules,
  type Slot,
  type VisibleRule,
} from "./schema.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** How the ids of a file's records are learned. */
export interface IdsTold {
  readonly in: "report" | "export";
  readonly endpoint: string | undefined;
  readonly layout: Layout | undefined;
  readonly matchedBy: readonly ("key" | "code" | "name" | "path")[];
}

/** A file that a platform takes or gives. */
export interface TargetFile {
  readonly name: string;
  /** The first of its layouts; most files have one. */
  readonly layout: Layout;
  /** Files of several kinds have a layout for each, all with the same columns; their rows come one kind after the other. */
  readonly layouts: readonly Layout[];
  /** By header. */
  readonly rules: ReadonlyMap<string, ColumnRule>;
  readonly importer: ImporterRules | RecordRules;
  readonly endpoint: string | undefined;
  /** Columns without which the file is refused. */
  readonly mustHave: readonly string[];
  /** The columns that tell the entries of a record apart, where rows are entries. */
  readonly entryKey: readonly string[];
  readonly ids: IdsTold | undefined;
  readonly limits: {
    readonly products?: number | undefined;
    readonly bytes?: number | undefined;
    readonly "axes advised"?: number | undefined;
  };
}

/** A platform: its files, rules, importer and uploads, compiled. */
export interface Target {
  readonly name: string;
  readonly version: number;
  readonly languages: readonly Lang[];
  readonly endpoints: GivenTarget["endpoints"];
  readonly files: ReadonlyMap<string, TargetFile>;
  readonly slots: readonly Slot[];
  /** By list of the platform: what a project says is in it. */
  readonly has: ReadonlyMap<string, ReadonlySet<string>>;
  /** The slot whose file is the whole of what the platform is to hold. */
  readonly replacing: Slot | undefined;
  /** What a reference, `kind.field`, asks of the order. */
  readonly demands: ReadonlyMap<string, Demand>;
  readonly visible: readonly VisibleRule[];
  readonly readback: ReadbackRules | RecordReadback;
  readonly before: GivenTarget["before"];
  readonly after: GivenTarget["after"];
}

/** Whether an importer takes rows as records by themselves; else it groups them. */
export function playsRecords(importer: ImporterRules | RecordRules): importer is RecordRules {
  return "plays" in importer;
}

/** @throws Error for a file that is not of grouped rows: the caller's bug. */
export function groupedRules({ name, importer }: TargetFile): ImporterRules {
  if (playsRecords(importer)) throw new Error(`${name} is not a file of grouped rows`);
  return importer;
}

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
  const given = parsed && withSettings(parsed, account.settings, account.at, findings);
  if (!given) return { ok: false, findings };
  const compiler = new Compiler(given, kinds, findings);
  const files = new Map<string, TargetFile>();
  for (const one of Object.entries(given.value.files).flatMap(([name, written]) => eachFile(name, written))) {
    const made = compiler.file(one);
    if (made) files.set(one.name, made);
  }
  const all = given.value.slots.flatMap((slot) => eachSlot(slot, given.value.files));
  const slots = all.filter(({ mode }) => mode !== "replace");
  compiler.checkSlots();
  if (findings.hasErrors) return { ok: false, findings };
  const { target, version, languages, endpoints, demands, visible, readback } = given.value;
  const value: Target = {
    name: target,
    version,
    languages,
    endpoints,
    files,
    slots,
    has: new Map(),
    replacing: all.find(({ mode }) => mode === "replace"),
    demands: new Map(Object.entries(demands)),
    visible,
    readback,
    before: given.value.before,
    after: given.value.after,
  };
  return { ok: true, value, findings };
}

class Compiler {
  constructor(
    readonly given: Given<GivenTarget>,
    readonly kinds: Kinds,
    readonly findings: Findings,
  ) {}

  #mistake(problem: Text, nearest: string | undefined, ...path: (string | number)[]): void {
    this.findings.add(finding("target/mistake", { problem, nearest }, this.given.at(...path)));
  }

  file({ name, written, given }: ExpandedFile): TargetFile | undefined {
    const { kinds, findings } = this;
    const at = (...path: (string | number)[]) => this.given.at("files", written, "layout", ...path);
    const layouts = eachLayout(given).map((layout) => findings.took(compileLayout(layout, at, kinds)));
    if (layouts.some((layout) => layout === undefined)) return undefined;
    const compiled = layouts as Layout[];
    for (const layout of compiled) this.#checkLayout(layout, name, at);
    this.#checkSheets(compiled, name, written);
    const headers = firstOf(compiled).columns.map((column) => column.header);
    const check = (header: Header, ...path: (string | number)[]) => {
      if (!headers.includes(header))
        this.#mistake(
          phrase('"{0}" is not a column of {1}', header, name),
          nearestSpelling(header, headers),
          "files",
          written,
          ...path,
        );
    };
    const rules = new Map<string, ColumnRule>();
    for (const [column, rule] of Object.entries(given.rules)) {
      const count = column.includes("{n}") ? given.layout.numbered : 1;
      for (let number = 1; number <= count; number++) {
        const header = column.replace("{n}", String(number));
        check(header, "rules", column);
        if (rule.above !== undefined) check(rule.above, "rules", column, "above");
        if (rule["together with"] !== undefined) check(rule["together with"], "rules", column, "together with");
        if (rule.blank === "generate") check(rule["generated from"] ?? "", "rules", column, "generated from");
        if (rule.inherits !== undefined && !this.given.value.settings[rule.inherits])
          this.#mistake(
            phrase('there is no setting "{0}"', rule.inherits),
            nearestSpelling(rule.inherits, Object.keys(this.given.value.settings)),
            ...["files", written, "rules", column, "inherits"],
          );
        rules.set(header, rule);
      }
    }
    const importer = given.importer ?? this.given.value.importer;
    if (!importer) {
      this.#mistake(
        phrase('{0} needs "importer": how the platform processes the file', name),
        "importer",
        "files",
        written,
      );
      return undefined;
    }
    if (!playsRecords(importer)) {
      if (firstOf(compiled).format.is !== "csv")
        this.findings.add(
          finding(
            "target/mistake",
            { problem: phrase("{0}: a platform of grouped rows takes CSV files", name), nearest: undefined },
            at("format"),
          ),
        );
      check(importer["parent by"], "importer", "parent by");
      check(importer["child by"], "importer", "child by");
    }
    const ids = this.#ids(written, given);
    const { limits, endpoint } = given;
    const parts = { mustHave: given["must have"], entryKey: given["entry key"] };
    return { name, layout: firstOf(compiled), layouts: compiled, rules, importer, endpoint, ids, limits, ...parts };
  }

  /** What cannot be written, or cannot be played in the rehearsal, is refused before anything is built. */
  #checkLayout(
    { format, shape, link, headerLine, notes, cells, columns }: Layout,
    name: string,
    at: (...path: string[]) => Location,
  ): void {
    const { unwritten, rows } = driverOf(format);
    const refuse = (problem: Text | undefined, ...path: string[]): void => {
      if (problem !== undefined)
        this.findings.add(finding("target/mistake", { problem, nearest: undefined }, at(...path)));
    };
    refuse(
      unwritten(format) ?? (rows ? undefined : phrase("{0}: files of {1} cannot be uploaded yet", name, format.is)),
      "format",
    );
    if (link && shape.is !== "flat")
      refuse(phrase("{0}: only a row a record can be found by a column yet", name), "rows", "found by");
    for (const { header, bindings } of columns)
      if (bindings.some(({ feed }) => !isPlayed(feed)))
        refuse(phrase("{0}: such a column cannot be uploaded yet", name), "columns", header);
    if (link?.names === "line")
      refuse(phrase("{0}: rows cannot name the lines of another file yet", name), "rows", "found by", "names");
    if (headerLine !== 1 || notes.length > 0)
      refuse(phrase("{0}: the header of an uploaded file stands in its first line", name), "header");
    if (cells.length > 0) refuse(phrase("{0}: cells are not joined or cut in uploaded files yet", name), "cells");
  }

  /** A header for the whole file, or a sheet for each layout. */
  #checkSheets(layouts: readonly Layout[], name: string, written: string): void {
    const headersOf = (layout: Layout): string => layout.columns.map(({ header }) => header).join();
    if (sheetsOf(layouts).length > 1)
      this.#mistake(
        phrase("{0}: a workbook of several sheets cannot be uploaded yet", name),
        undefined,
        "files",
        written,
      );
    else if (layouts.some((layout) => headersOf(layout) !== headersOf(firstOf(layouts))))
      this.#mistake(phrase("the layouts of {0} have different columns", name), undefined, "files", written);
  }

  #ids(written: string, { ids }: ExpandedFile["given"]): IdsTold | undefined {
    if (!ids) return undefined;
    const at = (...path: (string | number)[]) => this.given.at("files", written, "ids", "layout", ...path);
    const layout = ids.layout && this.findings.took(compileLayout(ids.layout, at, this.kinds));
    if (ids.told === "export" && !ids.layout)
      this.#mistake(phrase("ids from an export need its layout"), undefined, "files", written, "ids");
    return { in: ids.told, endpoint: ids.export, layout, matchedBy: ids["matched by"] };
  }

  checkSlots(): void {
    const { slots, files } = this.given.value;
    slots.forEach((slot, at) => {
      if (!files[slot.file])
        this.#mistake(
          phrase('there is no file "{0}"', slot.file),
          nearestSpelling(slot.file, Object.keys(files)),
          "slots",
          at,
          "file",
        );
      const roots = this.kinds.roots.map((root) => root.name);
      for (const kind of slot.creates)
        if (!this.kinds.find(kind))
          this.#mistake(
            phrase('"{0}" is not a kind of record', kind),
            nearestSpelling(kind, roots),
            "slots",
            at,
            "creates",
          );
    });
  }
}

/** Whether the rehearsal reads what such a column holds. */
function isPlayed(feed: Feed): boolean {
  if (feed.is === "reference" && feed.spec.within !== undefined) return feed.parts !== undefined;
  if (feed.is === "entry") return feed.field.is === "text" || feed.field.spec.within === undefined;
  if (feed.is === "entries")
    return feed.parts.every((part) => part.is !== "reference" || part.spec.within === undefined);
  if (feed.is === "text") return feed.otherwise === undefined;
  if (feed.is === "referred") return feed.entry === undefined;
  return feed.is !== "axes";
}

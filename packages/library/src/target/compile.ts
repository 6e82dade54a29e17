/** The files of a target, compiled: their layouts, the rules of their columns, how they are processed, what their uploads make. */

import type { Header } from "../nominal.js";
import { finding, type Findings } from "../findings/finding.js";
import { entryOf, firstOf } from "../checked.js";
import type { Given } from "../given/yaml.js";
import { nearestSpelling } from "../spelling.js";
import type { Kinds } from "../kinds.js";
import { compileLayout } from "../layout/compile/compile.js";
import { withCreating } from "../layout/creating.js";
import type { Layout } from "../layout/layout.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { groupedColumns, hasRowsOf } from "./row-form.js";
import type { Demand, Slot } from "./slot.js";
import { demandsOf, namesIn, type NamesUsually, type NamingFile } from "./names.js";
import { compileImports } from "./compile-imports.js";
import { parseCondition } from "./row-facts.js";
import { wrongEntryKey } from "./entry-key.js";
import { importingOf, isAbout } from "./importing.js";
import { eachFile, eachLayout, type ExpandedFile } from "./expand.js";
import { wronglyNamedLines } from "./lines-named.js";
import { unmadeOwnNames } from "./own-names.js";
import { partsNamed } from "./parts.js";
import {
  completedRule,
  partRule,
  type ColumnRule,
  type GivenColumnRule,
  type GivenImporter,
  type GivenTarget,
  type PartRule,
} from "./schema.js";
import { splitPart } from "./settings.js";
import type { IdsTold, TargetExport, TargetFile } from "./target.js";
import { refusedNames, refusedSettings } from "./rehearsed-columns.js";
import { refusedImporter } from "./rehearsed-importer.js";
import { unlikeSheets, unplayedLayout } from "./unplayed-layout.js";

/** What a target's files and imports come to. */
export interface CompiledFiles {
  readonly files: ReadonlyMap<string, TargetFile>;
  readonly imports: readonly Slot[];
  readonly exports: ReadonlyMap<string, TargetExport>;
  readonly demands: ReadonlyMap<string, Demand>;
}

export class TargetCompiler {
  readonly #usual = new Map<string, NamesUsually>();

  constructor(
    readonly given: Given<GivenTarget>,
    readonly kinds: Kinds,
    readonly findings: Findings,
  ) {}

  compile(): CompiledFiles {
    const { value } = this.given;
    const files = new Map<string, TargetFile>();
    for (const one of Object.entries(value.files).flatMap(([name, written]) => eachFile(name, written))) {
      const made = this.#file(one);
      if (made) files.set(one.name, made);
    }
    const all = [...files.values()].flatMap((file) => file.layouts);
    this.#importerWords(value.importer, all, ["importer"]);
    for (const { problem, path } of unmadeOwnNames(files, (name) => entryOf(this.#usual, name)))
      this.#mistake(problem, undefined, ...path);
    const naming = new Map([...files].map(([name, file]) => [name, this.#namingOf(file)]));
    const imports = compileImports(this.given, naming, this.kinds, this.findings);
    for (const { problem, path } of wronglyNamedLines(files, imports)) this.#mistake(problem, undefined, ...path);
    return {
      files,
      imports,
      exports: this.#exports(),
      demands: demandsOf([...naming.values()], this.kinds),
    };
  }

  #exports(): Map<string, TargetExport> {
    const made = new Map<string, TargetExport>();
    for (const [name, { layouts }] of Object.entries(this.given.value.exports)) {
      const compiled = layouts.map((layout, nth) =>
        this.findings.took(
          compileLayout(layout, (...path) => this.given.at("exports", name, "layouts", nth, ...path), this.kinds),
        ),
      );
      if (!compiled.includes(undefined)) made.set(name, { layouts: compiled as Layout[] });
    }
    return made;
  }

  #mistake(problem: Text, nearest: string | undefined, ...path: (string | number)[]): void {
    this.findings.add(finding("target/mistake", { problem, nearest }, this.given.at(...path)));
  }

  #namingOf({ name, layouts, rules }: TargetFile): NamingFile {
    return { layouts, rules, usual: entryOf(this.#usual, name) };
  }

  #file({ name, written, given }: ExpandedFile): TargetFile | undefined {
    const { kinds, findings } = this;
    const at = (...path: (string | number)[]) => this.given.at("files", written, "layout", ...path);
    this.#onceSaid(written, given);
    const layouts = eachLayout(given).map((layout) => findings.took(compileLayout(layout, at, kinds)));
    if (layouts.some((layout) => layout === undefined)) return undefined;
    const compiled = layouts as Layout[];
    for (const layout of compiled) {
      for (const { problem, path } of unplayedLayout(layout, name))
        findings.add(finding("target/mistake", { problem, nearest: undefined }, at(...path)));
    }
    const sheets = unlikeSheets(compiled, name);
    if (sheets !== undefined) this.#mistake(sheets, undefined, "files", written);
    const rules = this.#rules(compiled, name, written, given);
    const said = { ...this.given.value.importer, ...given.importer };
    const usual = importingOf(said, compiled);
    this.#importerWords(given.importer ?? {}, compiled, ["files", written, "importer"]);
    const placeOf = (word: keyof GivenImporter): string[] => {
      const ofFile = given.importer?.[word] !== undefined;
      const ofAll = this.given.value.importer[word] !== undefined;
      return [...(ofFile || !ofAll ? ["files", written] : []), "importer", word];
    };
    for (const { word, problem } of refusedImporter(name, compiled, usual))
      this.#mistake(problem, undefined, ...placeOf(word));
    this.#usual.set(name, usual);
    for (const layout of compiled)
      for (const column of layout.columns) {
        const rule = rules.get(column.header);
        const ofColumn = (word: keyof GivenColumnRule | undefined): string[] =>
          word === undefined
            ? ["files", written, "layout", "columns", column.header]
            : ["files", written, "columns", column.header, word];
        for (const { word, problem } of rule ? refusedSettings(layout, column, rule, kinds) : [])
          this.#mistake(problem, undefined, ...ofColumn(word));
        const refused = refusedNames(name, layout, column, rule, usual);
        if (refused) this.#mistake(refused.problem, undefined, ...ofColumn(refused.word));
      }
    this.#namedColumns(written, given, compiled);
    const creates = (header: Header) => namesIn(rules.get(header), usual).unknown === "create";
    const all = compiled.map((layout) => withCreating(layout, creates));
    const { limits, endpoint } = given;
    const parts = { mustHave: given["must have"], entryKey: given["entry key"], ids: this.#ids(written, given) };
    const grouped = groupedColumns(firstOf(all));
    return { name, layout: firstOf(all), layouts: all, rules, grouped, importing: usual, endpoint, limits, ...parts };
  }

  /** Columns that a file must have, and those that tell entries apart, are columns of it. */
  #namedColumns(written: string, given: ExpandedFile["given"], layouts: readonly Layout[]): void {
    const headers = layouts.flatMap(({ columns }) => columns.map(({ header }) => header));
    for (const word of ["must have", "entry key"] as const)
      for (const [at, header] of given[word].entries()) {
        if (headers.includes(header)) continue;
        const problem = phrase('"{0}" is not a column of {1}', header, written);
        this.#mistake(problem, nearestSpelling(header, headers), "files", written, word, at);
      }
    const isKnown = given["entry key"].every((header) => headers.includes(header));
    for (const { problem, at } of isKnown ? wrongEntryKey(given["entry key"], layouts, this.kinds) : [])
      this.#mistake(problem, undefined, "files", written, "entry key", ...at);
  }

  /** A word that means nothing for any of the rows would be passed over in silence. */
  #importerWords(importer: GivenImporter, layouts: readonly Layout[], path: readonly string[]): void {
    if (layouts.length === 0) return;
    for (const [word, value] of Object.entries(importer))
      if (value !== undefined && !isAbout(word, layouts))
        this.#mistake(phrase('"{0}" is not for these rows', word), undefined, ...path, word);
    for (const kind of Object.keys(importer["identified by"] ?? {}))
      if (!hasRowsOf(kind, layouts))
        this.#mistake(phrase('"{0}" is not for these rows', kind), undefined, ...path, "identified by", kind);
  }

  /** What becomes of names that no record has is a fact of the platform, and stands with its column. */
  #onceSaid(written: string, { layout }: ExpandedFile["given"]): void {
    for (const [header, one] of Object.entries(layout.columns))
      if (typeof one === "object" && "missing" in one && one.missing !== undefined)
        this.#mistake(
          phrase('"{0}" of the column says what becomes of names that no record has', "unknown"),
          "unknown",
          ...["files", written, "layout", "columns", header, "missing"],
        );
  }

  #rules(
    layouts: readonly Layout[],
    name: string,
    written: string,
    given: ExpandedFile["given"],
  ): Map<Header, ColumnRule> {
    const headers = firstOf(layouts).columns.map((column) => column.header);
    const check = (header: Header, ...path: string[]) => {
      if (!headers.includes(header))
        this.#mistake(
          phrase('"{0}" is not a column of {1}', header, name),
          nearestSpelling(header, headers),
          ...["files", written, "columns", ...path],
        );
    };
    const rules = new Map<Header, ColumnRule>();
    const parts = new Map<Header, Map<string, PartRule>>();
    const known = new Set([...headers, ...Object.keys(given.layout.columns)]);
    for (const [column, rule] of Object.entries(given.columns)) {
      const { header: own, part } = splitPart(column, known);
      const count = own.includes("{n}") ? given.layout.numbered : 1;
      for (let number = 1; number <= count; number++) {
        const header = own.replace("{n}", String(number));
        check(header, column);
        if (part !== "") {
          const ofPart = this.#partRule(layouts, header, part.slice(1), rule, ["files", written, "columns", column]);
          if (ofPart) parts.set(header, (parts.get(header) ?? new Map()).set(part.slice(1), ofPart));
          continue;
        }
        for (const word of ["above", "not below", "together with", "as many as"] as const)
          if (rule[word] !== undefined) check(rule[word], column, word);
        for (const other of rule["needed if"]?.or ?? []) check(other, column, "needed if", "or");
        if (rule.blank === "generate") check(rule["generated from"] ?? "", column, "generated from");
        if (rule.inherits !== undefined && !this.given.value.settings[rule.inherits])
          this.#mistake(
            phrase('there is no setting "{0}"', rule.inherits),
            nearestSpelling(rule.inherits, Object.keys(this.given.value.settings)),
            ...["files", written, "columns", column, "inherits"],
          );
        const bound = firstOf(layouts).columns.find((one) => one.header === header);
        // Names beside a path are never cleared.
        const isNaming = bound?.bindings.some(({ feed }) => feed.is === "naming");
        rules.set(header, {
          ...completedRule(isNaming ? { ...rule, blank: rule.blank ?? "leave" } : rule),
          holds: rule.condition && this.#condition(firstOf(layouts), rule.condition.holds, written, column),
        });
      }
    }
    for (const [header, own] of parts) rules.set(header, { ...(rules.get(header) ?? completedRule({})), parts: own });
    return rules;
  }

  /** A condition, parsed once for all rows; what it names has to be a field of them. */
  #condition(layout: Layout, text: string, written: string, column: string): ColumnRule["holds"] {
    const parsed = parseCondition(layout, this.kinds, text);
    if (parsed.ok) return parsed.condition;
    this.#mistake(parsed.problem, undefined, "files", written, "columns", column, "condition", "holds");
    return undefined;
  }

  #partRule(
    layouts: readonly Layout[],
    header: Header,
    part: string,
    rule: GivenColumnRule,
    path: readonly string[],
  ): PartRule | undefined {
    const said = Object.fromEntries(Object.entries(rule).filter(([, value]) => value !== undefined));
    const column = firstOf(layouts).columns.find((one) => one.header === header);
    const names = column ? partsNamed(firstOf(column.bindings).feed) : [];
    if (column && !names.includes(part))
      this.#mistake(phrase('the cells of {0} have no part "{1}"', header, part), nearestSpelling(part, names), ...path);
    const parsed = partRule.safeParse(said);
    if (parsed.success) return parsed.data;
    const word = Object.keys(said).find((one) => !Object.hasOwn(partRule.shape, one)) ?? "";
    this.#mistake(phrase('"{0}" is not for a part of a cell', word), undefined, ...path, word);
    return undefined;
  }

  #ids(written: string, { ids }: ExpandedFile["given"]): IdsTold | undefined {
    if (!ids) return undefined;
    const at = (...path: (string | number)[]) => this.given.at("files", written, "ids", "layout", ...path);
    const layout = ids.layout && this.findings.took(compileLayout(ids.layout, at, this.kinds));
    if (ids.told === "export" && !ids.layout)
      this.#mistake(phrase("ids from an export need its layout"), undefined, "files", written, "ids");
    const without = (word: "export" | "matched by", other: string) =>
      this.#mistake(
        phrase('{0}: "{1}" means nothing without "{2}"', "ids", word, other),
        undefined,
        ...["files", written, "ids", word],
      );
    if (ids.told === "report" && ids.export !== undefined) without("export", "told: export");
    if (ids["matched by"] && !ids.layout) without("matched by", "layout");
    const isId = (layout: Layout) =>
      layout.columns.some(({ scope, bindings }) =>
        bindings.some(({ feed }) => scope.is === "parent" && feed.is === "text" && feed.field === "id"),
      );
    if (layout && !isId(layout))
      this.#mistake(phrase("the layout has no column with ids"), undefined, "files", written, "ids", "layout");
    return { in: ids.told, endpoint: ids.export, layout, matchedBy: ids["matched by"] ?? ["key"] };
  }
}

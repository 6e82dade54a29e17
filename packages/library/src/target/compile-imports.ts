/** The imports of a target, compiled: what each makes and adds, and which records it is for. */

import { entryOf, firstOf } from "../checked.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Given } from "../given/yaml.js";
import type { Kinds } from "../kinds.js";
import { levelOf, type Column, type Feed, type Layout } from "../layout/layout.js";
import { tellingColumns } from "../layout/shapes/layers.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { nearestSpelling } from "../spelling.js";
import { conditionOfImport, greedyImport, onlyAdds, slotOf, type NamedImport } from "./adapter/imports.js";
import { hasRowsOf } from "./adapter/importer.js";
import type { RecordCondition, Slot } from "./adapter/played.js";
import type { NamingFile } from "./adapter/references.js";
import { eachImport } from "./expand.js";
import type { GivenTarget } from "./schema.js";

/** @param naming the files by their names; those of an import that are not there have mistakes of their own. */
export function compileImports(
  given: Given<GivenTarget>,
  naming: ReadonlyMap<string, NamingFile>,
  kinds: Kinds,
  findings: Findings,
  noChange: (problem: Text, ...path: (string | number)[]) => void,
): Slot[] {
  const compiler = new ImportCompiler(given, naming, kinds, findings, noChange);
  return compiler.compile();
}

class ImportCompiler {
  /** Where the import stands that a slot comes from. */
  readonly #positions = new Map<Slot, number>();

  constructor(
    readonly given: Given<GivenTarget>,
    readonly naming: ReadonlyMap<string, NamingFile>,
    readonly kinds: Kinds,
    readonly findings: Findings,
    readonly noChange: (problem: Text, ...path: (string | number)[]) => void,
  ) {}

  compile(): Slot[] {
    const { value } = this.given;
    const imports = value.imports.flatMap((one, at) =>
      this.#isOfFile(one.file, at) && this.#hasColumns(one, at)
        ? eachImport(one, value.files).flatMap(({ given, lang }) => {
            const file = this.naming.get(given.file);
            return file ? [this.#placed(this.#import(given, file, lang, at), at)] : [];
          })
        : [],
    );
    if (this.findings.hasErrors) return imports;
    this.#onlyOneForm(imports);
    const greedy = greedyImport(imports, ({ file }) => {
      const { link, shape } = firstOf(entryOf(this.naming, file).layouts);
      return link ? undefined : shape.parent.name;
    });
    if (greedy) {
      const problem = phrase('"{0}" leaves no record to the imports after it', greedy.name);
      this.#mistake(problem, undefined, "imports", this.#positionOf(greedy));
    }
    return imports;
  }

  /** The rehearsal of a change plays one file of grouped rows, or any number of others. */
  #onlyOneForm(imports: readonly Slot[]): void {
    const isGrouped = ({ file }: Slot): boolean => {
      const { link, shape } = firstOf(entryOf(this.naming, file).layouts);
      return !link && shape.is === "grouped";
    };
    const grouped = imports.filter(isGrouped);
    const other = imports.find((one) => grouped.length > 0 && (!isGrouped(one) || one.file !== grouped[0]!.file));
    if (!other) return;
    const problem = phrase("{0}: changes with a file beside one of grouped rows cannot be rehearsed yet", other.file);
    this.noChange(problem, "imports", this.#positionOf(other), "file");
  }

  #placed(slot: Slot, at: number): Slot {
    this.#positions.set(slot, at);
    return slot;
  }

  #positionOf(slot: Slot): number {
    return entryOf(this.#positions, slot);
  }

  #mistake(problem: Text, nearest: string | undefined, ...path: (string | number)[]): void {
    this.findings.add(finding("target/mistake", { problem, nearest }, this.given.at(...path)));
  }

  #isOfFile(file: string, at: number): boolean {
    const { files } = this.given.value;
    if (Object.hasOwn(files, file)) return true;
    this.#mistake(
      phrase('there is no file "{0}"', file),
      nearestSpelling(file, Object.keys(files)),
      ...["imports", at, "file"],
    );
    return false;
  }

  #hasColumns({ file, mode, columns = [] }: GivenTarget["imports"][number], at: number): boolean {
    const { layout } = entryOf(new Map(Object.entries(this.given.value.files)), file);
    const known = Object.keys(layout.columns);
    const { importer, files } = this.given.value;
    const header = Object.entries(files).find(([name]) => name === file)?.[1].importer?.header ?? importer.header;
    if (columns.length > 0 && header === "as it is") {
      const problem = phrase(
        '{0}: "{1}" cannot leave columns out where the header has to be as it is',
        file,
        "columns",
      );
      const ofFile = Object.entries(files).find(([name]) => name === file)?.[1].importer?.header;
      this.#mistake(problem, undefined, ...(ofFile ? ["files", file] : []), "importer", "header");
    }
    const telling = columns.length === 0 ? [] : this.#telling(file, columns);
    const missing = telling.find((column) => !columns.includes(column));
    if (missing !== undefined) {
      const problem = phrase('{0}: the column "{1}" tells what a row is, and cannot be left out', file, missing);
      this.#mistake(problem, undefined, "imports", at, "columns");
    }
    const { rules } = this.naming.get(file) ?? {};
    const needed = [...(rules ?? [])].find(([column, { required }]) => required && !columns.includes(column))?.[0];
    if (columns.length > 0 && mode !== "update" && needed !== undefined) {
      const problem = phrase('{0}: the column "{1}" is required, and cannot be left out', file, needed);
      this.#mistake(problem, undefined, "imports", at, "columns");
    }
    const [inside, outside] = columns.length === 0 ? [] : this.#dividedEntry(file, columns);
    if (inside !== undefined && outside !== undefined) {
      const problem = phrase('{0}: "{1}" and "{2}" make entries together. An import takes both', file, inside, outside);
      this.#mistake(problem, undefined, "imports", at, "columns");
    }
    const wrong = columns.find((column) => !known.includes(column) && !this.#isNumbered(column, known));
    if (wrong === undefined) return true;
    this.#mistake(
      phrase('"{0}" is not a column of {1}', wrong, file),
      nearestSpelling(wrong, known),
      ...["imports", at, "columns", columns.indexOf(wrong)],
    );
    return false;
  }

  /** Two columns of the same entries, of which an import writes the first alone. */
  #dividedEntry(file: string, columns: readonly string[]): readonly string[] {
    for (const layout of this.naming.get(file)?.layouts ?? [])
      for (const group of entryGroups(layout)) {
        const inside = group.find((header) => columns.includes(header));
        const outside = group.find((header) => !columns.includes(header));
        if (inside !== undefined && outside !== undefined) return [inside, outside];
      }
    return [];
  }

  /** The columns that tell what a row is, of which record, or in which language. */
  #telling(file: string, columns: readonly string[]): string[] {
    const layouts = this.naming.get(file)?.layouts ?? [];
    const all = layouts.flatMap((layout) => [
      ...tellingColumns(layout).map(({ header }) => header),
      ...(layout.link ? [] : unidentified(layout, columns)),
    ]);
    return [...new Set(all)];
  }

  /** `Trait {n} en` stands for `Trait 1 en`, `Trait 2 en` and so on. */
  #expanded(columns: readonly string[], { layouts }: NamingFile): string[] {
    const headers = [...new Set(layouts.flatMap((layout) => layout.columns.map(({ header }) => header)))];
    return columns.flatMap((column) =>
      headers.includes(column) ? [column] : headers.filter((header) => this.#isNumbered(header, [column])),
    );
  }

  /** `Trait 2 en` is one of `Trait {n} en`; `Stock Barn` one of `Stock {place}`. */
  #isNumbered(column: string, known: readonly string[]): boolean {
    return known.some((one) => {
      const [start = "", end] = one.split(/\{[^}]*\}/);
      return end !== undefined && column.startsWith(start) && column.endsWith(end);
    });
  }

  #import(given: NamedImport, file: NamingFile, lang: string | undefined, at: number): Slot {
    if (given.mode !== "update" && onlyAdds(file.layouts))
      this.#mistake(
        phrase("{0}: rows that are found by a column make no records", given.file),
        "update",
        ...["imports", at, "mode"],
      );
    const hasRowsElsewhere = (kind: string): boolean =>
      this.given.value.imports.some(
        ({ file: other, mode }) => other !== given.file && mode !== "update" && this.#hasRows(kind, other),
      );
    return slotOf(
      { ...given, columns: given.columns && this.#expanded(given.columns, file) },
      file,
      lang,
      this.kinds,
      this.#recordCondition(given, file, lang, at),
      {
        hasRowsElsewhere,
        main: this.given.value.languages[0]!,
      },
    );
  }

  #hasRows(kind: string, file: string): boolean {
    const naming = this.naming.get(file);
    return naming !== undefined && hasRowsOf(kind, naming.layouts);
  }

  /** Which records an import is for. */
  #recordCondition(
    given: NamedImport,
    { layouts }: NamingFile,
    lang: string | undefined,
    at: number,
  ): RecordCondition | undefined {
    if (given.for === undefined) return undefined;
    const parsed = conditionOfImport(given, layouts, lang, this.given.value.imports, this.kinds);
    if (parsed.ok) return parsed.condition;
    this.#mistake(parsed.problem, undefined, "imports", at, "for");
    return undefined;
  }
}

/** The columns by which records are known of which an import writes something, where it writes none of them. */
function unidentified(layout: Layout, written: readonly string[]): string[] {
  const { columns } = layout;
  return (["parent", "child"] as const).flatMap((level) => {
    const own = columns.filter(({ scope }) => levelOf(layout, scope) === level);
    const words = own.filter(
      ({ scope, bindings }) => scope.is === level && bindings.some(({ feed }) => identifies(feed)),
    );
    const isWritten = ({ header }: Column): boolean => written.includes(header);
    if (words.length === 0 || !own.some(isWritten) || words.some(isWritten)) return [];
    return [firstOf(words).header];
  });
}

const identifies = (feed: Feed): boolean =>
  feed.is === "key" || (feed.is === "text" && (/^(id|code)$/.test(feed.field) || feed.field.startsWith("name@")));

/** The columns that make entries together: of a lane, or of the same entry or entries. */
function entryGroups({ columns }: Layout): string[][] {
  const groups = new Map<string, string[]>();
  for (const { header, scope, bindings } of columns)
    for (const { feed } of bindings) {
      if (feed.is !== "entry") continue;
      const own = [feed.entries, feed.constants, feed.parallel];
      const name = JSON.stringify(scope.is === "lane" ? scope.lane : own);
      groups.set(name, [...(groups.get(name) ?? []), header]);
    }
  return [...groups.values()];
}

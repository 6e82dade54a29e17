/** The imports of a target, compiled: what each makes and adds, and which records it is for. */

import { entryOf, firstOf } from "../checked.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Given } from "../given/yaml.js";
import type { Kinds } from "../kinds.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { nearestSpelling } from "../spelling.js";
import { conditionOfImport, greedyImport, onlyAdds, slotOf, type NamedImport } from "./adapter/imports.js";
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
): Slot[] {
  const compiler = new ImportCompiler(given, naming, kinds, findings);
  return compiler.compile();
}

class ImportCompiler {
  constructor(
    readonly given: Given<GivenTarget>,
    readonly naming: ReadonlyMap<string, NamingFile>,
    readonly kinds: Kinds,
    readonly findings: Findings,
  ) {}

  compile(): Slot[] {
    const { value } = this.given;
    const imports = value.imports.flatMap((one, at) =>
      this.#isOfFile(one.file, at) && this.#hasColumns(one, at)
        ? eachImport(one, value.files).flatMap(({ given, lang }) => {
            const file = this.naming.get(given.file);
            return file ? [this.#import(given, file, lang, at)] : [];
          })
        : [],
    );
    if (this.findings.hasErrors) return imports;
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

  #positionOf({ file }: Slot): number {
    return this.given.value.imports.findIndex((one) => one.file === file);
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

  #hasColumns({ file, columns = [] }: GivenTarget["imports"][number], at: number): boolean {
    const { layout } = entryOf(new Map(Object.entries(this.given.value.files)), file);
    const known = Object.keys(layout.columns);
    const wrong = columns.find((column) => !known.includes(column) && !this.#isNumbered(column, known));
    if (wrong === undefined) return true;
    this.#mistake(
      phrase('"{0}" is not a column of {1}', wrong, file),
      nearestSpelling(wrong, known),
      ...["imports", at, "columns", columns.indexOf(wrong)],
    );
    return false;
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
    return slotOf(given, file, lang, this.kinds, this.#recordCondition(given, file, lang, at));
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

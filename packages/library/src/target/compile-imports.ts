/** The imports of a target, compiled: what each makes and adds, and which records it is for. */

import { entryOf, firstOf } from "../checked.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Given } from "../given/yaml.js";
import type { Kinds } from "../kinds.js";
import { tellingColumns } from "../layout/shapes/layers.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { nearestSpelling } from "../spelling.js";
import { conditionOfImport, greedyImport, onlyAdds, slotOf, type NamedImport } from "./slots.js";
import { hasRowsOf } from "./row-form.js";
import type { RecordCondition, Slot } from "./slot.js";
import type { NamingFile } from "./names.js";
import { deletingProblem, givesKeys, tellsByKey } from "./deleting.js";
import { deletedUnnamed, expanded, isNumbered, wronglyLeftOut } from "./columns-left-out.js";
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
  /** Where the import stands that a slot comes from. */
  readonly #positions = new Map<Slot, number>();

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
            return file ? [this.#placed(this.#import(given, file, lang, at), at)] : [];
          })
        : [],
    );
    if (this.findings.hasErrors) return imports;
    const greedy = greedyImport(imports, ({ file }) => {
      const { link, shape } = firstOf(entryOf(this.naming, file).layouts);
      return link ? undefined : shape.parent.name;
    });
    const deleting = imports.filter(({ mode }) => mode === "delete");
    const kindDeleted = ({ file }: Slot) => firstOf(entryOf(this.naming, file).layouts).shape.parent.name;
    const twice = deleting.find((one, at) =>
      deleting.slice(at + 1).some((other) => kindDeleted(other) === kindDeleted(one)),
    );
    for (const slot of [greedy, twice])
      if (slot) {
        const problem = phrase('"{0}" leaves no record to the imports after it', slot.name);
        this.#mistake(problem, undefined, "imports", this.#positionOf(slot));
      }
    if (Object.keys(value.exports).length === 0)
      for (const slot of deleting) this.#checkKey(slot, kindDeleted(slot), deleting);
    return imports;
  }

  /** A platform that no file gives the keys of a kind to, and that tells none, cannot find its records by them. */
  #checkKey(slot: Slot, kind: string, deleting: readonly Slot[]): void {
    const isOther = (name: string) => deleting.every(({ file }) => file !== name);
    const givers = [...this.naming].filter(([name, file]) => isOther(name) && givesKeys(file, kind));
    if (givers.length > 0 || !tellsByKey(entryOf(this.naming, slot.file), slot.columns)) return;
    const problem = phrase("{0}: no other file gives the platform the keys of {1}", slot.file, kind);
    this.#mistake(problem, undefined, "imports", this.#positionOf(slot), "mode");
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
    const { files, importer } = this.given.value;
    const written = entryOf(new Map(Object.entries(files)), file);
    const naming = this.naming.get(file);
    // Columns that only tell what a row is need not be written down as columns.
    const telling = naming?.layouts.flatMap(tellingColumns).map(({ header }) => header) ?? [];
    const known = [...new Set([...Object.keys(written.layout.columns), ...telling])];
    const wrong = columns.find((column) => !known.includes(column) && !isNumbered(column, known));
    if (wrong === undefined && naming && columns.length > 0) {
      const isFixed = (written.importer?.header ?? importer.header) === "as it is";
      if (isFixed) {
        const problem = phrase(
          '{0}: "{1}" cannot leave columns out where the header has to be as it is',
          file,
          "columns",
        );
        this.#mistake(problem, undefined, ...(written.importer?.header ? ["files", file] : []), "importer", "header");
      }
      const all = expanded(columns, naming);
      const isDeleting = { ...importer, ...written.importer }["children not named"] === "deleted";
      const problems = [
        ...(isDeleting ? deletedUnnamed(file, naming, all) : []),
        ...wronglyLeftOut(file, naming, all, mode),
      ];
      for (const problem of problems) this.#mistake(problem, undefined, "imports", at, "columns");
    }
    if (wrong === undefined) return true;
    this.#mistake(
      phrase('"{0}" is not a column of {1}', wrong, file),
      nearestSpelling(wrong, known),
      ...["imports", at, "columns", columns.indexOf(wrong)],
    );
    return false;
  }

  #import(given: NamedImport, file: NamingFile, lang: string | undefined, at: number): Slot {
    const unfit = given.mode === "delete" ? deletingProblem(file, given.columns, lang) : undefined;
    if (unfit) this.#mistake(unfit, undefined, "imports", at, "mode");
    if ((given.mode === "create" || given.mode === "mirror") && onlyAdds(file.layouts))
      this.#mistake(
        phrase("{0}: rows that are found by a column make no records", given.file),
        "update",
        ...["imports", at, "mode"],
      );
    const hasRowsElsewhere = (kind: string): boolean =>
      this.given.value.imports.some(
        ({ file: other, mode }) =>
          other !== given.file && (mode === "create" || mode === "mirror") && this.#hasRows(kind, other),
      );
    return slotOf(
      { ...given, columns: given.columns && expanded(given.columns, file) },
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

/** The pages of what the library exports: meaning and form from the source, an example from the test that runs it. */

import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { fileURLToPath } from "node:url";
import ts from "typescript";

const library = fileURLToPath(new URL("../../../library/", import.meta.url));

interface Exported {
  readonly name: string;
  readonly isType: boolean;
  /** Its doc comment, without what marks it as one. */
  readonly about: string;
  /** As it is declared, without a body. */
  readonly form: string;
  /** The folder that declares it, below the library's sources. */
  readonly folder: string;
}

/** An entry of the library, and the test that has its examples. */
export interface EntryPoint {
  /** Below the library's sources. */
  readonly index: string;
  readonly test: string;
  /** What the examples call its exports. */
  readonly called: string;
  /** Above what no comment of the index groups. */
  readonly title: string;
}

export const wholeEntry: EntryPoint = { index: "index.ts", test: "api.test.ts", called: "api", title: "zest-tier" };
export const partsEntry: EntryPoint = {
  index: "parts.ts",
  test: "parts.test.ts",
  called: "parts",
  title: "zest-tier/parts",
};
export const hostEntries: readonly EntryPoint[] = [
  { index: "node/index.ts", test: "node.test.ts", called: "node", title: "zest-tier/node" },
  { index: "web/index.ts", test: "web.test.ts", called: "web", title: "zest-tier/web" },
  { index: "schemas.ts", test: "schemas.test.ts", called: "schemas", title: "zest-tier/schemas" },
];

/** By the comment above them in the index, in its order. */
export function exportsByGroup(entry: EntryPoint): ReadonlyMap<string, readonly Exported[]> {
  const index = `${library}src/${entry.index}`;
  const program = ts.createProgram([index], {
    module: ts.ModuleKind.NodeNext,
    target: ts.ScriptTarget.ES2023,
    strict: true,
    skipLibCheck: true,
    types: [],
  });
  const checker = program.getTypeChecker();
  const source = program.getSourceFile(index);
  if (!source) throw new Error("the library has no index");
  const groups = new Map<string, Exported[]>();
  const add = (title: string, one: Exported): void => void groups.set(title, [...(groups.get(title) ?? []), one]);
  let group = entry.title;
  for (const statement of source.statements) {
    const title = /\/\/ (.+)/.exec(
      statement.getFullText(source).slice(0, statement.getLeadingTriviaWidth(source)),
    )?.[1];
    if (title !== undefined) group = title;
    for (const declaration of declaredIn(statement)) {
      const symbol = declaration.name && checker.getSymbolAtLocation(declaration.name);
      if (symbol) add(group, { name: symbol.name, isType: isTypeOnly(symbol), ...describe(declaration) });
    }
    if (!ts.isExportDeclaration(statement) || !statement.exportClause || !ts.isNamedExports(statement.exportClause))
      continue;
    for (const specifier of statement.exportClause.elements) {
      const local = checker.getSymbolAtLocation(specifier.name);
      const symbol = local && local.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(local) : local;
      const declaration = symbol?.declarations?.[0];
      if (!symbol || !declaration) throw new Error(`${specifier.name.text} is not declared`);
      const isType = statement.isTypeOnly || specifier.isTypeOnly || isTypeOnly(symbol);
      add(group, { name: specifier.name.text, isType, ...describe(declaration) });
    }
  }
  return groups;
}

/** What a statement exports that it declares itself. */
function declaredIn(statement: ts.Statement): readonly ts.NamedDeclaration[] {
  const isExported =
    ts.canHaveModifiers(statement) &&
    ts.getModifiers(statement)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword) === true;
  if (!isExported) return [];
  if (ts.isVariableStatement(statement)) return statement.declarationList.declarations;
  return ts.isFunctionDeclaration(statement) || ts.isInterfaceDeclaration(statement) ? [statement] : [];
}

const isTypeOnly = ({ flags }: ts.Symbol): boolean => (flags & ts.SymbolFlags.Value) === 0;

function describe(declaration: ts.Declaration): Pick<Exported, "about" | "form" | "folder"> {
  const source = declaration.getSourceFile();
  // A constant's comment stands before the whole statement.
  const whole = ts.isVariableDeclaration(declaration) ? declaration.parent.parent : declaration;
  const comment = ts.getLeadingCommentRanges(source.text, whole.getFullStart())?.at(-1);
  const text = comment ? source.text.slice(comment.pos, comment.end) : "";
  const about = /^\/\*\*/.test(text) ? plainComment(text) : "";
  const [folder = ""] = relative(`${library}src`, source.fileName).split("/");
  return { about, form: formOf(declaration, whole, source), folder };
}

const plainComment = (text: string): string =>
  text
    .replace(/^\/\*\*|\*\/$/g, "")
    .split("\n")
    .map((line) => line.replace(/^\s*\* ?/, "").trimEnd())
    .join("\n")
    .trim()
    .replace(/\s*\n(?!\n|@)/g, " ")
    .replace(/\s*@param (\w+) /g, "\n\n`$1`: ")
    .replace(/\s*@returns /g, "\n\nReturns ")
    .replace(/\s*@throws /g, "\n\nThrows ");

function formOf(declaration: ts.Declaration, whole: ts.Node, source: ts.SourceFile): string {
  const from = whole.getStart(source);
  const cut = (to: number): string =>
    source.text
      .slice(from, to)
      .trim()
      .replace(/^export /, "")
      .replace(/\s*=>?\s*$/, "");
  if (ts.isFunctionDeclaration(declaration) && declaration.body) return cut(declaration.body.getStart(source));
  if (ts.isClassDeclaration(declaration)) return `class ${declaration.name?.text ?? ""} { … }`;
  if (ts.isVariableDeclaration(declaration)) {
    const { initializer, type } = declaration;
    if (initializer && ts.isArrowFunction(initializer)) return cut(initializer.body.getStart(source));
    if (type) return cut(type.end);
    return `const ${declaration.name.getText(source)}`;
  }
  return cut(whole.end);
}

/** The bodies of the examples, by the names of what they show. */
export function examples({ test, called }: EntryPoint): ReadonlyMap<string, string> {
  const file = `${library}test/${test}`;
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.ES2023, true);
  const found = new Map<string, string>();
  const see = (node: ts.Node): void => {
    if (ts.isMethodDeclaration(node) && node.body && ts.isIdentifier(node.name)) {
      const body = node.body
        .getText(source)
        .slice(1, -1)
        .replace(/^\n|\s+$/g, "");
      found.set(node.name.text, body.replace(/^ {4}/gm, "").replaceAll(`${called}.`, ""));
    }
    ts.forEachChild(node, see);
  };
  see(source);
  return found;
}

const fenced = (code: string): string => `\`\`\`ts\n${code}\n\`\`\`\n`;

/** Everything that an entry exports, in sections. */
export function exportsAsMarkdown(entry: EntryPoint): string {
  const shown = examples(entry);
  const sections = [...exportsByGroup(entry)].map(([title, all]) => {
    const entries = all.map(({ name, isType, about: text, form }) => {
      const example = isType ? undefined : shown.get(name);
      return `### ${name}\n\n${text === "" ? "" : `${text}\n\n`}${fenced(form)}${example === undefined ? "" : `\nExample:\n\n${fenced(example)}`}`;
    });
    return `## ${title.replace(/\.$/, "")}\n\n${entries.join("\n")}`;
  });
  return sections.join("\n");
}

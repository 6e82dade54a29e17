/** The page of everything that `zest-tier` exports: meaning and form from the source, an example from the test that runs it. */

import { readFileSync } from "node:fs";
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
}

/** By the comment above them in the index, in its order. */
export function exportsByGroup(): ReadonlyMap<string, readonly Exported[]> {
  const index = `${library}src/index.ts`;
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
  let group: Exported[] = [];
  for (const statement of source.statements) {
    const title = /\/\/ (.+)/.exec(
      statement.getFullText(source).slice(0, statement.getLeadingTriviaWidth(source)),
    )?.[1];
    if (title !== undefined) groups.set(title, (group = []));
    if (!ts.isExportDeclaration(statement) || !statement.exportClause || !ts.isNamedExports(statement.exportClause))
      continue;
    for (const specifier of statement.exportClause.elements) {
      const local = checker.getSymbolAtLocation(specifier.name);
      const symbol = local && local.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(local) : local;
      const declaration = symbol?.declarations?.[0];
      if (!symbol || !declaration) throw new Error(`${specifier.name.text} is not declared`);
      group.push({ name: specifier.name.text, isType: isTypeOnly(symbol), ...describe(declaration) });
    }
  }
  return groups;
}

const isTypeOnly = ({ flags }: ts.Symbol): boolean => (flags & ts.SymbolFlags.Value) === 0;

function describe(declaration: ts.Declaration): Pick<Exported, "about" | "form"> {
  const source = declaration.getSourceFile();
  // A constant's comment stands before the whole statement.
  const whole = ts.isVariableDeclaration(declaration) ? declaration.parent.parent : declaration;
  const comment = ts.getLeadingCommentRanges(source.text, whole.getFullStart())?.at(-1);
  const text = comment ? source.text.slice(comment.pos, comment.end) : "";
  const about = /^\/\*\*/.test(text) ? plainComment(text) : "";
  return { about, form: formOf(declaration, whole, source) };
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
export function examples(): ReadonlyMap<string, string> {
  const file = `${library}test/api.test.ts`;
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.ES2023, true);
  const found = new Map<string, string>();
  const see = (node: ts.Node): void => {
    if (ts.isMethodDeclaration(node) && node.body && ts.isIdentifier(node.name)) {
      const body = node.body
        .getText(source)
        .slice(1, -1)
        .replace(/^\n|\s+$/g, "");
      found.set(node.name.text, body.replace(/^ {4}/gm, "").replaceAll("api.", ""));
    }
    ts.forEachChild(node, see);
  };
  see(source);
  return found;
}

const fenced = (code: string): string => `\`\`\`ts\n${code}\n\`\`\`\n`;

export function apiPage(about: string): string {
  const shown = examples();
  const sections = [...exportsByGroup()].map(([title, all]) => {
    const entries = all.map(({ name, isType, about: text, form }) => {
      const example = isType ? undefined : shown.get(name);
      return `### ${name}\n\n${text === "" ? "" : `${text}\n\n`}${fenced(form)}${example === undefined ? "" : `\nExample:\n\n${fenced(example)}`}`;
    });
    return `## ${title.replace(/\.$/, "")}\n\n${entries.join("\n")}`;
  });
  return `${about}\n\n${sections.join("\n")}`;
}

/**
 * The rows of an uploaded file as a platform understands them: which are of one record together, and what each of them is. By the form of
 * the rows alone; nothing is looked up here.
 */

import { firstOf, present } from "../../checked.js";
import { byLanguage, type Layout } from "../../layout/layout.js";
import type { Header } from "../../nominal.js";
import type { FileContents, ContentRow } from "./file.js";

/**
 * What a row is: a record's own, one of what it contains, both, what continues the row above, or more of a record that is there
 * already. Why it cannot be one of these is given in words.
 */
export type RowIs = "own" | "child" | "both" | "more" | "linked";

export interface RowOfBlock extends ContentRow {
  readonly is: RowIs;
  /** By what the row names its record; blank where it follows one. */
  readonly word: string;
  /** The word for the language that the row is in. */
  readonly language: string;
  /** Why it cannot be what it should be. */
  readonly problem: string | undefined;
}

/** The rows of one record that stand together. */
export type RowBlock = readonly RowOfBlock[];

/** Cuts a file into blocks, some at a time. Layouts of one file have the same form of rows. */
export async function* blocksOf(contents: FileContents, layout: Layout): AsyncGenerator<readonly RowBlock[]> {
  if (contents.is === "elements") yield contents.elements.map(({ rows }) => elementBlock(rows, layout));
  if (contents.is !== "rows") return;
  const cutter = new BlockCutter(layout);
  for await (const rows of contents.rows) yield cutter.take(rows);
  yield cutter.end();
}

class BlockCutter {
  readonly #understanding: Understanding;
  readonly #languages: ReadonlySet<string>;
  readonly #close: (block: RowBlock) => RowBlock;
  #open: RowOfBlock[] = [];
  #above: RowOfBlock | undefined;

  constructor(readonly layout: Layout) {
    this.#understanding = understanding(layout);
    this.#languages = new Set(byLanguage(layout).map(([word]) => word));
    this.#close = layout.shape.is === "grouped" && !layout.link ? withFirst : (block) => block;
  }

  /** The blocks that end with what begins among more rows. */
  take(rows: readonly ContentRow[]): RowBlock[] {
    const blocks: RowBlock[] = [];
    for (const row of rows) {
      const cut = this.#cut(row);
      const goesOn = this.#above !== undefined && this.#understanding.goesOn(cut, this.#above);
      if (!goesOn && this.#open.length > 0) {
        blocks.push(this.#close(this.#open));
        this.#open = [cut];
      } else this.#open.push(cut);
      // What continues a row does not say its word again.
      this.#above = cut.is === "more" && this.#above ? { ...cut, word: this.#above.word } : cut;
    }
    return blocks;
  }

  /** The block that is open still. */
  end(): RowBlock[] {
    if (this.#open.length === 0) return [];
    const block = this.#close(this.#open);
    this.#open = [];
    return [block];
  }

  #cut({ line, cells }: ContentRow): RowOfBlock {
    const { languages } = this.layout;
    const cell = (header: Header | undefined): string => (header && cells?.get(header)) ?? "";
    const language = languages ? cell(languages.column) : "";
    const isKnown = !languages || this.#languages.has(language);
    const understood = this.#understanding.is(cell);
    const problem = cells ? understood.problem : "another number of cells than the header";
    return {
      line,
      cells,
      is: understood.is,
      word: understood.word,
      language,
      problem: problem ?? (isKnown ? undefined : `"${language}" is no language`),
    };
  }
}

/** The columns that tell what a row is, in which language it is, or which record it is of. */
export function tellingHeaders({ shape, link, languages }: Layout): ReadonlySet<Header> {
  const ofShape: (string | undefined)[] =
    shape.is === "grouped"
      ? [shape.column]
      : shape.is === "own-row"
        ? [shape.marker?.column, shape.joined.by === "reference" ? shape.joined.column : undefined]
        : shape.is === "expanded"
          ? [shape.excluded?.column]
          : [];
  return new Set([...ofShape, link?.column, languages?.column].flatMap((header) => header ?? []));
}

type Cell = (header: Header | undefined) => string;

interface Understanding {
  readonly is: (cell: Cell) => { readonly is: RowIs; readonly word: string; readonly problem?: string };
  /** Whether a row is of the same record as the one above it. */
  readonly goesOn: (row: RowOfBlock, above: RowOfBlock) => boolean;
}

function understanding(layout: Layout): Understanding {
  const { shape, link } = layout;
  if (link)
    return { is: (cell) => ({ is: "linked", word: cell(link.column) }), goesOn: (row, { word }) => row.word === word };
  switch (shape.is) {
    case "flat":
    case "expanded":
    case "nested":
      return flatRows(layout);
    case "grouped":
      return {
        is: (cell) => ({ is: cell(shape.column) === "" ? "more" : "child", word: cell(shape.column) }),
        goesOn: (row, above) => (row.word === "" ? above.word !== "" || above.is === "more" : row.word === above.word),
      };
    case "own-row":
      return ownRows(layout);
  }
}

/** Rows of records by themselves go on where their lanes do: what would begin a record is blank. */
function flatRows(layout: Layout): Understanding {
  const continued = layout.lanes.flatMap(({ blankColumns }) => blankColumns);
  const isMore = (cell: Cell): boolean => continued.length > 0 && continued.every((header) => cell(header) === "");
  return {
    is: (cell) => ({ is: isMore(cell) ? "more" : "own", word: "" }),
    goesOn: (row) => row.is === "more",
  };
}

function ownRows({ shape, lanes }: Layout): Understanding {
  if (shape.is !== "own-row") throw new Error("not rows of parents and children");
  const { marker, joined } = shape;
  const joinColumn = joined.by === "reference" ? joined.column : undefined;
  const continued = lanes.flatMap(({ blankColumns }) => blankColumns);
  return {
    is(cell) {
      const [mark, word] = [marker ? cell(marker.column) : "", joinColumn ? cell(joinColumn) : ""];
      if (continued.length > 0 && continued.every((header) => cell(header) === "")) return { is: "more", word: "" };
      if (!marker) return { is: word === "" ? "both" : "child", word };
      if (mark !== marker.parent && mark !== marker.child) {
        const problem = mark === "" ? "the row does not say what it is" : `"${mark}" is no kind of row`;
        return { is: "both", word, problem };
      }
      if (joinColumn && word === "" && mark === marker.child)
        return { is: "child", word, problem: "the row does not say its product" };
      return { is: mark === marker.parent ? "both" : "child", word };
    },
    goesOn: (row, above) =>
      row.is === "more" || (row.is === "child" && (row.word === above.word || above.is === "both" || row.word === "")),
  };
}

/** The first row of a group speaks of the record too, in each of its languages. */
function withFirst(block: readonly RowOfBlock[]): RowBlock {
  const seen = new Set<string>();
  return block.map((row) => {
    const isFirst = row.is === "child" && !seen.has(row.language);
    seen.add(row.language);
    return isFirst ? { ...row, is: "both" } : row;
  });
}

function elementBlock(rows: readonly (ContentRow & { readonly of: string })[], layout: Layout): RowBlock {
  // What lies within an element is in its language.
  const said = layout.languages && rows[0]?.cells?.get(layout.languages.column);
  const language = layout.languages ? (said ?? "") : firstOf(byLanguage(layout))[0];
  const { link } = layout;
  const word = (link && rows[0]?.cells?.get(link.column)) ?? "";
  return rows.map((row): RowOfBlock => {
    const is = link ? "linked" : row.of === "parent" ? "own" : row.of === "child" ? "child" : "more";
    return { line: row.line, cells: present(row.cells), is, word, language, problem: undefined };
  });
}

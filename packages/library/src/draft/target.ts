/**
 * A target drafted from a platform's own sample: its layout as `draft` proposes it, and what no sample can show asked, each question with a
 * default that is marked as assumed until it is answered.
 */

import { fitting, present } from "../checked.js";
import { Kinds } from "../kinds.js";
import { compileLayout } from "../layout/compile/compile.js";
import type { Column } from "../layout/layout.js";
import { specsNamed } from "../layout/specs-named.js";
import { parse, stringify } from "yaml";
import { givenLayout, type GivenLayout } from "../layout/schema.js";

/** What no sample can show. */
export interface Question {
  /** `refusal`, for an answer: `refusal=file`. */
  readonly name: string;
  readonly asks: string;
  /** What may be answered; anything, if left out. */
  readonly choices?: readonly string[];
  readonly preset: string;
  readonly answer: string | undefined;
}

/** A target proposed for a platform's own sample. */
export interface DraftedTarget {
  readonly yaml: string;
  readonly questions: readonly Question[];
}

type Asked = Omit<Question, "answer">;

const always: readonly Asked[] = [
  {
    name: "blank",
    asks: "What does a blank cell do to the stored value?",
    choices: ["clear", "leave"],
    preset: "leave",
  },
  { name: "products", asks: "How many products may one file hold? 0 for any number.", preset: "0" },
  { name: "bytes", asks: "How many bytes may one file have? 0 for any number.", preset: "0" },
  { name: "upload", asks: "Where is a file sent? {name} stands for its name.", preset: "/imports/{name}" },
  { name: "catalogue", asks: "Where does the platform show its stored records?", preset: "/catalogue" },
];
const ofRecords: readonly Asked[] = [
  {
    name: "refusal",
    asks: "When the platform refuses a row, does it refuse only this row or the whole file?",
    choices: ["row", "file"],
    preset: "row",
  },
  {
    name: "header",
    asks: "May columns be in any order, or be left out?",
    choices: ["any order", "as it is"],
    preset: "as it is",
  },
  {
    name: "links",
    asks: "When does the platform look up the records that a row names?",
    choices: ["as rows arrive", "at the end of the file"],
    preset: "as rows arrive",
  },
];
const ofGroups: readonly Asked[] = [
  {
    name: "shared",
    asks: "What happens when a product's cell is filled below its first row?",
    choices: ["refuse", "ignore"],
    preset: "refuse",
  },
  {
    name: "moves",
    asks: "What happens when a row names a code that belongs to another product?",
    choices: ["moves", "refuse"],
    preset: "refuse",
  },
];

/** By header, what the columns of a layout are. */
interface Columns {
  /** Records are named by their names: a platform that takes names creates what they name. */
  readonly creating: ReadonlySet<string>;
  /** Axes, their values, and entries on rows of their own: a blank is part of what they say. */
  readonly withBlanks: ReadonlySet<string>;
  readonly hasAxes: boolean;
}

function columnsOf(layout: GivenLayout): Columns {
  const parsed = givenLayout.safeParse(layout);
  const compiled = parsed.success && compileLayout(parsed.data, () => ({ file: layout.layout }), new Kinds());
  const columns = compiled && compiled.ok ? compiled.value.columns : [];
  const headersWhere = (isIt: (column: Column) => boolean) => new Set(columns.filter(isIt).map(({ header }) => header));
  const axes = headersWhere(({ bindings }) =>
    bindings.some(({ feed }) => feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis"),
  );
  const lanes = headersWhere(({ scope }) => scope.is === "lane");
  return {
    creating: headersWhere(({ bindings }) =>
      bindings.some(({ feed }) => specsNamed(feed).some(({ by }) => by === "name")),
    ),
    withBlanks: new Set([...axes, ...lanes]),
    hasAxes: axes.size > 0,
  };
}

/**
 * A target for a platform, drafted from the layout of its import sample and the answers to questions.
 *
 * @param layout as it was drafted: YAML text. @param answers by the names of the questions.
 * @returns the target's file; every line that rests on a question without an answer says so.
 */
export function draftTarget(name: string, layout: string, answers: ReadonlyMap<string, string>): DraftedTarget {
  const given = parse(layout) as GivenLayout;
  const isGrouped = given.rows["grouped by"] !== undefined;
  const questions = [...(isGrouped ? ofGroups : ofRecords), ...always].map((one) => ({
    ...one,
    answer: answers.get(one.name),
  }));
  const said = (question: string): string => {
    const { answer, preset } = fitting(questions, (one) => one.name === question);
    return answer ?? preset;
  };
  const kind = given.rows.of ?? given.rows.each;
  const file = kind === "product" ? "range" : kind;
  const limits = {
    ...(said("products") === "0" ? {} : { products: Number(said("products")) }),
    ...(said("bytes") === "0" ? {} : { bytes: Number(said("bytes")) }),
  };
  const blank = said("blank");
  const { creating, withBlanks, hasAxes } = columnsOf(given);
  const columns = Object.fromEntries(
    Object.entries(given.columns).map(([header, binding]) => {
      const text = JSON.stringify(binding);
      const isNeeded = /\.key"|variant\.code|product\.name@/.test(text) && !/@(?!en\b)/.test(text);
      const names = creating.has(header) ? { unknown: "create" } : {};
      const blanks = isGrouped && withBlanks.has(numbered(header)) ? {} : { blank };
      return [header, { ...(isNeeded ? { required: true } : {}), ...blanks, ...names }];
    }),
  );
  // What becomes of names that no record has stands with the rules of the column.
  const bindings = Object.entries(given.columns).map(([header, binding]) => {
    if (typeof binding !== "object" || !("missing" in binding)) return [header, binding] as const;
    return [header, Object.fromEntries(Object.entries(binding).filter(([word]) => word !== "missing"))] as const;
  });
  const target = {
    target: name,
    version: 1,
    about: "Drafted from a sample. Check each line that is marked as assumed.",
    languages: languagesOf(given),
    endpoints: { pictures: "/pictures", upload: said("upload"), catalogue: said("catalogue") },
    files: {
      [file]: {
        layout: { ...given, columns: Object.fromEntries(bindings) },
        columns,
        ...(Object.keys(limits).length > 0 ? { limits } : {}),
        importer: isGrouped
          ? {
              "refusal costs": "record",
              "shared cells below the first row": said("shared"),
              "child of another parent": said("moves"),
              "missing pictures": "left out",
              "looked up": "at the end of the file",
              "unknown names": "leave out",
            }
          : {
              header: said("header"),
              "refusal costs": said("refusal"),
              "looked up": said("links"),
              "unknown names": "refuse",
              ...(!hasAxes ? {} : { "axes of a known parent": "replace" }),
            },
      },
    },
    imports: [{ file }],
  };
  const open = questions.filter((one) => one.answer === undefined);
  const asked = open.map(
    ({ name: question, asks, choices, preset }) =>
      `# assumed: ${question}=${preset}. ${asks}${choices ? ` (${choices.join(" | ")})` : ""}`,
  );
  const left = [...layout.matchAll(/^# {3}(.+)$/gm)].map(([, column]) => `# left out: ${column}`);
  const notes = [...asked, ...left];
  return {
    yaml: `${[...notes, ...(notes.length > 0 ? [""] : [])].join("\n")}${stringify(target, { lineWidth: 120 })}`,
    questions,
  };
}

/** Of columns that are numbered, the first. */
const numbered = (header: string): string => header.replace("{n}", "1");

function languagesOf(layout: GivenLayout): string[] {
  const found = [...JSON.stringify(layout.columns).matchAll(/@([a-z]{2,3}(?:-[A-Za-z]+)?)\b/g)].map((match) =>
    present(match[1]),
  );
  return [...new Set([layout.language ?? "en", ...found])];
}

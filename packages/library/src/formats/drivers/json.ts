/** Elements of a JSON document, or JSON Lines. */

import { z } from "zod";
import { present } from "../../checked.js";
import { decodeText } from "../decode.js";
import { jsonAccess, type DocumentAccess } from "../document.js";
import { outsidePath } from "../json-outside.js";
import { jsonLists } from "../json-lists.js";
import { readJson } from "../json-read.js";
import { phrase } from "../../phrases/phrase.js";
import { pointerSteps, setAt, valueAt } from "../json-pointer.js";
import { exactNumber, jsonText } from "../json-write.js";
import type { DocumentWriter, ElementText, FormatDriver, FormatOf } from "./driver.js";

type Json = FormatOf<"json">;

const schema = z.strictObject({
  lines: z.boolean().optional(),
  envelope: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])).optional(),
});

export const jsonDriver: FormatDriver<Json, typeof schema> = {
  schema,
  of: ({ lines = false, envelope = {} }) => ({ is: "json", lines, envelope }),
  detect: (_, text) => (/^\s*[[{]/.test(text) ? jsonDriver.of({ lines: isLines(text) }) : undefined),
  isArchive: false,
  open({ lines, envelope }, { bytes, file, findings, element, caps }) {
    let found = "";
    const text = decodeText(bytes, file, undefined, findings, (one) => (found = one));
    const pointer = present(element);
    /** How many values stand at each place around the elements, by the steps to it. */
    const around = new Map<readonly string[], number>();
    const outside = (steps: readonly string[]) => void around.set(steps, (around.get(steps) ?? 0) + 1);
    // What the layout puts around the elements itself is known.
    const isKnown = (steps: readonly string[]) => steps.length === 1 && Object.hasOwn(envelope, steps[0] ?? "");
    const stillUnread = (ignored: readonly string[]) => {
      const byPath = new Map<string, number>();
      for (const [steps, values] of around) {
        const path = outsidePath(pointer, steps);
        if (!isKnown(steps) && !ignored.includes(path)) byPath.set(path, (byPath.get(path) ?? 0) + values);
      }
      return [...byPath].map(([path, values]) => ({ path, values }));
    };
    const batches = readJson(text, file, pointer, lines, findings, caps, outside);
    const access: DocumentAccess<unknown> = {
      ...jsonAccess,
      unread: (reads, ignored) => ({
        ...jsonAccess.unread(reads, ignored),
        around: (next) => (next === undefined ? stillUnread(ignored) : []),
      }),
    };
    return Promise.resolve({
      is: "elements",
      with: (take) => take({ access, pointer: lines ? undefined : pointer, batches }),
      encoding: () => found,
      form: () => `JSON ${found}`,
    });
  },
  ending: ({ lines }) => (lines ? "jsonl" : "json"),
  resource: ({ lines }) => ({
    format: lines ? "jsonl" : "json",
    mediatype: lines ? "application/jsonl" : "application/json",
    encoding: "utf-8",
  }),
  unwritten: () => undefined,
  rows: undefined,
  elements: {
    access: () => jsonAccess,
    pathForm: phrase('JSON Pointer: "/name/en"'),
    limits: undefined,
    firstLine: ({ lines }) => (lines ? 1 : 0),
    linesOf: () => 1,
    // Lines are one list, and no document as a whole.
    lists: ({ lines }, { bytes, file, findings }, elements) =>
      lines ? Promise.resolve(new Set(elements)) : jsonLists(decodeText(bytes, file, undefined, findings), elements),
    write: (format, element) => (take) => take(writerOf(format, element)),
  },
};

/** Whether the first line is a document by itself, and another follows. */
function isLines(text: string): boolean {
  const [first = "", second = ""] = text.trimStart().split("\n");
  return first.trimEnd().endsWith("}") && second.trimStart().startsWith("{");
}

type Made = Record<string, unknown>;

function writerOf({ lines: isLines, envelope }: Json, element: string): DocumentWriter<Made> {
  const steps = pointerSteps(element);
  const beside = Object.entries(envelope).map(([key, value]) => `${JSON.stringify(key)}:${JSON.stringify(value)},`);
  const openings = steps.map((step, at) => `{${at === 0 ? beside.join("") : ""}${JSON.stringify(step)}:`);
  return {
    head: isLines ? "" : `${openings.join("")}[\n`,
    between: isLines ? "" : ",\n",
    tail: isLines ? "" : `\n]${"}".repeat(steps.length)}\n`,
    textOf: (made) => (isLines ? `${jsonText(made)}\n` : jsonText(made)),
    root: () => ({}),
    add(owner, step, itself) {
      const list = (valueAt(owner, step) as unknown[] | undefined) ?? [];
      if (list.length === 0) setAt(owner, pointerSteps(step), list);
      const made: Made = {};
      list.push(itself ? valueOf(itself) : made);
      return made;
    },
    reach(owner, step) {
      const there = valueAt(owner, step) as Made | undefined;
      if (there) return there;
      const made: Made = {};
      setAt(owner, pointerSteps(step), made);
      return made;
    },
    put: (made, path, text) => setAt(made, pointerSteps(path), valueOf(text)),
  };
}

function valueOf({ text, holds }: ElementText): unknown {
  if (holds === "number") return exactNumber(text) ?? text;
  return holds === "flag" ? text === "true" : text;
}

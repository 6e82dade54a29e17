/** New codes by a pattern: `{code}`, `{key}`, `{number}`, `{number 4}` with zeros before it. */

import { z } from "zod";
import { fieldOf } from "../../kind.js";
import { phrase } from "../../phrases/phrase.js";
import { inSelection, operation } from "../operation.js";
import { givenSelection, select } from "../select.js";

const places = /\{([^}]*)\}/g;
const isPlace = (word: string): boolean => /^(?:code|key|number(?: \d)?)$/.test(word);

export const renumber = operation({
  schema: z.strictObject({ renumber: givenSelection, pattern: z.string().min(1) }),
  async *problems({ renumber: on, pattern }, kinds) {
    yield* inSelection("renumber", on, kinds);
    const kind = kinds.find(on.of);
    if (kind && !["product", "variant"].includes(on.of))
      yield { path: ["renumber", "of"], problem: phrase("{0} has no code", on.of) };
    for (const [whole, word = ""] of pattern.matchAll(places))
      if (!isPlace(word)) yield { path: ["pattern"], problem: phrase("{0} stands for nothing in this pattern", whole) };
  },
  async run(work, { renumber: on, pattern }) {
    const { catalogue } = work;
    const rows = await select(work, on);
    if (!rows) return;
    const table = catalogue.table(on.of);
    if (!fieldOf(table.kind, "code")) return work.refuse(phrase("{0} has no code", on.of));
    const renumbered = new Set(rows);
    const taken = new Set<string>();
    for (const one of ["product", "variant"])
      for (const row of work.rows(one)) {
        const code = catalogue.table(one).text("code", row);
        if (typeof code === "string" && !(one === on.of && renumbered.has(row))) taken.add(code);
      }
    let number = 0;
    for (const row of rows) {
      const code = table.text("code", row);
      if (typeof code !== "string") continue;
      number++;
      const made = pattern
        .replaceAll("{code}", code)
        .replaceAll("{key}", table.key(row))
        .replace(/\{number(?: (\d))?\}/g, (_, width: string | undefined) =>
          String(number).padStart(Number(width ?? 0), "0"),
        );
      if (taken.has(made)) return work.refuse(phrase("the code {0} would exist twice", made));
      taken.add(made);
      work.recode(code, made);
      table.setText("code", row, made);
      work.sets(on.of, row, "code");
      // What goes by its code is called by it.
      if (table.key(row) === code && table.find(made) === undefined) {
        table.rename(row, made);
        work.become(on.of, code, [made]);
      }
    }
    if (number > 0)
      work.step({
        title: phrase("Change {0} codes", number),
        why: phrase("A platform that identifies records by their codes takes a changed code for a new record."),
        when: "before",
        about: { kind: on.of },
      });
  },
});

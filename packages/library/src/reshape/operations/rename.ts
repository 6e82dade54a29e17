/** Another key, other names. */

import { z } from "zod";
import { fieldOf } from "../../kind.js";
import { phrase } from "../../phrases/phrase.js";
import { operation } from "../operation.js";

const key = z.string().min(1);

export const rename = operation({
  schema: z.strictObject({
    rename: key,
    of: key,
    to: key.optional(),
    name: z.record(z.string().min(2), key).optional(),
  }),
  *problems({ of, to, name }, kinds) {
    const kind = kinds.find(of);
    if (!kind || kind.entryKey) yield { path: ["of"], problem: phrase('there is no kind "{0}"', of) };
    else if (name && !fieldOf(kind, "name"))
      yield { path: ["name"], problem: phrase('{0} has no field "{1}"', of, "name") };
    if (to === undefined && name === undefined)
      yield { path: ["rename"], problem: phrase("rename needs one of: to, name") };
  },
  run(work, { rename: from, of, to, name = {} }) {
    const { catalogue } = work;
    if (!catalogue.kinds.find(of)) return work.refuse(phrase('there is no kind "{0}"', of));
    const row = work.need(of, from);
    if (row === undefined) return;
    const table = catalogue.table(of);
    if (to !== undefined && to !== from) {
      if (table.find(to) !== undefined) return work.refuse(phrase('{0} "{1}" already exists', of, to));
      table.rename(row, to);
      work.become(of, from, [to]);
    }
    for (const [lang, text] of Object.entries(name)) {
      table.setText(`name@${lang}`, row, text);
      work.sets(of, row, `name@${lang}`);
    }
  },
});

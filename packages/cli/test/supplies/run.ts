/**
 * How well made-up supplies are drafted: `npm run drafts -- --seed TEXT [--count 25] [--show wrong|gap] [--only N] [--files] [--mute]`.
 *
 * It counts columns: bound to what they truly hold, bound to something else, and not bound. With `--mute` headers say nothing.
 */

import { parseArgs } from "node:util";
import { draftSupply } from "./draft.js";
import { judgeFile, type JudgedColumn } from "./judge.js";
import { supplyOf } from "./supplies.js";

const { values } = parseArgs({
  options: {
    seed: { type: "string", default: "1" },
    count: { type: "string", default: "25" },
    only: { type: "string" },
    show: { type: "string" },
    files: { type: "boolean", default: false },
    mute: { type: "boolean", default: false },
  },
});

interface Seen {
  readonly supply: number;
  readonly file: string;
  readonly kind: string;
  readonly column: JudgedColumn;
}
const seen: Seen[] = [];
let files = 0;
for (let number = 0; number < Number(values.count); number++) {
  if (values.only !== undefined && number !== Number(values.only)) continue;
  const { files: sent, tongue } = supplyOf(values.seed, number, values.mute);
  const drafts = await draftSupply(sent);
  files += sent.length;
  for (const [at, file] of sent.entries()) {
    for (const column of judgeFile(file, drafts[at]))
      seen.push({
        supply: number,
        file: file.name,
        kind: `${file.part === "main" ? file.kind : file.part.replace(/-.*/, "")}`,
        column,
      });
    if (values.files) {
      console.log(`--- ${number} ${tongue} ${file.name} ${file.kind}`);
      if (file.name.endsWith(".csv"))
        console.log(new TextDecoder().decode(file.bytes).split("\n").slice(0, 6).join("\n"));
      console.log(drafts[at]?.yaml ?? "not drafted");
    }
  }
}

const holding = seen.filter(({ column }) => column.truth !== undefined);
const count = (list: readonly Seen[], judged: JudgedColumn["judged"]) =>
  list.filter(({ column }) => column.judged === judged).length;
const share = (n: number) => `${n} (${((100 * n) / holding.length).toFixed(1)} %)`;
console.log(
  `${files} files, ${seen.length} columns, ${holding.length} of them hold a field: ` +
    `right ${share(count(seen, "right"))}, wrong ${share(count(seen, "wrong"))}, not bound ${share(count(seen, "gap"))}`,
);
for (const kind of [...new Set(seen.map((one) => one.kind))].sort()) {
  const own = seen.filter((one) => one.kind === kind);
  console.log(`  ${kind}: right ${count(own, "right")}, wrong ${count(own, "wrong")}, not bound ${count(own, "gap")}`);
}
if (values.show !== undefined)
  for (const { supply, file, kind, column } of seen)
    if (column.judged === values.show)
      console.log(
        `${supply} ${file} (${kind}) "${column.header}": ${column.bound ?? "-"}, truly ${column.truth?.join(" or ") ?? "nothing"}`,
      );

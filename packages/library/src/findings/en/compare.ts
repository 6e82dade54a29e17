/** Findings about what is on the platform: ledger, exports, pairs, changes, operations, collecting. */

import { error, note, warning } from "../definition.js";
import { aKind, kindName, listed, some, type Text } from "../wording.js";

export const compare = {
  "ledger/torn-batch": warning(
    (f: { lines: number }) =>
      `the last batch was not finished. ${some(f.lines, "line")} of it ${f.lines === 1 ? "does" : "do"} not count`,
    "Collect again. The platform's reports and exports still contain what this batch would have recorded.",
  ),
  "ledger/other-count": error(
    (f: { lines: number; there: number }) =>
      `this batch was closed with ${some(f.lines, "line")}, but it has ${f.there}`,
    "The file was changed by hand. Restore it from a backup.",
  ),
  "ledger/no-line": error(
    (_: object) => "this is not a valid ledger line",
    "The file was changed by hand. Restore the line, or remove it.",
  ),
  "ledger/id-taken": error(
    (f: { kind: string; key: string; id: string; owner: string }) =>
      `id ${f.id} of ${kindName(f.kind)} "${f.key}" already belongs to ${kindName(f.kind)} "${f.owner}"`,
    "Check on the platform which of the two it is. The ledger keeps the earlier one.",
  ),
  "ledger/ids-in-sources": note(
    (f: { count: number; examples: readonly string[]; target: string }) =>
      `${some(f.count, "record is", "records are")} on ${f.target} already, as the sources have their ids: ${listed(f.examples, f.count)}`,
    "They are not uploaded. With an export (--export) they are compared, and what differs is.",
  ),
  "ledger/other-id": error(
    (f: { kind: string; key: string; id: string; known: string }) =>
      `${kindName(f.kind)} "${f.key}" has the id ${f.known} in the ledger, but ${f.id} here`,
    "Either the account was emptied, or this is of another account. Use one ledger for each account. The ledger counts.",
  ),
  "compare/not-whole": error(
    (f: { target: string }) => `this is not a complete export of ${f.target}: it is cut off, or it is not JSON`,
    "Save the export again, and check its size.",
  ),
  "compare/names-missing": warning(
    (f: { count: number }) =>
      `${some(f.count, "reference")} of the export ${f.count === 1 ? "leads" : "lead"} to records that it does not contain. They are left out of the comparison`,
    "Save the whole export again. If the records are in another file, give that too (--export FILE --export FILE).",
  ),
  "compare/names-differ": warning(
    (f: { count: number }) =>
      `${some(f.count, "name")} in the export ${f.count === 1 ? "differs" : "differ"} between records that are one in your sources. The first name was compared`,
    "Use one name for each value on the platform, in every language.",
  ),
  "compare/other-export": error(
    (f: { missing: readonly string[]; target: string }) =>
      `this is not an export of ${f.target}: ${listed(f.missing.slice(0, 4), f.missing.length)} ${f.missing.length === 1 ? "is" : "are"} missing`,
    "Give an export of this platform, as its target file describes it.",
  ),
  "compare/exports-missing": error(
    (f: { missing: readonly string[]; target: string }) =>
      `the exports of ${f.target} are not complete: ${listed(f.missing.slice(0, 4), f.missing.length)} ${f.missing.length === 1 ? "is" : "are"} missing`,
    "Give the exports that contain them too (--export FILE --export FILE).",
  ),
  "compare/other-shop": error(
    (f: { known: number; there: number }) =>
      `the export contains none of the ${some(f.known, "product")} that were delivered. It is of another shop`,
    "Give the export of the account that this ledger belongs to.",
  ),
  "compare/half-export": error(
    (f: { known: number; there: number }) =>
      `the export contains only ${f.there} of the ${some(f.known, "product")} that were delivered. It is not complete`,
    "Save the complete export. If the others were really deleted on the platform, build with --despite compare/half-export.",
  ),
  "compare/old-ledger": warning(
    (f: { differing: number; shared: number }) =>
      `${f.differing} of ${f.shared} products differ from what was last delivered. The ledger may be an older one`,
    "Use the ledger of the last delivery. Otherwise check the changes on the platform before you overwrite anything.",
  ),
  "compare/several-are-one": error(
    (f: { kind: string; count: number; by: string; target: string; examples: readonly string[]; other: string }) =>
      `${f.count} records would be one ${kindName(f.kind)} on ${f.target}, "${f.other}", by their ${f.by}: ${listed(f.examples, f.count)}`,
    "Give each of them its own, or combine them.",
  ),
  "compare/may-be-several": error(
    (f: { kind: string; by: string; target: string; key: string; candidates: readonly string[] }) =>
      `${kindName(f.kind)} "${f.key}" may be several on ${f.target}, by its ${f.by}: ${listed(f.candidates)}`,
    "Say in the pairs which of them it is.",
  ),
  "compare/would-overwrite": error(
    (f: { kind: string; yours: string; platforms: string; by: string; value: string }) =>
      `${kindName(f.kind)} ${f.yours} is new in your sources, but on the platform its ${f.by} ${f.value} belongs to ${f.platforms}`,
    "State in the pairs file that they are the same record, or give one of them another value.",
  ),
  "compare/both-changed": warning(
    (f: { kind: string; key: string; fields: readonly string[] }) =>
      `${kindName(f.kind)} ${f.key} was changed in your sources and on the platform since the last delivery: ${f.fields.join(", ")}`,
    "Decide for each field. Your value is written unless the project's changes keep the platform's.",
  ),
  "compare/changed-on-platform": warning(
    (f: { kind: string; key: string; fields: readonly string[] }) =>
      `${kindName(f.kind)} ${f.key} was changed on the platform by someone else: ${f.fields.join(", ")}`,
    "The platform's value is kept unless the project's changes overwrite it. If it is right, copy it into a source.",
  ),
  "compare/no-longer-in-sources": warning(
    (f: { count: number; examples: readonly string[] }) =>
      `${some(f.count, "record that was delivered earlier is", "records that were delivered earlier are")} no longer in your sources: ${listed(f.examples, f.count)}`,
    'The project says what becomes of them, with "gone" in its changes: leave, hide, retire or delete.',
  ),
  "compare/pair-names-nothing": error(
    (f: { kind: string; key: string }) => `your sources have no ${kindName(f.kind)} ${f.key} to pair`,
    "Remove the line, or correct the key.",
  ),
  "compare/pair-taken": error(
    (f: { kind: string; key: string; platforms: string }) =>
      `${kindName(f.kind)} ${f.key} cannot be paired with ${f.platforms}: your sources already have a record with that key`,
    "Pair it with another record, or remove one of the two from the sources.",
  ),
  "compare/no-pairs": error(
    (f: { columns: readonly string[] }) =>
      `this is not a list of pairs. Its columns have to be ${f.columns.join(", ")}`,
    "Use the file that `zest-tier compare` writes.",
  ),
  "compare/odd-reply": error(
    (f: { text: string }) => `"${f.text}" is not a valid reply`,
    'Write "same" or "different", or leave the cell blank.',
  ),
  "reshape/cannot": error(
    (f: { problem: Text }) => `the operation is not possible: ${f.problem}`,
    "Correct the operation in the project, or remove it.",
  ),
  "reshape/fields-differ": warning(
    (f: { field: string; keys: readonly string[]; winner: string }) =>
      `${f.keys.join(", ")} have different values in ${f.field}. The value of ${f.winner} is kept`,
    "To choose another one, set take: { FIELD: KEY }.",
  ),
  "reshape/unbalanced": error(
    (f: { what: string; count: number; examples: readonly string[] }) =>
      `the operation would lose or invent ${f.count} ${f.what}: ${listed(f.examples, f.count)}`,
    "Nothing was reshaped. Use renumber to change codes. Anything else is a fault of the operation: remove it and report it.",
  ),
  "change/would-delete": error(
    (f: { kind: string; key: string; target: string }) =>
      `${kindName(f.kind)} ${f.key} would be deleted on ${f.target}`,
    "If that is intended for every record listed, build with --despite change/would-delete.",
  ),
  "change/no-column": error(
    (f: { field: string; target: string }) => `${f.target} has no column for ${f.field} alone`,
    "Name a field that one of its files has a column for, as `kind.field`.",
  ),
  "change/no-whole-range": error(
    (f: { target: string }) => `${f.target} accepts no file with the whole range`,
    "Upload only what has changed.",
  ),
  "change/cannot-remove": warning(
    (f: { count: number; examples: readonly string[]; target: string }) =>
      `${f.target} cannot remove entries from lists. ${some(f.count, "list has", "lists have")} more entries on the platform than in your sources: ${listed(f.examples, f.count)}`,
    "If they are wrong, remove them on the platform by hand.",
  ),
  "change/not-deleted": warning(
    (f: { count: number; examples: readonly string[]; target: string }) =>
      `${some(f.count, "record", "records")} on ${f.target} cannot be deleted: ${listed(f.examples, f.count)}`,
    "No import of the target deletes them, other records name them, or they contain records that stay. Delete them by hand, or leave them.",
  ),
  "change/never-changes": warning(
    (f: { count: number; examples: readonly string[]; target: string }) =>
      `${f.target} never changes what is fixed. ${some(f.count, "value stays", "values stay")} as on the platform: ${listed(f.examples, f.count)}`,
    "Where your value has to count, make the record again on the platform under another key.",
  ),
  "change/no-export": error(
    (f: { target: string }) => `a rollback is of changes, and no export shows what is on ${f.target}`,
    "Give the export that the upload was built with (--export FILE).",
  ),
  "change/cannot-restore": warning(
    (f: { made: number; others: number; examples: readonly string[] }) =>
      `the rollback leaves ${some(f.made, "new record")} and ${some(f.others, "other value")} as the upload has made them: ${listed(f.examples, f.made + f.others)}`,
    "Note them before you upload. If you go back, correct them on the platform by hand.",
  ),
  "collect/refused": error(
    (f: { reasons: readonly string[] }) => `the platform refused the row: ${f.reasons.join("; ")}`,
    "Correct the source. The next build includes it again.",
  ),
  "collect/picture-refused": error(
    (f: { reasons: readonly string[] }) => `the platform did not take the picture: ${f.reasons.join("; ")}`,
    "Correct the file. The next build includes it again.",
  ),
  "collect/other-outcome": warning(
    (f: { expected: string; was: string }) => `"${f.expected}" was expected, but the platform reports "${f.was}"`,
    "Check whether the platform was really empty, or whether the file was uploaded twice.",
  ),
  "collect/other-upload": error(
    (_: object) => "the upload folder is not what the project would build now",
    "Collect before you change anything. Or restore the sources, collect, and change them then.",
  ),
  "collect/not-a-report": error(
    (_: object) => "this is not a report of the platform",
    "Save the platform's report without changing it.",
  ),
  "collect/no-report": error(
    (_: object) => "there is no report for this file",
    "Give the report that the platform made of it, or upload the file first.",
  ),
  "collect/no-export": error(
    (f: { kind: string }) => `there is no export with the ids of each ${kindName(f.kind)}`,
    "Export it from the platform, and give the file.",
  ),
  "collect/ambiguous": error(
    (f: { kind: string; by: string; word: string; ids: readonly string[] }) =>
      `${some(f.ids.length, kindName(f.kind), `${kindName(f.kind)} records`)} there with the ${f.by} ${f.word}: ids ${f.ids.join(", ")}`,
    "Rename one of them on the platform, or delete the extra one. Then export again.",
  ),
  "collect/not-there": error(
    (f: { kind: string; ways: readonly string[] }) =>
      `the export does not contain ${aKind(f.kind)} for this record (compared by ${f.ways.join(", ")})`,
    "Check that the file was uploaded to this account. Then export again.",
  ),
};

/** Findings from planning, building, and reading or writing files. */

import { error, note, warning } from "../definition.js";
import { kindName, listed, quoted, some, type Text } from "../wording.js";

/** The first records of a chain, and how many more there are. */
function links(chain: readonly string[]): string {
  const more = chain.length - mostLinks;
  return more > 0 ? `${chain.slice(0, mostLinks).join(" › ")} › and ${more} more` : chain.join(" › ");
}
const mostLinks = 20;

export const build = {
  "findings/more": note(
    (f: { code: string; more: number }) =>
      `${some(f.more, `more ${f.code} finding is`, `more ${f.code} findings are`)} not listed`,
    "Fix the listed ones and run again.",
  ),
  "plan/cycle": error(
    (f: { chain: readonly string[] }) => `each of these records needs the next one to exist first: ${links(f.chain)}`,
    "Remove one of the references.",
  ),
  "plan/no-order": error(
    (f: { kinds: readonly string[]; target: string }) =>
      `${f.target} has no order in which ${f.kinds.map(kindName).join(", ")} can be imported`,
    "Correct the imports of the target.",
  ),
  "rehearse/refused": error(
    (f: { target: string; file: string; line: number; reasons: readonly string[] }) =>
      `${f.target} would refuse line ${f.line} of ${f.file}: ${f.reasons.join("; ")}`,
    "Correct it in the source, or leave the record out with --hold-back.",
  ),
  "rehearse/file-refused": error(
    (f: { target: string; reason: string }) => `${f.target} would refuse the whole file: ${f.reason}`,
    "Correct what it refuses, or the layout of the file in the target.",
  ),
  "rehearse/different": error(
    (f: { target: string; field: string; intended: string | undefined; actual: string | undefined }) =>
      f.field === ""
        ? `${f.intended === undefined ? `${f.target} would have a record that is not intended` : `the record would not be on ${f.target}`}`
        : `in ${f.field}, ${f.target} would have ${f.actual === undefined ? "nothing" : quoted(f.actual)} instead of ${f.intended === undefined ? "nothing" : quoted(f.intended)}`,
    "Correct the source or the target, or leave the record out with --hold-back.",
  ),
  "plan/nothing-to-upload": warning(
    (f: { target: string }) => `no record was read that ${f.target} takes, so there is nothing to upload`,
    "Check the findings about the sources.",
  ),
  "build/not-built": error(
    (_: object) => "the upload folder does not have this file, which the project would build now",
    "Run zest-tier build first, with the same options.",
  ),
  "plan/late-link": error(
    (f: { to: string; target: string }) =>
      `"${f.to}" comes only after this record, and ${f.target} has no import that sets the link afterwards`,
    "Remove one of the links that run in a circle, or add an import to the target that sets them afterwards.",
  ),
  "plan/too-large": error(
    (f: { rows: number; most: number; what: string }) =>
      `the product needs ${f.rows} ${f.what} in one file, but a file takes ${f.most}`,
    "Split the product.",
  ),
  "build/held-back": warning(
    (f: { because: Text }) => `the record is held back: ${f.because}`,
    "Fix it and build again.",
  ),
  "build/nothing-left": error(
    (f: { held: Text }) => `everything is held back (${f.held}), so there is nothing to upload`,
    "Fix what the other findings name, then build again.",
  ),
  "build/link-left-out": warning(
    (f: { relation: string; to: string }) =>
      `the link (${f.relation}) to "${f.to}" is left out, because "${f.to}" is held back`,
    "Fix the other product and build again.",
  ),
  "build/cannot-write": error(
    (f: { reason: Text }) => `the upload folder cannot be written: ${f.reason}`,
    "Choose a folder that you may write to, with --upload.",
  ),
  "build/folder-there": error(
    (_: object) => "the folder already exists, and Zest Tier did not write it",
    "Choose another folder with --upload, or move this one.",
  ),
  "build/folder-of-other": error(
    (f: { project: string }) => `this is the upload folder of another project, ${quoted(f.project)}`,
    "Choose another folder with --upload, or move this one.",
  ),
  "build/folder-has-others": error(
    (f: { names: readonly string[] }) =>
      `the folder contains files that Zest Tier did not write: ${listed(f.names.slice(0, 5).map(quoted), f.names.length)}`,
    "Move these files. A build replaces the whole folder.",
  ),
  "build/folder-link": error(
    (_: object) => "this is a link to another folder. A build neither follows nor replaces links",
    "Name the folder itself with --upload, or remove the link.",
  ),
  "io/cannot-write": error(
    (f: { reason: Text }) => `the file cannot be written: ${f.reason}`,
    "Make room, or write somewhere else, and run again. No file was left half-written.",
  ),
  "io/failed": error(
    (f: { reason: Text; action: string }) => `the file cannot be used: ${f.reason} (${f.action})`,
    "Check the path, its permissions and the disk, and run again.",
  ),
  "io/locked": error(
    (f: { pid: number | undefined; host: string }) =>
      `another run of Zest Tier is using this project, ledger or upload folder${f.pid === undefined ? "" : ` (process ${f.pid} on ${f.host})`}`,
    "Wait until it has ended. If that process no longer exists, delete this file.",
  ),
};

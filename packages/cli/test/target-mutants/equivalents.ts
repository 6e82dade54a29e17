/** Changes of a target that nothing can tell from the target as it is, with the reason. */

import { enumerated } from "./enumerated.js";
import type { Mutant } from "./mutants.js";
import type { PlatformName } from "./recorded.js";

interface Equivalent {
  /** Of all targets, if left out. */
  readonly of?: PlatformName;
  readonly path: RegExp;
  readonly what?: RegExp;
  readonly reason: string;
}

/** What counts without the word, where it is not the first of its values. */
const usual: Readonly<Record<string, unknown>> = { "line end": "crlf", blank: "clear", language: "en" };
const usualOf = (word: string): unknown => (Object.hasOwn(usual, word) ? usual[word] : enumerated.get(word)?.[0]);

const equivalents: readonly Equivalent[] = [
  { path: /(^|\.)(about|version|why|title)$/, reason: "It is for people." },
  { path: /^endpoints|\.endpoint$/, reason: "It says where files are sent. Nothing is sent in a rehearsal." },
  {
    path: /\.as(\.escape)?$/,
    what: /^left out$/,
    reason: "It is what the type of the field has without it, or no text asks for it.",
  },
  { of: "tollgate", path: /^languages\.[1-9]$/, reason: "Its columns say themselves which language they are in." },
  {
    of: "tollgate",
    path: /^imports\.1(\.mode)?$/,
    reason: "It takes away what a file does not name: a first import has nothing to take away.",
  },
  { path: /^visible\.\d+\.rented above 0$/, what: /swapped/, reason: "One of them is enough, in any order." },
  {
    of: "pennywort",
    path: /^(languages|settings)$/,
    reason: "The preset of the setting and the languages of the target are the same.",
  },
  {
    of: "pennywort",
    path: /columns\.Place \{other\}(\.blank)?$/,
    what: /^left out$/,
    reason: "Names beside a path are left where they are blank, also without the word.",
  },
  {
    of: "pennywort",
    path: /^files\.items\.layout\.language$/,
    reason: "The main language of the preset is the usual one.",
  },
  { path: /continued when blank$/, what: /swapped/, reason: "All of them have to be blank, in any order." },
  {
    of: "pennywort",
    path: /continued when blank\.1$/,
    reason: "A row without an item goes on with the one above it, whatever its code.",
  },
  {
    path: /columns\.(Item|Code|Number)\.required$/,
    reason: "A row without it does not say what it is of, and is refused for that.",
  },
  {
    path: /\.limits(\.(products|bytes))?$/,
    what: /^left out$/,
    reason: "Only a catalogue beyond the limit tells. A limit of 1 shows.",
  },
  { path: /^imports$/, what: /swapped/, reason: "One of them creates, the other updates: there is nothing to prefer." },
  { path: /^imports\.\d+\.name$/, reason: "It is for people." },
  { path: /^imports\.\d+\.columns$/, what: /swapped/, reason: "Columns stand as in the layout of the file." },
  {
    of: "pennywort",
    path: /^imports\.1\.columns\.\d$/,
    reason: "Links are looked up at the end of the file: a first import postpones none.",
  },
  { path: /^settings\./, reason: "Another account would have it. What is recorded is of the account as it is set up." },
];

/** Why nothing tells a mutant from the target; undefined where no reason is known. */
export function reasonFor(name: PlatformName, { path, what, was }: Mutant): string | undefined {
  const word = path.slice(path.lastIndexOf(".") + 1);
  if (what === "left out" && was !== undefined && usualOf(word) === was) return "It is what counts without it.";
  return equivalents.find(
    ({ of = name, path: where, what: how }) => of === name && where.test(path) && (how?.test(what) ?? true),
  )?.reason;
}

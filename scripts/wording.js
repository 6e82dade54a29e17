/**
 * How we speak, checked: phrases that are not used any more, names of files, types and functions, texts of messages, the length of
 * sentences in docs, and that no two exported types share a name. Part of `npm run lint`.
 *
 * What is allowed all the same is in `wording-allow.json`, each with its reason.
 */

import { execSync } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import { basename } from "node:path";

/** Phrases, and what is said instead. */
const phrases = [
  [/\b(re)?built as meant\b|\bas (it was |they were )?meant\b/i, "as intended"],
  [/\bmeant\b/i, "intended"],
  [/\bforet(old|ells?|ell)\b/i, "expected, simulated"],
  [/\b(and|is|are|it is) said\b|\bis told\b|\bsays of\b/i, "reported"],
  [/\bplatforms? (would )?hold(s)?\b|\bheld there\b/i, "on the platform"],
  [/\b(theirs|ours)\b/i, "the platform's, yours"],
  [
    /\bchanged there\b|\bgone there\b|\bgone from\b/i,
    "changed on the platform, deleted on the platform, no longer in your sources",
  ],
  [/\bways? back\b/i, "rollback"],
  [/\bmend(s|ed|ing|er)?\b/i, "fix"],
  [/\brepair(s|ed|ing)?\b/i, "fix, or bulk change"],
  [/\bwork[- ]lists?\b/i, "translation list"],
  [/\bstands? against\b/i, "blocks"],
  [/\bwill not do in\b|\bwould rather\b|\bwants? saying\b/i, "is not allowed in, recommends"],
  [/\b(is|are|was|were|be) written over\b|\bwrites? over\b/i, "overwrites"],
  [/\bnothing to do if\b/i, "no action is needed if"],
  [/\bhow sure\b/i, "confidence"],
  [/\bto the letter\b/i, "exact"],
  [/\b(lay|laid|lies|lie) open\b/i, "open, expand"],
  [/\ball the same\b/i, "anyway"],
  [/(?<!there )\bis no (?!longer\b|action\b|network\b|need\b|one\b)\w+/i, "is not a"],
  [/\bwrong use\b/i, "usage error"],
  [/\bstruck[- ]through\b|\bregular price\b|\bsale price\b/i, "was, price, offer"],
  [/\blook at these first\b/i, "spot-check these products"],
  [/\bstandings?\b/i, "state"],
  [/\bnothing lost\b/i, "claim no more than was checked"],
  [/\b(it )?says nothing that we know\b/i, "not recognised"],
];

/** Parts of names that are not used for files, types and functions. */
const names =
  /^(?:desk|ways|month|colleague|near|found|hands|bench|words|meant|foretold|foretells?|theirs|ours|mend|mends|mender|mended|repairs?|prove|trait|traits|standing|standings|tasks|stops|nature|natures|laws?|tie|ties)$/i;

const maxWords = 25;

const allowed = JSON.parse(readFileSync(new URL("wording-allow.json", import.meta.url), "utf8"));
const usedAllowances = new Set();

/** @returns whether a place is allowed, with a reason. */
function isAllowed(rule, file, text) {
  const at = allowed.findIndex(
    (one) =>
      one.rule === rule &&
      new RegExp(`^${one.files}$`).test(file) &&
      (one.text === undefined || new RegExp(one.text, "i").test(text)),
  );
  if (at < 0) return false;
  usedAllowances.add(at);
  return true;
}

const files = execSync("git ls-files -co --exclude-standard", { encoding: "utf8" })
  .trim()
  .split("\n")
  .filter((file) => existsSync(file));
const breaches = [];
const breach = (rule, file, line, text, hint) => {
  if (!isAllowed(rule, file, text)) breaches.push(`${file}:${line}: ${text.trim().slice(0, 110)}  (${hint})`);
};

/** Texts that people read or write, and the code with its comments. What is data of somebody else is not ours to word. */
const isText = (file) =>
  /\.(md|ts|tsx|js|mjs|yaml|css|html)$/.test(file) &&
  !/\/recorded\/|^demo\/(clean|rough|later)\/sources\/|^scripts\/wording/.test(file);

function checkPhrases(file, text) {
  text.split("\n").forEach((line, at) => {
    for (const [pattern, instead] of phrases) {
      const match = pattern.exec(line);
      if (match) breach("phrase", file, at + 1, line, `"${match[0]}": ${instead}`);
    }
  });
}

const partsOf = (name) => name.split(/[^A-Za-z]+|(?<=[a-z])(?=[A-Z])/).filter((part) => part !== "");
const badPart = (name) => partsOf(name).find((part) => names.test(part));

/** By name of an exported type: where it is declared. */
const types = new Map();

function checkNames(file, text) {
  const bad = file
    .split("/")
    .slice(2)
    .join("/")
    .split("/")
    .map((part) => badPart(part.replace(/\.\w+$/, "")))
    .find(Boolean);
  if (bad !== undefined) breach("name", file, 1, basename(file), `"${bad}" in the name of a file`);
  const declared =
    /^(export )?(?:default )?(?:declare )?(?:async )?(function\*?|class|interface|type|enum|const|let) (\w+)/;
  text.split("\n").forEach((line, at) => {
    const match = declared.exec(line);
    if (!match) return;
    const [, exported, what, name] = match;
    const part = badPart(name);
    if (part !== undefined) breach("name", file, at + 1, name, `"${part}" in the name of a ${what}`);
    if (exported && /class|interface|type|enum/.test(what) && !/\/test\//.test(file)) {
      const known = types.get(name);
      if (known !== undefined) breach("type", file, at + 1, name, `an exported type of that name is in ${known}`);
      else types.set(name, file);
    }
  });
}

/** Sentences of running text; code and made tables are left out, cells of tables count as sentences of their own. */
function checkSentences(file, text) {
  let isCode = false;
  let paragraph = "";
  let from = 1;
  const finish = () => {
    for (const sentence of paragraph.split(/(?<=[.!?:;])\s+(?=[A-Z*`"[(]|$)|\s·\s|\s\|\s|\|$|^\|/)) {
      const plain = sentence.replace(/`[^`]*`/g, "x").replace(/\]\([^)]*\)/g, "]");
      const count = plain.split(/\s+/).filter((word) => /\w/.test(word)).length;
      if (count > maxWords) breach("sentence", file, from, sentence, `${count} words, at most ${maxWords}`);
    }
    paragraph = "";
  };
  text.split("\n").forEach((line, at) => {
    if (/^\s*```/.test(line)) {
      finish();
      isCode = !isCode;
      return;
    }
    if (isCode) return;
    const isBreak = line.trim() === "" || /^\s*([-*|#>]|\d+\.)/.test(line);
    if (isBreak) finish();
    if (paragraph === "") from = at + 1;
    paragraph += ` ${line.trim()}`;
    if (/^\s*\|/.test(line) || /^#/.test(line)) finish();
  });
  finish();
}

for (const file of files.filter(isText)) {
  const text = readFileSync(file, "utf8");
  checkPhrases(file, text);
  if (/\.tsx?$/.test(file)) checkNames(file, text);
  if (/\.md$/.test(file)) checkSentences(file, text);
}
allowed.forEach((one, at) => {
  if (!usedAllowances.has(at)) breaches.push(`scripts/wording-allow.json: nothing needs ${JSON.stringify(one)}`);
  if (!one.reason) breaches.push(`scripts/wording-allow.json: no reason for ${JSON.stringify(one)}`);
});
for (const one of breaches) console.error(one);
if (breaches.length > 0) console.error(`${breaches.length} breaches of the wording`);
process.exitCode = breaches.length > 0 ? 1 : 0;

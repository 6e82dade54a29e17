/** The run sheet: what to do on the platform, step by step, to tick off, with what to expect. As data; it is shown by its siblings. */

import { firstOf, entryOf, present } from "../checked.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { stepsNow, type Plan, type Step, type UploadStep, type DetachStep } from "../plan/plan.js";
import type { Target, TargetFile } from "../target/target.js";
import type { PackedFile } from "./data-package.js";
import { countOf, expected, outcomesIn, type PlayedUpload } from "./run-sheet-expected.js";
import { heldCounts, type HeldBack } from "./hold-back.js";
import type { Lost } from "./prepare.js";
import {
  kindPhrase,
  phrase,
  say,
  type Language,
  type PhraseValue,
  type Template,
  type Text,
} from "../phrases/phrase.js";

export interface RunSheet {
  readonly language: Language;
  readonly labels: SheetLabels;
  readonly title: string;
  readonly summary: string;
  /** What has to be known before anything is done; what is held back comes first and is marked. */
  readonly warnings: readonly { readonly text: string; readonly isStrong: boolean }[];
  readonly steps: readonly SheetStep[];
  /** Why the folder ends where it does, and what comes then. */
  readonly after: { readonly text: string; readonly titles: readonly string[] } | undefined;
}

export interface SheetStep {
  readonly number: number;
  readonly title: string;
  readonly why: string;
  readonly text: string | undefined;
  /** To tick off; words between backquotes are names. */
  readonly ticks: readonly string[];
  readonly files: readonly SheetFile[];
  /** What to choose where the platform's screen asks for a mapping of columns. */
  readonly mapping: readonly { readonly column: string; readonly holds: string }[];
}

export interface SheetFile {
  readonly name: string;
  readonly rows: number;
  readonly expect: string;
}

/** Words of the tables that both forms of the sheet share. */
export interface SheetLabels {
  readonly done: string;
  readonly file: string;
  readonly rows: string;
  readonly expect: string;
  readonly why: string;
  readonly after: string;
  readonly isUploaded: (file: string) => string;
  readonly columns: (count: number) => string;
  readonly column: string;
  readonly field: string;
}

export interface SheetInput {
  /** The language of the sheet; English if left out. */
  readonly language?: Language | undefined;
  readonly project: string;
  readonly target: Target;
  readonly plan: Plan;
  readonly files: readonly PackedFile[];
  readonly catalogue: TargetView;
  readonly heldBack: HeldBack;
  /** What the rollback cannot restore. */
  readonly lost?: readonly Lost[] | undefined;
  /** What a person does before the files of the rollback. */
  readonly beforeRollback?: readonly DetachStep[] | undefined;
  /** How the files came out of the rehearsal; where they were not rehearsed, what is expected of them follows from the plan. */
  readonly rehearsed?: readonly PlayedUpload[] | undefined;
}

const mostLost = 10;

/** What the rollback does not restore; nothing, where it restores all. */
function lostTexts(lost: readonly Lost[]): Text[] {
  if (lost.length === 0) return [];
  const shown = lost
    .slice(0, mostLost)
    .map(({ kind, key, column }) => `${kind} ${key}${column === undefined ? "" : ` (${column})`}`);
  return [
    lost.length > mostLost
      ? phrase("The rollback does not restore these: {0} and {1} more.", shown, lost.length - mostLost)
      : phrase("The rollback does not restore these: {0}.", shown),
  ];
}

export function runSheet(input: SheetInput): RunSheet {
  const { project, target, plan, heldBack, beforeRollback = [], language = "en" } = input;
  const t = translator(language);
  const now = stepsNow(plan);
  const uploads = now.filter((step) => step.is === "upload").reduce((sum, step) => sum + step.files.length, 0);
  const held = heldCounts(heldBack).map(({ kind, count: rows }) => phrase("{0} {1}", rows, kindPhrase(kind, rows)));
  const rest = plan.steps.slice(now.length);
  const { collections, postponed } = plan.cost;
  const hasRollback = input.files.some(({ purpose }) => purpose === "rollback");
  const isCompared = plan.steps.some((step) => step.is === "upload" && step.from);
  const lost = lostTexts(input.lost ?? []);
  const warning = (text: Text, isStrong = false) => ({ text: say(text, language), isStrong });
  return {
    language,
    labels: labelsIn(language),
    title: t("{0}: upload to {1}", project, target.name),
    summary:
      rest.length === 0
        ? t(
            "{0}, {1} to upload, {2}, {3}.",
            countOf(now.length, "{0} step", "{0} steps"),
            countOf(uploads, "{0} file", "{0} files"),
            countOf(collections, "{0} collection of ids", "{0} collections of ids"),
            countOf(postponed, "{0} link postponed", "{0} links postponed"),
          )
        : t(
            "{0} of {1} steps, {2} to upload. After them, ids have to be collected ({3} in all).",
            now.length,
            plan.steps.length,
            countOf(uploads, "{0} file", "{0} files"),
            countOf(collections, "{0} collection of ids", "{0} collections of ids"),
          ),
    warnings: [
      ...(held.length > 0 ? [warning(phrase("Held back: {0}. These files do not contain them.", held), true)] : []),
      warning(
        isCompared
          ? phrase("The expected counts are for the platform as its export shows it.")
          : phrase("The expected counts are for a platform that has none of these records yet."),
      ),
      ...(hasRollback
        ? [
            warning(
              phrase(
                "Files that begin with `rollback-` are not a step. Together they restore what this upload changes.",
              ),
            ),
          ]
        : []),
      ...beforeRollback.map(({ title, why }) => warning(phrase("Before these files: {0}. {1}", title, why))),
      ...lost.map((text) => warning(text)),
    ],
    steps: now.map((step) => sheetStep(step, input)),
    after:
      rest.length === 0
        ? undefined
        : {
            text: t(
              "This folder ends here. The next files name records by ids that {0} gives out when it imports these files. Run `zest-tier collect` with its reports or exports, then `zest-tier build` again. Still to come:",
              target.name,
            ),
            titles: rest.map((step) => say(step.title, language)),
          },
  };
}

function sheetStep(step: Step, input: SheetInput): SheetStep {
  const { target, language = "en" } = input;
  const t = translator(language);
  const common = {
    number: step.number,
    title: say(step.title, language),
    why: say(step.why, language),
    text: undefined,
    ticks: [],
    files: [],
    mapping: [],
  };
  switch (step.is) {
    case "save":
      return {
        ...common,
        ticks: [
          t("Open `{0}` and save what it shows. Put today's date into the file name.", target.endpoints.catalogue),
        ],
      };
    case "do":
    case "detach":
      return { ...common, ticks: [t("Done.")] };
    case "lists":
      return {
        ...common,
        ticks: step.lists.map(({ name, entries }) =>
          t(
            "`{0}` contains {1}.",
            name,
            entries.map((entry) => `\`${entry}\``),
          ),
        ),
      };
    case "pictures":
      return {
        ...common,
        ticks: [
          t(
            "Send `{0}` to `{1}`. Expected: {2} stored.",
            step.name,
            target.endpoints.pictures,
            countOf(step.files.length, "{0} picture", "{0} pictures"),
          ),
        ],
      };
    case "test":
      return {
        ...common,
        ticks: step.files.map((name) =>
          t("Send `{0}` to `{1}`. Expected: no row refused.", name, endpoint(present(target.endpoints.test), name)),
        ),
      };
    case "collect":
      return { ...common, ticks: [t("Collect the ids from the reports of the last uploads, or from the export.")] };
    case "upload":
      return { ...common, ...uploadStep(step, input) };
    case "look":
      return {
        ...common,
        ticks: step.keys.map((key) =>
          step.kind === "product"
            ? t("Product `{0}`: name, price, pictures, category, and every variant.", key)
            : t("`{0}` ({1}): name, texts, place and pictures.", key, kindPhrase(step.kind)),
        ),
      };
  }
}

function uploadStep(step: UploadStep, input: SheetInput): Pick<SheetStep, "text" | "files" | "mapping"> {
  const { target, files, language = "en" } = input;
  const t = translator(language);
  const file = entryOf(target.files, step.slot.file);
  const to = step.slot.endpoint ?? file.endpoint ?? target.endpoints.upload;
  const sending = to.includes("{name}")
    ? phrase("Send each file to `{0}`, in this order. Read its report before you send the next one.", to)
    : phrase(
        "Send each file to `{0}`, in this order. Read its report before you send the next one. The address names the kind of file.",
        to,
      );
  return {
    text: t(
      "{0} The file uses the platform's own column names. If the import screen asks you to map columns, map each one to the field of the same name.",
      sending,
    ),
    files: step.files.map((planned) => {
      const rows = files.find(({ name }) => name === planned.name)?.rows ?? 0;
      const outcomes = outcomesIn(input, planned.name);
      return { name: planned.name, rows, expect: say(expected(step, planned, rows, outcomes, input), language) };
    }),
    mapping: mappingOf(file, step),
  };
}

function mappingOf({ layout }: TargetFile, { columns }: UploadStep): SheetStep["mapping"] {
  return layout.columns
    .filter(({ header }) => columns?.has(header) ?? true)
    .map(({ header, bindings }) => ({ column: header, holds: firstOf(bindings).name }));
}

export const endpoint = (path: string, name: string): string => path.replace("{name}", encodeURIComponent(name));

const translator =
  (language: Language) =>
  (template: Template, ...values: readonly PhraseValue[]): string =>
    say(phrase(template, ...values), language);

function labelsIn(language: Language): SheetLabels {
  const t = translator(language);
  return {
    done: t("done"),
    file: t("file"),
    rows: t("rows"),
    expect: t("expected"),
    why: t("Why:"),
    after: t("After this folder"),
    isUploaded: (file) => t("{0} is uploaded", file),
    columns: (count) =>
      say(countOf(count, "The {0} column and its field", "The {0} columns and their fields"), language),
    column: t("column"),
    field: t("field"),
  };
}

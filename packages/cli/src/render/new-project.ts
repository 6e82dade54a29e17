/** A new project for people, and for programs: its sources, what has to be looked over, what was assumed, what to do next. */

import type { Draft, NewProject } from "zest-tier";
import { type Colours } from "../io.js";
import { bindingText } from "./layouts.js";
import { columns, counted, cut } from "./text.js";

export interface NewScope {
  /** As it was typed. */
  readonly folder: string;
  readonly errors: number;
}

export function renderNewProject(project: NewProject, scope: NewScope, colours: Colours): string {
  const sources = project.sources.map(({ path, layout, draft }) => {
    const head = `  ${colours.bold(path)}${layout === undefined ? "" : `  ${colours.dim(layout)}`}  ${summaryOf(draft)}\n    rows: ${draft.why}\n`;
    const open = draft.lines.filter(({ sure }) => sure !== "sure");
    const lines = open.map(({ header, sure, binding, nearest, why }) => [
      sure === "likely" ? colours.yellow("likely") : colours.dim("left out"),
      cut(header, 24),
      cut(binding === undefined ? (nearest === undefined ? "" : `nearest: ${nearest}`) : bindingText(binding), 36),
      cut(why, 56),
    ]);
    return head + (lines.length === 0 ? "" : indent(columns(lines)));
  });
  const derived = project.derived.map(({ field, why }) => [field, cut(why, 70)]);
  const assumed = project.questions
    .filter(({ answer }) => answer === undefined)
    .map(({ name, asks, choices, preset }) => [
      colours.bold(name),
      preset === "" ? colours.red("open") : preset,
      cut(`${asks}${choices ? ` ${choices.join(" | ")}` : ""}`, 80),
    ]);
  return [
    `Project ${colours.bold(scope.folder)} for ${colours.bold(project.target)}\n\n${sources.join("")}`,
    derived.length === 0 ? "" : `${colours.bold("Derived")} in project.yaml\n${columns(derived)}`,
    assumed.length === 0
      ? ""
      : `${colours.bold("Assumed")}: give another reply with --reply QUESTION=REPLY, or correct project.yaml\n${columns(assumed)}`,
    `${colours.bold("Next")}\n${nextOf(scope)
      .map((step, at) => `  ${at + 1}  ${step}\n`)
      .join("")}`,
  ]
    .filter((part) => part !== "")
    .join("\n");
}

function summaryOf({ lines }: Draft): string {
  const count = (sure: Draft["lines"][number]["sure"]) => lines.filter((line) => line.sure === sure).length;
  return `${counted(lines.length, "column")}, ${count("sure")} sure, ${count("likely")} likely, ${count("left out")} left out`;
}

const indent = (text: string): string => text.replace(/^(?=.)/gm, "  ");

/** The commands that go on, as they are typed. */
export function nextOf({ folder, errors }: NewScope): string[] {
  const typed = /^[\w./-]+$/.test(folder) ? folder : JSON.stringify(folder);
  if (errors > 0)
    return [
      `correct what the findings say, then check again: zest-tier check ${typed}`,
      `or leave faulty records out for now: zest-tier build ${typed} --hold-back`,
    ];
  return [`write the files: zest-tier build ${typed}`, `rehearse the upload: zest-tier rehearse ${typed}`];
}

export function plainNewProject(project: NewProject, scope: NewScope): object {
  return {
    folder: scope.folder,
    target: project.target,
    sources: project.sources.map(({ path, layout, draft }) => ({
      file: path,
      layout: layout ?? null,
      rows: draft.rows,
      why: draft.why,
      columns: draft.lines,
    })),
    derived: project.derived,
    questions: project.questions,
    next: nextOf(scope),
  };
}

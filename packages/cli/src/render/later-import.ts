/** The result of a later import, for people. */

import { formatLocation, describeFinding, recordStates, stateTexts } from "zest-tier";
import type { Colours } from "../io.js";
import type { LaterImport } from "../later-import.js";
import { columns, counted } from "./text.js";

export function renderLaterImport(
  { states: counts, errors, rounds, left, again }: LaterImport,
  colours: Colours,
): string {
  const title = (text: string) => `\n${colours.bold(colours.cyan(text))}\n`;
  const shown = recordStates.flatMap((state) =>
    counts[state] === undefined
      ? []
      : [[stateTexts[state].title, String(counts[state]), colours.dim(stateTexts[state].means)]],
  );
  const said = errors.map(
    (error) => `  ${error.at ? `${formatLocation(error.at)}  ` : ""}${describeFinding(error).message}\n`,
  );
  const rows = rounds.flatMap(({ delivered, ids }, round) => [
    ...delivered.map(({ name, refused, rows: all }) => [
      rounds.length > 1 ? `round ${round + 1}` : "",
      name,
      refused === null ? outcomes(all.map(({ outcome }) => outcome)) : colours.red(`refused: ${refused}`),
    ]),
    ...(ids > 0 ? [["", colours.dim(counted(ids, "id")), colours.dim("collected")]] : []),
  ]);
  const isAsExpected = rounds.every((round) => round.asExpected);
  return [
    title("Compare"),
    columns(shown, [1]),
    ...(said.length > 0 ? [title("Reported before the upload"), ...said] : []),
    title("Upload the changes"),
    columns(rows),
    title("Compare again"),
    left.length === 0
      ? `  ${colours.green("All changes are on the platform. What others changed is untouched.")}\n`
      : `  ${colours.red(`${counted(left.length, "record")} not as intended`)}\n`,
    again === 0
      ? `  ${colours.green("A second build writes nothing.")}\n`
      : `  ${colours.red(`${counted(again, "file")} would be written again`)}\n`,
    isAsExpected
      ? `  ${colours.green("Every row came out as the rehearsal expected.")}\n`
      : `  ${colours.red("The rehearsal expected another outcome.")}\n`,
  ].join("");
}

function outcomes(all: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const outcome of all) counts.set(outcome, (counts.get(outcome) ?? 0) + 1);
  return [...counts].map(([outcome, count]) => `${counted(count, "row")} ${outcome}`).join(", ");
}

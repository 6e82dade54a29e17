/** What became of the month after the first import, for people. */

import { formatLocation, describeFinding, recordStates, stateTexts } from "zest-tier";
import type { Colours } from "../io.js";
import type { LaterImport } from "../later-import.js";
import { columns, counted } from "./text.js";

export function renderLaterImport(
  { states: found, errors, rounds, left, again }: LaterImport,
  colours: Colours,
): string {
  const title = (text: string) => `\n${colours.bold(colours.cyan(text))}\n`;
  const shown = recordStates.flatMap((standing) =>
    found[standing] === undefined
      ? []
      : [[stateTexts[standing].title, String(found[standing]), colours.dim(stateTexts[standing].means)]],
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
  const foretold = rounds.every((round) => round.asExpected);
  return [
    title("Compare"),
    columns(shown, [1]),
    ...(said.length > 0 ? [title("Held back, or to be told"), ...said] : []),
    title("Upload what changes"),
    columns(rows),
    title("Compare again"),
    left.length === 0
      ? `  ${colours.green("What was to change has changed; what others changed is as they left it.")}\n`
      : `  ${colours.red(`${counted(left.length, "record")} not as meant`)}\n`,
    again === 0
      ? `  ${colours.green("Built once more, nothing is written.")}\n`
      : `  ${colours.red(`${counted(again, "file")} would be written again`)}\n`,
    foretold
      ? `  ${colours.green("Everything came out as the rehearsal said.")}\n`
      : `  ${colours.red("The rehearsal had said otherwise.")}\n`,
  ].join("");
}

function outcomes(all: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const outcome of all) counts.set(outcome, (counts.get(outcome) ?? 0) + 1);
  return [...counts].map(([outcome, count]) => `${counted(count, "row")} ${outcome}`).join(", ");
}

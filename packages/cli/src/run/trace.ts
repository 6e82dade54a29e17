import { cellsAt, cellsFrom, formatLocation, type Location, type TracedCell } from "zest-tier";
import { textOption, UsageError, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { columns, counted, cut } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { openPlanned } from "../planned.js";

export const run: Run = async (given, io) => {
  const cell = placeOf(textOption(given, "cell"));
  const source = textOption(given, "source");
  if ((cell === undefined) === (source === undefined))
    throw new UsageError("trace needs one cell", "Give it with --cell or --source, as FILE:LINE or FILE:LINE:COLUMN.");
  const planned = await openPlanned(given, io);
  if (!planned.ok) {
    sayReport({ text: "", data: { command: "trace", cells: [] } }, planned.findings, given, io);
    return failureCode(planned.findings);
  }
  const { session, prepared } = planned;
  const { opened } = session;
  const cells = source === undefined ? [...cellsAt(opened, prepared, cell!)] : sourceCells(source);
  const data = { command: "trace", cells: cells.map(toJson) };
  sayAfterCheck({ text: renderCells(cells, source, io), data }, planned.findings, given, io);
  return 0;

  /** By file, line and column; else as findings print it, which tells the sheet or the element too. */
  function sourceCells(text: string): readonly TracedCell[] {
    const place = parsed(text);
    const found = place ? [...cellsFrom(opened, prepared, place)] : [];
    if (found.length > 0) return found;
    if (!place && !opened.project.sources.some(({ file }) => text.startsWith(file)))
      throw new UsageError(`"${text}" is not a location in a source`, "Write it as findings print it, or FILE:LINE.");
    return [...cellsFrom(opened, prepared, text)];
  }
};

type Place = Pick<Location, "file" | "line" | "column">;

/** @throws UsageError for what is not a location. */
function placeOf(text: string | undefined): Place | undefined {
  if (text === undefined) return undefined;
  const place = parsed(text);
  if (!place) throw new UsageError(`"${text}" is not a location`, "Write FILE:LINE or FILE:LINE:COLUMN.");
  return place;
}

function parsed(text: string): Place | undefined {
  const match = /^(.+?):(\d+)(?::(.+)| \[(.+)\])?$/s.exec(text);
  if (!match) return undefined;
  const column = match[3] ?? match[4];
  return { file: match[1]!, line: Number(match[2]), ...(column === undefined ? {} : { column }) };
}

const toJson = ({ origins, ...cell }: TracedCell): object => ({
  ...cell,
  origins: origins.map(({ field, location }) => ({ field, location: formatLocation(location) })),
});

function renderCells(cells: readonly TracedCell[], source: string | undefined, io: Io): string {
  const colours = coloursOf(io);
  if (cells.length === 0)
    return source
      ? "It goes nowhere: no file of this target has a place for it, or it is left out.\n"
      : "There is no filled cell at this location. The file names are those of the plan.\n";
  const rows = cells.flatMap(({ file, line, header, text, record, origins }) => {
    const what = [
      `${file}:${line}`,
      header,
      colours.bold(cut(text.replaceAll("\n", " "), 40)),
      colours.dim(`${record.kind} ${record.key}`),
    ];
    if (source) return [what];
    const from = origins.map(({ field, location }) => ["", "", `← ${formatLocation(location)}`, colours.dim(field)]);
    return [what, ...(from.length > 0 ? from : [["", "", "← set by the target", ""]])];
  });
  const head = source ? `${colours.bold(counted(cells.length, "cell"))} of the upload\n\n` : "";
  return `${head}${columns(rows)}`;
}

import { join, resolve } from "node:path";
import {
  collect as collectAnswers,
  valueText,
  type CollectedRecord,
  type CollectedReports,
  type ExportFile,
  type PlannedUpload,
  type Result,
} from "zest-tier";
import { nodeFiles } from "zest-tier/node";
import { listOption, textOption, type Run } from "../command.js";
import { coloursOf, type Colours, type Io } from "../io.js";
import { columns, counted, cut } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { planOf } from "../planned.js";
import { exportFiles, withLockedSession, type Session } from "../session.js";

export const run: Run = (given, io) =>
  withLockedSession(given, io, async (opening) => {
    const planned = await planOf(opening);
    if (!planned.ok) {
      sayReport({ text: "", data: { command: "collect", collected: null } }, planned.findings, given, io);
      return failureCode(planned.findings);
    }
    const { session, prepared, findings: known } = planned;
    const reportsFolder = resolve(
      io.cwd,
      textOption(given, "reports") ?? join(session.folder, `reports-${session.opened.target.name}`),
    );
    const withKnown = { ...session, opened: { ...session.opened, findings: known } };
    const paths = listOption(given, "after");
    const after = paths.length > 0 ? exportFiles(paths, io) : undefined;
    const result = await collectReports(withKnown, prepared, reportsFolder, after);
    const collected = result.ok ? result.value : undefined;
    const { currency } = session.opened.project;
    const text = renderCollected(collected, io, given.options["all"] === true, currency);
    const { ids, confirmed, refused, records = [] } = collected ?? {};
    const data = {
      command: "collect",
      collected: collected ? { ids, confirmed, refused, records: records.map(toJson) } : null,
    };
    const before = new Set(known.list());
    const own = result.findings.list().filter((one) => !before.has(one));
    sayAfterCheck({ text, data }, result.findings, given, io, own);
    return collected && collected.refused === 0 ? 0 : failureCode(result.findings);
  });

const toJson = ({ id, fields, ...record }: CollectedRecord): object => ({
  ...record,
  id: id ?? null,
  fields: fields.map(({ field, before, sent }) => ({ field, before: before ?? null, sent })),
});

const shownRecords = 12;

/** Records that changed or were refused, field by field; of the new ones there may be any number. */
function renderRecords(
  records: readonly CollectedRecord[],
  colours: Colours,
  tellsAll: boolean,
  currency: string | undefined,
): string {
  const telling = records.filter(
    ({ fields, isTaken, isDeleted }) => tellsAll || fields.length > 0 || isDeleted || !isTaken,
  );
  const rows = telling
    .slice(0, tellsAll ? undefined : shownRecords)
    .flatMap(({ kind, key, id, isNew, isTaken, isDeleted, fields }) => {
      const state = isTaken ? colours.green("taken") : colours.yellow("not taken");
      const who = [kind, colours.bold(cut(key, 32))];
      const what = isDeleted ? "deleted" : isNew ? "new" : "";
      if (fields.length === 0) return [[...who, what, id === undefined ? "" : `id ${id}`, state]];
      return fields.map(({ field, before, sent }, at) => [
        ...(at === 0 ? who : ["", ""]),
        field,
        `${cut(valueText(before, field, currency), 34)} → ${cut(valueText(sent, field, currency), 34)}`,
        at === 0 ? state : "",
      ]);
    });
  const more = telling.length - shownRecords;
  const rest = tellsAll || more <= 0 ? "" : colours.dim(`  and ${more} more: --all lists them\n`);
  return rows.length === 0 ? "" : `${columns(rows)}${rest}\n`;
}

function renderCollected(
  collected: CollectedReports | undefined,
  io: Io,
  tellsAll: boolean,
  currency: string | undefined,
): string {
  const colours = coloursOf(io);
  if (!collected)
    return `${colours.red(colours.bold("Nothing was collected"))}: the ledger is unchanged. Fix what is listed, then collect again.\n`;
  const { ids, confirmed, refused, records } = collected;
  const next =
    refused > 0
      ? "What was refused is not in the ledger. Correct its source; the next build includes it again."
      : `Next: ${colours.bold("zest-tier build")}`;
  return `${renderRecords(records, colours, tellsAll, currency)}${colours.bold("Collected")} ${counted(ids, "id")}. ${counted(confirmed, "other record")} confirmed, ${refused} refused.\n  ${next}\n`;
}

/** Collects, and saves what is new in the ledger. */
export async function collectReports(
  { opened, uploadFolder, save }: Session,
  prepared: PlannedUpload,
  reportsFolder: string,
  after?: readonly ExportFile[],
): Promise<Result<CollectedReports>> {
  const result = await collectAnswers(opened, prepared, {
    upload: nodeFiles(uploadFolder),
    uploadName: uploadFolder,
    reports: nodeFiles(reportsFolder),
    after,
  });
  if (result.ok) await save(result.value.ledger);
  return result;
}

import type { Trial } from "zest-tier";
import type { Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { columns, counted, cut } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { openSession, type Session } from "../session.js";

export const run: Run = async (given, io) => {
  const opened = await openSession({ ...given, options: { ...given.options, trial: true } }, io);
  if (!opened.ok) {
    sayReport({ text: "", data: { command: "trial", products: [] } }, opened.findings, given, io);
    return failureCode(opened.findings);
  }
  const { session } = opened;
  const chosen = session.opened.trial!;
  const products = chosen.of.products.map(({ row, shows }) => ({
    key: chosen.whole.table("product").key(row),
    shows,
  }));
  const data = { command: "trial", ...figures(chosen.of), products };
  sayAfterCheck({ text: renderTrial(session, products, io), data }, session.opened.findings, given, io);
  return 0;
};

const figures = ({ features, least, isExact }: Trial) => ({ features, least, isExact });
const shownOfEach = 3;

function renderTrial(
  { opened }: Session,
  products: readonly { key: string; shows: readonly string[] }[],
  io: Io,
): string {
  const colours = coloursOf(io);
  const { of, whole } = opened.trial!;
  const rows = products.map(({ key, shows }) => [
    colours.bold(cut(key, 28)),
    shows.length === 0
      ? colours.dim("needed by another product")
      : `${shows.slice(0, shownOfEach).join(" · ")}${shows.length > shownOfEach ? colours.dim(` · ${shows.length - shownOfEach} more`) : ""}`,
  ]);
  const bound = of.isExact ? "No smaller choice exists" : `Every choice needs at least ${of.least}`;
  return `${colours.bold(counted(products.length, "product"))} of ${whole.table("product").size} show all ${of.features} features. ${bound}.\n\n${columns(rows)}\n  Next: ${colours.bold("zest-tier build --trial")}\n`;
}

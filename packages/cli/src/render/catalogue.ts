/** What was read: per source its rows, in all its records. */

import { pluralOf, type Project, type ReadProject } from "zest-tier";
import type { Colours } from "../io.js";
import { columns, counted } from "./text.js";

export function renderSources(project: Project, read: ReadProject, colours: Colours): string {
  const rows = project.sources.map(({ file, layout }, at) => {
    const counts = read.counts[at]!;
    const blank = counts.blankRows > 0 ? `, ${counts.blankRows} blank` : "";
    return [
      file,
      `${counted(counts.rows, "row")}${blank}`,
      colours.dim(`layout ${layout.name}`),
      colours.dim(counts.form),
    ];
  });
  return `${columns(rows, [1])}\n  ${countRecords(read)
    .map(([kind, count]) => counted(count, kind.replaceAll("-", " "), pluralOf(kind)))
    .join(colours.dim(" · "))}\n`;
}

export function countRecords({ catalogue }: ReadProject): [string, number][] {
  return catalogue.kinds.roots
    .map((kind): [string, number] => [kind.name, catalogue.table(kind.name).size])
    .filter(([, count]) => count > 0);
}

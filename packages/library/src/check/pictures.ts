/** Pictures: each file that is named is there, with or without a folder; files that no record names are reported. */

import { splitTable } from "../field-name.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding } from "../findings/finding.js";
import { compareText } from "../location.js";
import type { Check } from "./rule.js";

export const checkPictures: Check = ({ catalogue, pictures, picturesRefused, findings }) => {
  const used = new Set(picturesNamed(catalogue));
  for (const table of catalogue.tables.filter(({ name }) => name.endsWith(".pictures")))
    for (let row = 0; row < table.size; row++) {
      const file = table.text("file", row);
      if (typeof file !== "string") continue;
      if (pictures?.has(file) || isLink(file)) continue;
      const targets = picturesRefused?.(table.name) ?? [];
      const location = catalogue.location(table, row, "file");
      findings.add(
        targets.length > 0
          ? finding("check/picture-refused", { file, refusedBy: targets }, location)
          : finding("check/picture-missing", { file }, location),
      );
    }
  const unused = [...(pictures ?? [])].filter((file) => !used.has(file));
  if (unused.length > 0)
    findings.add(finding("check/picture-unused", { count: unused.length, examples: unused.slice(0, 5) }));
};

/** The address of a picture that the platform fetches. */
const isLink = (file: string): boolean => /^https?:\/\//i.test(file);

/** The picture files that records name, by code units. @param isOf whether a record counts; all do, if left out. */
export function picturesNamed(
  catalogue: ResolvedCatalogue,
  isOf: (kind: string, row: number) => boolean = () => true,
): string[] {
  const names = new Set<string>();
  for (const table of catalogue.tables) {
    const column = table.name.endsWith(".pictures") ? table.texts.get("file") : undefined;
    for (let row = 0; column && row < table.size; row++) {
      const file = column.get(row);
      if (typeof file === "string" && isOf(splitTable(table.name).kind, table.parent(row))) names.add(file);
    }
  }
  return [...names].sort(compareText);
}

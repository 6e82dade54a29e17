/** Pictures: each file that is named is there; files that nobody names are reported. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding } from "../findings/finding.js";
import { compareText } from "../location.js";
import type { Check } from "./rule.js";

export const checkPictures: Check = ({ catalogue, pictures, findings }) => {
  if (!pictures) return;
  const used = new Set(picturesNamed(catalogue));
  for (const name of ["product.pictures", "variant.pictures"]) {
    const table = catalogue.table(name);
    for (let row = 0; row < table.size; row++) {
      const file = table.text("file", row);
      if (typeof file !== "string") continue;
      const role = table.text("role", row);
      const field = typeof role === "string" ? `pictures(${role}).file` : "pictures.file";
      if (!pictures.has(file))
        findings.add(finding("check/picture-missing", { file }, catalogue.location(table, row, field)));
    }
  }
  const unused = [...pictures].filter((file) => !used.has(file));
  if (unused.length > 0)
    findings.add(finding("check/picture-unused", { count: unused.length, examples: unused.slice(0, 5) }));
};

/** The picture files that records name, by code units. */
export function picturesNamed(catalogue: ResolvedCatalogue): string[] {
  const names = new Set<string>();
  for (const table of catalogue.tables) {
    const column = table.name.endsWith(".pictures") ? table.texts.get("file") : undefined;
    for (let row = 0; column && row < table.size; row++) {
      const file = column.get(row);
      if (typeof file === "string") names.add(file);
    }
  }
  return [...names].sort(compareText);
}

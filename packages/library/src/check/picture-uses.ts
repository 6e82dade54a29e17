/** How records use pictures: no two at one place, none twice, a main one that is seen, links that lead to an image. */

import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding } from "../findings/finding.js";
import type { CheckContext, Check } from "./rule.js";

const link = /^https?:\/\//i;
const image = /\.(png|jpe?g|gif|webp|avif|svg|tiff?)([?#].*)?$/i;

export const checkPictureUses: Check = (context) => {
  for (const table of context.catalogue.tables)
    if (table.name.endsWith(".pictures") && table.size > 0) checkUses(context, table);
};

function checkUses({ catalogue, findings }: CheckContext, pictures: ReadonlyTable): void {
  const owners = new Map<number, { files: Set<string>; positions: Map<string, number> }>();
  const positions = pictures.texts.get("position");
  for (let row = 0; row < pictures.size; row++) {
    const location = () => catalogue.location(pictures, row, "pictures.file");
    const owner = pictures.parent(row);
    let own = owners.get(owner);
    if (!own) owners.set(owner, (own = { files: new Set(), positions: new Map() }));
    const file = pictures.text("file", row) ?? "";
    const role = pictures.text("role", row) ?? "";
    if (own.files.has(`${role} ${file}`)) findings.add(finding("check/picture-twice", { file }, location()));
    own.files.add(`${role} ${file}`);
    if (link.test(file) && !image.test(file)) findings.add(finding("check/no-image-link", { link: file }, location()));
    if (role === "main" && pictures.text("hidden", row) === "true")
      findings.add(finding("check/main-hidden", { file }, location()));
    const position = positions?.get(row);
    if (typeof position !== "string") continue;
    const other = own.positions.get(position);
    if (other === undefined) own.positions.set(position, row);
    else
      findings.add(
        finding("check/picture-position", { position, file, other: pictures.text("file", other) ?? "" }, location()),
      );
  }
}

/** How records use pictures: no two at one place, none twice, a main one that is seen, links that lead to an image. */

import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { splitTable } from "../field-name.js";
import { finding } from "../findings/finding.js";
import type { CheckContext, Check } from "./rule.js";
import { added } from "../lists.js";

const link = /^https?:\/\//i;
const image = /\.(png|jpe?g|gif|webp|avif|svg|tiff?)([?#].*)?$/i;

export const checkPictureUses: Check = (context) => {
  for (const table of context.catalogue.tables)
    if (table.name.endsWith(".pictures") && table.size > 0) checkUses(context, table);
};

function checkUses({ catalogue, findings }: CheckContext, pictures: ReadonlyTable): void {
  const owners = new Map<number, Uses>();
  const positions = pictures.texts.get("position");
  for (let row = 0; row < pictures.size; row++) {
    const location = () => catalogue.location(pictures, row, "file");
    const owner = pictures.parent(row);
    let own = owners.get(owner);
    if (!own) owners.set(owner, (own = newUses()));
    const file = pictures.text("file", row) ?? "";
    const role = pictures.text("role", row) ?? "";
    if (own.files.has(`${role} ${file}`)) findings.add(finding("check/picture-twice", { file }, location()));
    own.files.add(`${role} ${file}`);
    if (link.test(file) && !image.test(file)) findings.add(finding("check/no-image-link", { link: file }, location()));
    if (pictures.text("hidden", row) === "true") own.hidden.add(file);
    if (role !== "") own.roles.push(row);
    else own.plain.add(file);
    const position = positions?.get(row);
    if (typeof position !== "string") continue;
    const other = own.positions.get(position);
    if (other === undefined) own.positions.set(position, row);
    else
      findings.add(
        finding("check/picture-position", { position, file, other: pictures.text("file", other) ?? "" }, location()),
      );
  }
  const ofOthers = ownersOfPlain(owners);
  for (const [owner, own] of owners)
    for (const row of own.roles) {
      const file = pictures.text("file", row) ?? "";
      const facts = { role: pictures.text("role", row) ?? "", file };
      const location = () => catalogue.location(pictures, row, "file");
      if (own.hidden.has(file)) findings.add(finding("check/role-hidden", facts, location()));
      // A gallery of its own, without that file, which stands in another's.
      const [other] = ofOthers.get(file) ?? [];
      if (own.plain.size === 0 || own.plain.has(file) || other === undefined || other === owner) continue;
      const records = catalogue.table(splitTable(pictures.name).kind);
      findings.add(finding("check/picture-of-another", { ...facts, of: records.key(other) }, location()));
    }
}

/** How one record uses pictures. */
interface Uses {
  readonly files: Set<string>;
  readonly positions: Map<string, number>;
  /** Files that are hidden. */
  readonly hidden: Set<string>;
  /** Uses with a role. */
  readonly roles: number[];
  /** Files without a role: the gallery. */
  readonly plain: Set<string>;
}

const newUses = (): Uses => ({
  files: new Set(),
  positions: new Map(),
  hidden: new Set(),
  roles: [],
  plain: new Set(),
});

function ownersOfPlain(owners: ReadonlyMap<number, Uses>): ReadonlyMap<string, readonly number[]> {
  const byFile = new Map<string, number[]>();
  for (const [owner, { plain }] of owners) for (const file of plain) byFile.set(file, added(byFile.get(file), owner));
  return byFile;
}

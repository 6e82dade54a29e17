/** Where the files lie that a project names: in its folder, unless it names another folder under `outside`. */

import { finding, type Findings } from "../findings/finding.js";
import { isOutside } from "../findings/result.js";
import type { Given } from "../given/yaml.js";
import type { FilesPort } from "../ports.js";
import type { GivenProject } from "./schema.js";

/**
 * Reports each file that a project names by a path out of its folder and out of those under `outside`. Links are not seen here: a port that
 * has them follows them first.
 */
export function checkPaths({ value, at }: Given<GivenProject>, findings: Findings): void {
  const folders = value.outside.map(partsOf);
  const check = (path: string, ...where: (string | number)[]) => {
    const parts = partsOf(path);
    const isInside = !isAbsolute(parts) && parts[0] !== "..";
    if (!isInside && !folders.some((folder) => folder.every((part, place) => parts[place] === part)))
      findings.add(finding("project/outside", { path }, at(...where)));
  };
  value.sources.forEach(({ file, layout }, place) => {
    check(file, "sources", place, "file");
    check(layout, "sources", place, "layout");
  });
  for (const [name, { file }] of Object.entries(value.tables)) check(file, "tables", name, "file");
  value.translations.forEach(({ file }, place) => check(file, "translations", place, "file"));
  if (value.pictures !== undefined) check(value.pictures, "pictures");
  value.targets.forEach(({ target, ledger }, place) => {
    check(target, "targets", place, "target");
    if (ledger !== undefined) check(ledger, "targets", place, "ledger");
  });
}

/**
 * Reports what is not read as a file, and yet leads out of the project's folder by a link: pictures, and a ledger, which is written to.
 *
 * @param ledgers by the place of their target.
 */
export async function checkLinks(
  { value, at }: Given<GivenProject>,
  ledgers: readonly string[],
  files: FilesPort,
  findings: Findings,
): Promise<void> {
  const check = async (path: string, ...where: (string | number)[]) => {
    if (isOutside(await files.read(path))) findings.add(finding("project/outside", { path }, at(...where)));
  };
  if (value.pictures !== undefined) await check(value.pictures, "pictures");
  for (const [place, ledger] of ledgers.entries()) await check(ledger, "targets", place);
}

const isAbsolute = ([first]: readonly string[]): boolean => first === "" || /^[a-z]:$/i.test(first ?? "");

/** The names along a path, without steps that lead nowhere; steps upwards that are left stand in front. */
function partsOf(path: string): string[] {
  const parts: string[] = [];
  for (const [place, part] of path.split(/[/\\]/).entries()) {
    if (part === "." || (part === "" && place > 0)) continue;
    if (part === ".." && parts.length > 0 && parts.at(-1) !== ".." && parts.at(-1) !== "") parts.pop();
    else parts.push(part);
  }
  return parts;
}

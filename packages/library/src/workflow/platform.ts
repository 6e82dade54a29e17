/** After the last upload: what the platform shows, compared with what is intended. */

import type { Prepared } from "../build/prepare.js";
import { Findings, type Result } from "../findings/finding.js";
import { reviewPlatform, type PlatformReview } from "../verdict/review.js";
import { readExports, type ExportFile } from "./exports.js";
import type { OpenedTarget } from "./open.js";

/** Compares the whole catalogue of a platform with what is intended. Fails where the exports are not its own, or not complete. */
export async function checkPlatform(
  { catalogue, target, project }: OpenedTarget,
  { heldBack }: Pick<Prepared, "heldBack">,
  exports: readonly ExportFile[],
): Promise<Result<PlatformReview>> {
  const findings = new Findings();
  const told = await readExports(exports, target, project.kinds, catalogue, findings);
  if (!told) return { ok: false, findings };
  return { ok: true, value: reviewPlatform(catalogue, target, heldBack, told), findings };
}

/** What is read from an upload folder. */

import { finding, type Result } from "../findings/finding.js";
import { failure, isMissingFile } from "../findings/result.js";

/** A file that is missing in the upload folder was not built; it is not a source. */
export function ofUploadFolder<T>(result: Result<T>): Result<T> {
  if (!isMissingFile(result)) return result;
  return failure(...result.findings.list().map((one) => finding("build/not-built", {}, one.at)));
}

import type { Location } from "zest-tier";

/** The line that a place stands on; in documents, the number of its element. */
export function lineOf(location: Pick<Location, "line" | "pointer">): number | undefined {
  if (location.line !== undefined) return location.line;
  const number = /(\d+)(?:\/[^\d/]*)?$/.exec(location.pointer ?? "")?.[1];
  return number === undefined ? undefined : Number(number);
}

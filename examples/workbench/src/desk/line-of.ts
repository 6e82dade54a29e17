import type { Place } from "zest-tier";

/** The line that a place stands on; in documents, the number of its element. */
export function lineOf(place: Pick<Place, "line" | "pointer">): number | undefined {
  if (place.line !== undefined) return place.line;
  const number = /(\d+)(?:\/[^\d/]*)?$/.exec(place.pointer ?? "")?.[1];
  return number === undefined ? undefined : Number(number);
}

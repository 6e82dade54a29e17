/** What a platform makes by itself where a cell is blank. */

/** A readable part of an address: small letters and digits of the Latin alphabet, all else one `-`; a `-` where nothing is left. */
export function addressOf(text: string, most = 80): string {
  const names = text.replace(/[A-Z]/g, (letter) => letter.toLowerCase()).match(/[a-z0-9]+/g) ?? [];
  return names.join("-").slice(0, most) || "-";
}

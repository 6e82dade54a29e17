/** Values to JSON, with numbers as they are written in the data: no digit is lost to the binary form. */

/** A number by its digits. */
export class ExactNumber {
  constructor(readonly digits: string) {}
}

const numberShape = /^-?(0|[1-9]\d*)(\.\d+)?$/;

/** @returns undefined for text that is not a JSON number. */
export function exactNumber(text: string): ExactNumber | undefined {
  return numberShape.test(text) ? new ExactNumber(text) : undefined;
}

export function jsonText(value: unknown): string {
  if (value instanceof ExactNumber) return value.digits;
  if (Array.isArray(value)) return `[${value.map(jsonText).join(",")}]`;
  if (typeof value === "object" && value !== null)
    return `{${Object.entries(value)
      .map(([key, inner]) => `${JSON.stringify(key)}:${jsonText(inner)}`)
      .join(",")}}`;
  return JSON.stringify(value) ?? "null";
}

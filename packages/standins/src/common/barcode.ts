/** GS1 General Specifications: GTIN of 8, 12, 13 or 14 digits; from the right, weights 3 and 1 in turn. */
export function isBarcode(text: string): boolean {
  if (!/^([0-9]{8}|[0-9]{12,14})$/.test(text)) return false;
  const digits = [...text].map(Number).reverse();
  const check = digits.slice(1).reduce((sum, digit, place) => sum + digit * (place % 2 === 0 ? 3 : 1), 0);
  return (check + digits[0]!) % 10 === 0;
}

/** A number as text without needless zeros: `007.50` is `7.5`. */
export function plainNumber(text: string): string {
  const [, sign = "", whole = "0", places = ""] = /^(-?)0*(\d+)(?:\.(\d*?)0*)?$/.exec(text)!;
  const amount = places === "" ? whole : `${whole}.${places}`;
  return amount === "0" ? "0" : sign + amount;
}

export const characters = (text: string): number => [...text].length;

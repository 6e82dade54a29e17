/** Amounts as people read them. */

import { present } from "./checked.js";

const digits = new Map<string, number>();

/** How many decimals a currency has (ISO 4217); 0 where the code is none. */
function decimalsOf(currency: string): number {
  const known = digits.get(currency);
  if (known !== undefined) return known;
  const isCode = /^[A-Z]{3}$/.test(currency);
  const options = isCode && new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions();
  const found = options ? (options.minimumFractionDigits ?? 0) : 0;
  digits.set(currency, found);
  return found;
}

/** `8.5` in EUR is `8.50 EUR`: with as many decimals as the currency has, or more if the amount has more. As it is without a currency. */
export function money(amount: string, currency: string | undefined): string {
  if (currency === undefined) return amount;
  const [whole, part = ""] = amount.split(".");
  if (!/^-?\d+$/.test(present(whole)) || !/^\d*$/.test(part)) return `${amount} ${currency}`;
  const decimals = part.padEnd(decimalsOf(currency), "0");
  return `${whole}${decimals === "" ? "" : `.${decimals}`} ${currency}`;
}

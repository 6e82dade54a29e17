/** Amounts with the currency of the project; without one where the project names none. */

import { useLanguage } from "@zest-tier/kit";
import { createContext, useContext } from "react";

/** ISO 4217; undefined where the project names none. */
export const Currency = createContext<string | undefined>(undefined);

export function Amount({ value }: { readonly value: number }) {
  return <span className="number">{useAmount()(value)}</span>;
}

export function useAmount(): (value: number) => string {
  const { lang } = useLanguage();
  const currency = useContext(Currency);
  return (value) =>
    value.toLocaleString(
      lang,
      currency === undefined ? { minimumFractionDigits: 2, maximumFractionDigits: 2 } : { style: "currency", currency },
    );
}

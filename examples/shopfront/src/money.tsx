/** Amounts. The platforms tell no currency: none is shown. */

import { useLanguage } from "@zest-tier/kit";

export function Amount({ value }: { readonly value: number }) {
  return <span className="number">{useAmount()(value)}</span>;
}

export function useAmount(): (value: number) => string {
  const { lang } = useLanguage();
  return (value) => value.toLocaleString(lang, { minimumFractionDigits: 2, maximumFractionDigits: 2 });
}

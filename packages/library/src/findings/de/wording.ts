/** How texts of findings are put together, in German. */

import { money } from "../../money.js";
import { known, say, type Text } from "../../phrases/phrase.js";

export const de = (text: Text | undefined): string => (text === undefined ? "" : say(text, "de"));
export const zitiert = (text: Text): string => (de(text) === "" ? "eine leere Zelle" : `„${de(text)}“`);
export const meintenSie = (nearest: Text | undefined): string =>
  nearest === undefined ? "" : `. Meinten Sie „${de(nearest)}“?`;
export const amNaechsten = (nearest: readonly string[]): string =>
  nearest.length === 0 ? "" : `. Am nächsten: ${nearest.map(zitiert).join(", ")}`;
export const anzahl = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;
export const liste = (examples: readonly string[], count = examples.length): string =>
  `${examples.join(", ")}${count > examples.length ? ` und ${count - examples.length} weitere` : ""}`;
/** Eine Art von Datensatz: „Optionsgruppe“. */
export const art = (kind: string): string => de(known(kind.replaceAll("-", " ")));
export const betrag = (amount: string, currency: string | undefined): string =>
  money(amount, currency).replace(".", ",");

/** The German of en/cell.ts. */

import type { Translated } from "../definition.js";
import type { cell as english } from "../en/cell.js";
import { anzahl, de, zitiert } from "./wording.js";

const istNicht: Translated<typeof english>["cell/not-cut"]["says"] = (f) =>
  `${zitiert(f.text)} ist nicht, was erwartet wird: ${de(f.wanted)}`;

export const cell: Translated<typeof english> = {
  "cell/formula-error": {
    says: (f) => `die Formel dieser Zelle ergibt den Fehler ${f.shown}`,
    remedy: "Korrigieren Sie die Formel, oder ersetzen Sie sie durch den Wert.",
  },
  "cell/formula-without-result": {
    says: () => "die Formel dieser Zelle hat kein gespeichertes Ergebnis",
    remedy: "Öffnen Sie die Arbeitsmappe in einer Tabellenkalkulation, lassen Sie sie rechnen, und speichern Sie sie.",
  },
  "cell/formula": {
    says: (f) => `${zitiert(f.text)} beginnt wie eine Formel`,
    remedy: "Korrigieren Sie die Zelle, oder setzen Sie „formulas: as they are“ im Layout.",
  },
  "cell/turned-into-date": {
    says: (f) =>
      `eine Tabellenkalkulation hat aus dieser Zelle das Datum ${f.stored} gemacht (angezeigt als ${zitiert(f.shown)})`,
    remedy: "Formatieren Sie die Spalte als Text und geben Sie den Wert neu ein.",
  },
  "cell/number-cut": {
    says: (f) => `die Zelle ist die Zahl ${f.number}, und das Layout würde sie in zwei Teile trennen`,
    remedy:
      "Formatieren Sie die Spalte an ihrer Quelle als Text, oder wählen Sie ein anderes Trennzeichen für die Liste.",
  },
  "cell/shown-otherwise": {
    says: (f) =>
      `${anzahl(f.count, "Zelle ist eine Zahl", "Zellen sind Zahlen")} mit anderer Anzeige: ${zitiert(f.stored)} wird als ${zitiert(f.shown)} angezeigt. Gelesen wurde die gespeicherte Zahl`,
    remedy:
      "Gehören führende Nullen dazu, setzen Sie „fix: { pad: … }“ im Layout, oder formatieren Sie die Spalte an ihrer Quelle als Text.",
  },
  "cell/not-cut": { says: istNicht, remedy: "Korrigieren Sie die Zelle oder das Layout." },
  "cell/not-a-measure": {
    says: istNicht,
    remedy: "Korrigieren Sie die Zelle, oder fügen Sie die Einheit im Layout hinzu.",
  },
  "cell/too-many-parts": {
    says: (f) => `${zitiert(f.text)} hat mehr Teile als erwartet: ${de(f.wanted)}`,
    remedy: "Korrigieren Sie die Zelle, oder die Teile im Layout.",
  },
  "cell/other-markup": {
    says: istNicht,
    remedy: "Korrigieren Sie die Auszeichnung, oder setzen Sie „other elements: dropped“ im Layout.",
  },
  "cell/not-a-decimal": { says: istNicht, remedy: "Korrigieren Sie die Zelle, oder das Dezimalzeichen im Layout." },
  "cell/thousands": {
    says: (f) =>
      `${zitiert(f.text)} hat ein Tausendertrennzeichen oder das falsche Dezimalzeichen. Erwartet: ${de(f.wanted)}`,
    remedy: "Korrigieren Sie die Zelle, oder setzen Sie „thousands“ im Layout.",
  },
  "cell/other-sign": {
    says: (f) => `${zitiert(f.text)} enthält mehr als erwartet: ${de(f.wanted)}`,
    remedy: "Entfernen Sie das Zeichen, oder setzen Sie „sign“ im Layout.",
  },
  "cell/scientific": {
    says: (f) =>
      `${zitiert(f.text)} ist in der wissenschaftlichen Schreibweise einer Tabellenkalkulation. Die letzten Ziffern sind verloren`,
    remedy: "Besorgen Sie die Zahl noch einmal, in einer als Text formatierten Spalte.",
  },
  "cell/not-an-integer": { says: istNicht, remedy: "Korrigieren Sie die Zelle." },
  "cell/not-a-word": {
    says: istNicht,
    remedy: "Korrigieren Sie die Zelle, oder fügen Sie das Wort im Layout unter „code words“ hinzu.",
  },
  "cell/not-a-date": { says: istNicht, remedy: "Korrigieren Sie die Zelle, oder das Datumsmuster im Layout." },
  "cell/empty-entry": {
    says: (f) => `${zitiert(f.text)} hat einen leeren Eintrag`,
    remedy: "Entfernen Sie das überzählige Trennzeichen.",
  },
  "cell/bad-escape": { says: (f) => `${zitiert(f.text)}: ${de(f.wanted)}`, remedy: "Korrigieren Sie die Zelle." },
  "cell/no-beginning": { says: istNicht, remedy: "Korrigieren Sie die Zelle, oder den festen Teil im Layout." },
};

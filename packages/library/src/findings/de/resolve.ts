/** The German of en/resolve.ts. */

import type { Translated } from "../definition.js";
import type { resolve as english } from "../en/resolve.js";
import { amNaechsten, anzahl, art, de, liste, zitiert } from "./wording.js";

const anderswo = (kinds: readonly string[]): string =>
  kinds.length === 0 ? "" : `, aber unter diesem Namen gibt es: ${liste(kinds.map(art))}`;

export const resolve: Translated<typeof english> = {
  "resolve/dangling": {
    says: (f) =>
      `${art(f.to)} ${zitiert(f.text)} gibt es nicht${f.unknown === f.text ? "" : ` (${zitiert(f.unknown)} ist unbekannt)`}${anderswo(f.elsewhere)}${amNaechsten(f.nearest)}`,
    remedy:
      "Korrigieren Sie den Namen, oder fügen Sie den Datensatz hinzu. Um fehlende Datensätze anzulegen, setzen Sie „missing: create“ im Layout.",
  },
  "resolve/held-back": {
    says: (f) =>
      `${art(f.to)} ${zitiert(f.text)} gibt es nicht, deshalb wird der Datensatz zurückgehalten${anderswo(f.elsewhere)}${amNaechsten(f.nearest)}`,
    remedy: "Korrigieren Sie den Namen, oder fügen Sie den Datensatz hinzu.",
  },
  "resolve/ambiguous": {
    says: (f) =>
      `${zitiert(f.text)} nennt mehr als einen Datensatz (${art(f.to)}): ${liste(f.candidates.map(zitiert))}`,
    remedy: "Nennen Sie ihn mit seinem Schlüssel oder mit seinem ganzen Pfad.",
  },
  "resolve/statements-disagree": {
    says: (f) =>
      `${f.field} von ${art(f.kind)} „${f.key}“ ist hier ${zitiert(f.here)}, anderswo aber ${zitiert(f.first)}`,
    remedy: "Verwenden Sie an beiden Stellen denselben Wert.",
  },
  "resolve/contents-differ": {
    says: (f) =>
      `${art(f.kind)} „${f.key}“ hat hier einen anderen Inhalt als in einer anderen Zelle. Jedes Produkt bekäme beide`,
    remedy:
      "Geben Sie den beiden eigene Namen (zum Beispiel mit dem Namen des Produkts), oder gleichen Sie den Inhalt an.",
  },
  "resolve/created": {
    says: (f) =>
      `${f.count} × ${art(f.kind)} ${f.count === 1 ? "wird" : "werden"} angelegt, weil Zeilen sie nennen: ${liste(f.examples.slice(0, 40), f.count)}`,
    remedy: "Prüfen Sie, ob jeder davon beabsichtigt ist.",
  },
  "derive/made": {
    says: (f) => `${f.field} wurde für ${anzahl(f.count, "Datensatz", "Datensätze")} abgeleitet (${f.method})`,
    remedy: "Ist das beabsichtigt, müssen Sie nichts tun.",
  },
  "derive/made-nothing": {
    says: (f) =>
      `${f.field} wurde für keinen Datensatz abgeleitet (${f.method}): ${f.kept} haben schon einen Wert, ${f.unfit} passen nicht zu „where“, ${f.lacking} fehlt, woraus es gemacht wird`,
    remedy: "Berichtigen Sie die Regel, oder entfernen Sie sie, wenn sie nicht mehr gebraucht wird.",
  },
  "derive/failed": {
    says: (f) => `${f.field} kann nicht abgeleitet werden: ${de(f.problem)}`,
    remedy: "Korrigieren Sie die Regel, oder die Felder, die sie verwendet.",
  },
  "derive/no-rule": {
    says: (f) => `die Regel ${zitiert(f.rule)} ist ungültig: ${de(f.problem)}`,
    remedy: 'Korrigieren Sie sie. Eine Regel ist ein Ausdruck über ein Produkt, etwa sort == "hire".',
  },
  "derive/rule-fits-none": {
    says: (f) => `zur Regel ${zitiert(f.rule)} passt kein Produkt`,
    remedy: "Korrigieren Sie die Regel, oder entfernen Sie das Sortiment.",
  },
  "translations/no-list": {
    says: (f) => `das ist keine Übersetzungsliste für ${f.lang}`,
    remedy:
      "Geben Sie die Datei, die `zest-tier translations` geschrieben hat, mit unveränderten Spalten, oder XLIFF 2.",
  },
  "translations/taken": {
    says: (f) =>
      `${anzahl(f.taken, "Text wurde", "Texte wurden")} in ${f.lang} übernommen${f.stale > 0 ? `. ${f.stale} ${f.stale === 1 ? "wurde" : "wurden"} ausgelassen, weil sich der Ausgangstext geändert hat` : ""}`,
    remedy: "Sie müssen nichts tun.",
  },
  "translations/copied": {
    says: (f) => `${anzahl(f.count, "Text wurde", "Texte wurden")} mit einer Marke nach ${f.lang} kopiert`,
    remedy: "Lassen Sie sie übersetzen. `zest-tier translations` listet sie auf.",
  },
  "translations/needed": {
    says: (f) => `${f.field} fehlt in ${f.lang}. Das Projekt hält Datensätze ohne diesen Text zurück`,
    remedy:
      "Lassen Sie ihn übersetzen, bauen Sie mit --hold-back, oder setzen Sie „copy“ oder „leave blank“ unter „gaps“ im Projekt.",
  },
};

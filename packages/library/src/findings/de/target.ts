/** The German of en/target.ts. */

import type { Translated } from "../definition.js";
import type { target as english } from "../en/target.js";
import { amNaechsten, anzahl, art, de, liste, zitiert } from "./wording.js";
import type { Text } from "../../phrases/phrase.js";

const stattdessen = (instead: Text | undefined): string =>
  instead === undefined ? "" : `. Stattdessen: ${de(instead)}`;

export const target: Translated<typeof english> = {
  "target/required": {
    says: (f) => `${f.target} verlangt einen Wert in „${f.column}“`,
    remedy: "Füllen Sie das Feld.",
  },
  "target/half": {
    says: (f) => `„${f.column}“ ist gefüllt, aber „${f.partner}“ ist leer. ${f.target} nimmt beide oder keines`,
    remedy: "Füllen Sie beide, oder leeren Sie beide.",
  },
  "target/not-fitting": {
    says: (f) => `${zitiert(f.text)} ist in „${f.column}“ von ${f.target} nicht zulässig: ${de(f.because)}`,
    remedy: "Berichtigen Sie die Zelle oder die, mit denen sie verglichen wird.",
  },
  "target/condition": {
    says: (f) => `${f.target} nimmt „${f.column}“ nicht an: ${f.because}`,
    remedy: "Berichtigen Sie die Zeile.",
  },
  "target/needed": {
    says: (f) =>
      `${f.target} braucht ${f.columns.map((spalte) => `„${spalte}“`).join(" oder ")} bei Produkten mit ${f.field} „${f.is}“`,
    remedy: "Füllen Sie eine der Spalten.",
  },
  "target/part-missing": {
    says: (f) => `einem Eintrag fehlt „${f.column}“, und ${f.target} verlangt es`,
    remedy: "Füllen Sie die Felder, aus denen die Zelle entsteht.",
  },
  "target/repeated-entry": {
    says: (f) =>
      `zwei Einträge eines Datensatzes haben dasselbe in ${f.columns.map((column) => `„${column}“`).join(", ")}. ${f.target} behält nur den letzten`,
    remedy: "Ändern Sie einen der beiden, oder lassen Sie ihn weg.",
  },
  "target/uncarried-kind": {
    says: (f) =>
      `${f.target} kann „${art(f.kind)}“ nicht speichern. ${anzahl(f.count, "Datensatz hat", "Datensätze haben")} dort keinen Platz${stattdessen(f.instead)}`,
    remedy: "Bewahren Sie diese Datensätze anderswo auf, oder drücken Sie sie anders aus.",
  },
  "target/too-long": {
    says: (f) => `der Text hat ${f.chars} Zeichen. ${f.target} erlaubt ${f.most} in „${f.column}“`,
    remedy: "Kürzen Sie den Text.",
  },
  "target/cut": {
    says: (f) => `der Text hat ${f.chars} Zeichen. ${f.target} schneidet „${f.column}“ nach ${f.most} ab`,
    remedy: "Kürzen Sie den Text.",
  },
  "target/characters": {
    says: (f) => `${zitiert(f.text)} ist in „${f.column}“ nicht zulässig. ${f.target} nimmt ${de(f.allowed)}`,
    remedy: "Ändern Sie den Text.",
  },
  "target/out-of-range": {
    says: (f) => `${f.text} ist in „${f.column}“ nicht zulässig. ${f.target} nimmt ${de(f.range)}`,
    remedy: "Korrigieren Sie die Zahl.",
  },
  "target/too-many-entries": {
    says: (f) =>
      `die Liste hat ${anzahl(f.count, "Eintrag", "Einträge")}. ${f.target} erlaubt ${f.most} in „${f.column}“`,
    remedy: "Entfernen Sie einige.",
  },
  "target/too-deep": {
    says: (f) =>
      `die Kategorie ist auf Ebene ${f.depth}. ${f.target} erlaubt ${anzahl(f.most, "Ebene", "Ebenen")} in „${f.column}“`,
    remedy: "Verschieben Sie sie im Baum nach oben.",
  },
  "target/longer-than-recommended": {
    says: (f) => `${f.column} hat ${f.chars} Zeichen. ${f.target} empfiehlt höchstens ${f.advised}`,
    remedy: "Kürzen Sie es, wenn es auf die Anzeige ankommt.",
  },
  "target/recommended": {
    says: (f) =>
      `${f.target} empfiehlt einen Wert in „${f.column}“. ${f.count} × ${art(f.kind)} ohne Wert: ${liste(f.examples, f.count)}`,
    remedy: "Füllen Sie es, oder leiten Sie es aus anderen Feldern ab, wenn es Ihnen wichtig ist.",
  },
  "target/overwritten": {
    says: (f) =>
      `„${f.column}“ wird von ${f.by} überschrieben. ${f.count} × ${art(f.kind)} ${f.count === 1 ? "behält" : "behalten"} den hochgeladenen Wert nicht: ${liste(f.examples, f.count)}`,
    remedy: "Pflegen Sie es in jenem System. Der hochgeladene Wert bleibt nur, bis es das nächste Mal schreibt.",
  },
  "target/more-axes-than-recommended": {
    says: (f) => `das Produkt hat ${anzahl(f.axes, "Achse", "Achsen")}. ${f.target} empfiehlt höchstens ${f.advised}`,
    remedy: "Lassen Sie es so, oder teilen Sie das Produkt.",
  },
  "target/too-many-axes": {
    says: (f) => `das Produkt hat ${anzahl(f.axes, "Achse", "Achsen")}. ${f.target} erlaubt ${f.most}`,
    remedy: "Teilen Sie das Produkt, oder verbinden Sie zwei Achsen.",
  },
  "target/not-made": {
    says: (f) =>
      `${f.column} nennt „${f.name}“, aber kein Import von ${f.target} legt so einen Datensatz an, und unbekannte Namen werden abgelehnt`,
    remedy:
      "Geben Sie die Id an, die die Plattform dafür hat, oder sagen Sie im Target, was aus unbekannten Namen wird.",
  },
  "target/left-out": {
    says: (f) =>
      `${f.column} nennt „${f.name}“, aber kein Import von ${f.target} legt so einen Datensatz an: Der Name fällt weg`,
    remedy: "Geben Sie die Id an, die die Plattform dafür hat, falls es eine gibt.",
  },
  "target/uncarried": {
    says: (f) =>
      `${f.target} hat keinen Platz für ${f.field}. ${anzahl(f.count, "Datensatz hat", "Datensätze haben")} es: ${liste(f.examples, f.count)}${stattdessen(f.instead)}`,
    remedy: "Es wird auf der Plattform fehlen. Bewahren Sie es anderswo auf, wenn Sie es brauchen.",
  },
  "target/formula": {
    says: (f) =>
      `„${f.column}“ beginnt wie eine Formel (${zitiert(f.text)}). Eine Tabellenkalkulation würde sie ausführen`,
    remedy:
      "Laden Sie die Datei unverändert hoch. Müssen Sie sie in einer Tabellenkalkulation öffnen, importieren Sie die Spalte als Text.",
  },
  "target/no-import": {
    says: (f) =>
      `${art(f.kind)} „${f.key}“ passt zu keinem der Importe von ${f.target}: ${f.imports.join(", ")}${f.problem === undefined ? "" : ` (${de(f.problem)})`}`,
    remedy: "Korrigieren Sie den Datensatz, oder die Bedingung unter „for“ im Ziel.",
  },
  "target/variants-only": {
    says: (f) =>
      `das nennt das Produkt „${f.product}“, das ${anzahl(f.variants, "Variante", "Varianten")} hat. „${f.column}“ von ${f.target} kann nur eine einzelne Variante mit ihrer Artikelnummer nennen`,
    remedy: "Nennen Sie in der Quelle eine seiner Varianten.",
  },
  "target/empty-category": {
    says: (f) =>
      `${anzahl(f.count, "Kategorie hat", "Kategorien haben")} keine Produkte, und ${f.target} legt nur Kategorien an, die ein Produkt nennt: ${liste(f.examples, f.count)}`,
    remedy: "Müssen Kunden sie noch nicht sehen, brauchen Sie nichts zu tun.",
  },
  "target/not-listed": {
    says: (f) => `${zitiert(f.name)} steht nicht in der Liste ${f.list} von ${f.target}${amNaechsten(f.nearest)}`,
    remedy:
      "Berichtigen Sie den Namen, oder nehmen Sie ihn auf der Plattform in die Liste auf und im Projekt unter „has“.",
  },
  "target/not-there": {
    says: (f) => `${f.target} hat ${art(f.kind)} ${zitiert(f.name)} nicht${amNaechsten(f.nearest)}`,
    remedy: "Berichtigen Sie den Namen, oder legen Sie ihn auf der Plattform und im Projekt unter „has“ an.",
  },
  "write/cannot-be-written": {
    says: (f) => `${zitiert(f.text)} kann nicht in „${f.column}“ geschrieben werden: die Spalte nimmt ${de(f.wanted)}`,
    remedy: "Ändern Sie den Text.",
  },
  "write/names-incomplete": {
    says: (f) =>
      `„${f.column}“ bleibt leer: neben ${liste(f.names, f.names.length)} fehlen weitere Namen in der Sprache ${f.lang}`,
    remedy: "Ergänzen Sie die fehlenden Namen, oder lassen Sie die Namen in dieser Sprache weg.",
  },
};

/** The German of en/compare.ts. */

import type { Translated } from "../definition.js";
import type { compare as english } from "../en/compare.js";
import { anzahl, art, de, liste } from "./wording.js";

export const compare: Translated<typeof english> = {
  "ledger/torn-batch": {
    says: (f) =>
      `der letzte Abschnitt wurde nicht abgeschlossen. ${anzahl(f.lines, "Zeile davon zählt", "Zeilen davon zählen")} nicht`,
    remedy:
      "Lesen Sie die IDs noch einmal ein. Die Berichte und Exporte der Plattform enthalten noch, was dieser Abschnitt festgehalten hätte.",
  },
  "ledger/other-count": {
    says: (f) => `dieser Abschnitt wurde mit ${anzahl(f.lines, "Zeile", "Zeilen")} abgeschlossen, hat aber ${f.there}`,
    remedy: "Die Datei wurde von Hand geändert. Stellen Sie sie aus einer Sicherung wieder her.",
  },
  "ledger/no-line": {
    says: () => "das ist keine gültige Zeile des Verzeichnisses (ledger)",
    remedy: "Die Datei wurde von Hand geändert. Stellen Sie die Zeile wieder her, oder entfernen Sie sie.",
  },
  "ledger/id-taken": {
    says: (f) => `ID ${f.id} von ${art(f.kind)} „${f.key}“ gehört schon zu ${art(f.kind)} „${f.owner}“`,
    remedy: "Prüfen Sie auf der Plattform, welcher der beiden es ist. Das Verzeichnis behält den früheren.",
  },
  "ledger/ids-in-sources": {
    says: (f) =>
      `${anzahl(f.count, "Datensatz ist", "Datensätze sind")} schon auf ${f.target}, denn die Quellen haben ihre IDs: ${liste(f.examples, f.count)}`,
    remedy:
      "Sie werden nicht hochgeladen. Mit einem Export (--export) werden sie verglichen, und was abweicht, wird hochgeladen.",
  },
  "ledger/other-id": {
    says: (f) => `${art(f.kind)} „${f.key}“ hat im Verzeichnis die ID ${f.known}, hier aber ${f.id}`,
    remedy:
      "Entweder wurde das Konto geleert, oder dies gehört zu einem anderen Konto. Verwenden Sie je Konto ein Verzeichnis. Es zählt.",
  },
  "compare/not-whole": {
    says: (f) => `das ist kein vollständiger Export von ${f.target}: er ist abgeschnitten, oder er ist kein JSON`,
    remedy: "Speichern Sie den Export noch einmal, und prüfen Sie seine Größe.",
  },
  "compare/names-missing": {
    says: (f) =>
      `${f.count === 1 ? "ein Verweis" : `${f.count} Verweise`} des Exports ${f.count === 1 ? "führt" : "führen"} zu Datensätzen, die er nicht enthält. Sie werden nicht verglichen`,
    remedy:
      "Speichern Sie den ganzen Export noch einmal. Stehen die Datensätze in einer anderen Datei, geben Sie auch diese an (--export DATEI --export DATEI).",
  },
  "compare/names-differ": {
    says: (f) =>
      `${anzahl(f.count, "Name", "Namen")} im Export ${f.count === 1 ? "weicht" : "weichen"} zwischen Datensätzen ab, die in Ihren Quellen einer sind. Der erste Name wurde verglichen`,
    remedy: "Verwenden Sie auf der Plattform für jeden Wert einen Namen, in jeder Sprache.",
  },
  "compare/other-export": {
    says: (f) =>
      `das ist kein Export von ${f.target}: es ${f.missing.length === 1 ? "fehlt" : "fehlen"} ${liste(f.missing.slice(0, 4), f.missing.length)}`,
    remedy: "Geben Sie einen Export dieser Plattform an, wie ihn ihre Zieldatei beschreibt.",
  },
  "compare/exports-missing": {
    says: (f) =>
      `die Exporte von ${f.target} sind nicht vollständig: ${liste(f.missing.slice(0, 4), f.missing.length)} ${f.missing.length === 1 ? "fehlt" : "fehlen"}`,
    remedy: "Geben Sie auch die Exporte an, die es enthalten (--export DATEI --export DATEI).",
  },
  "compare/other-shop": {
    says: (f) =>
      `der Export enthält keines von ${anzahl(f.known, "geliefertem Produkt", "gelieferten Produkten")}. Er gehört zu einem anderen Shop`,
    remedy: "Geben Sie den Export des Kontos an, zu dem dieses Verzeichnis gehört.",
  },
  "compare/half-export": {
    says: (f) =>
      `der Export enthält nur ${f.there} von ${anzahl(f.known, "geliefertem Produkt", "gelieferten Produkten")}. Er ist nicht vollständig`,
    remedy:
      "Speichern Sie den vollständigen Export. Wurden die anderen wirklich auf der Plattform gelöscht, bauen Sie mit --despite compare/half-export.",
  },
  "compare/old-ledger": {
    says: (f) =>
      `${f.differing} von ${f.shared} Produkten weichen vom zuletzt Gelieferten ab. Das Verzeichnis ist vielleicht ein älteres`,
    remedy:
      "Verwenden Sie das Verzeichnis der letzten Lieferung. Sonst prüfen Sie die Änderungen auf der Plattform, bevor Sie etwas überschreiben.",
  },
  "compare/several-are-one": {
    says: (f) =>
      `${f.count} Datensätze wären auf ${f.target} ein einziger (${art(f.kind)} „${f.other}“), nach: ${f.by}. Es sind: ${liste(f.examples, f.count)}`,
    remedy: "Geben Sie jedem etwas Eigenes, oder legen Sie sie zusammen.",
  },
  "compare/may-be-several": {
    says: (f) =>
      `${art(f.kind)} „${f.key}“ kann auf ${f.target} mehrere meinen, nach: ${f.by}. Es sind: ${liste(f.candidates)}`,
    remedy: "Geben Sie in den Paaren an, welcher gemeint ist.",
  },
  "compare/would-overwrite": {
    says: (f) =>
      `${art(f.kind)} ${f.yours} ist in Ihren Quellen neu, aber auf der Plattform gehört ${f.by} ${f.value} zu ${f.platforms}`,
    remedy:
      "Geben Sie in der Paarliste an, dass es derselbe Datensatz ist, oder geben Sie einem der beiden einen anderen Wert.",
  },
  "compare/both-changed": {
    says: (f) =>
      `${art(f.kind)} ${f.key} wurde seit der letzten Lieferung in Ihren Quellen und auf der Plattform geändert: ${f.fields.join(", ")}`,
    remedy:
      "Entscheiden Sie für jedes Feld. Ihr Wert wird geschrieben, wenn das Projekt nicht den der Plattform behält.",
  },
  "compare/changed-on-platform": {
    says: (f) => `${art(f.kind)} ${f.key} wurde von jemand anderem auf der Plattform geändert: ${f.fields.join(", ")}`,
    remedy:
      "Der Wert der Plattform bleibt, wenn das Projekt ihn nicht überschreibt. Ist er richtig, übernehmen Sie ihn in eine Quelle.",
  },
  "compare/no-longer-in-sources": {
    says: (f) =>
      `${anzahl(f.count, "früher gelieferter Datensatz steht", "früher gelieferte Datensätze stehen")} nicht mehr in Ihren Quellen: ${liste(f.examples, f.count)}`,
    remedy: "Was aus ihnen wird, sagt das Projekt mit „gone“ unter changes: leave, hide, retire oder delete.",
  },
  "compare/pair-names-nothing": {
    says: (f) => `Ihre Quellen haben kein ${art(f.kind)} ${f.key}, das ein Paar bilden könnte`,
    remedy: "Entfernen Sie die Zeile, oder korrigieren Sie den Schlüssel.",
  },
  "compare/pair-taken": {
    says: (f) =>
      `${art(f.kind)} ${f.key} kann kein Paar mit ${f.platforms} bilden: Ihre Quellen haben schon einen Datensatz mit diesem Schlüssel`,
    remedy: "Bilden Sie das Paar mit einem anderen, oder entfernen Sie einen der beiden aus den Quellen.",
  },
  "compare/no-pairs": {
    says: (f) => `das ist keine Paarliste. Ihre Spalten müssen ${f.columns.join(", ")} sein`,
    remedy: "Verwenden Sie die Datei, die `zest-tier compare` schreibt.",
  },
  "compare/odd-reply": {
    says: (f) => `„${f.text}“ ist keine gültige Antwort`,
    remedy: "Schreiben Sie „same“ oder „different“, oder lassen Sie die Zelle leer.",
  },
  "reshape/cannot": {
    says: (f) => `die Operation ist nicht möglich: ${de(f.problem)}`,
    remedy: "Korrigieren Sie die Operation im Projekt, oder entfernen Sie sie.",
  },
  "reshape/fields-differ": {
    says: (f) => `${f.keys.join(", ")} haben verschiedene Werte in ${f.field}. Der Wert von ${f.winner} bleibt`,
    remedy: "Um einen anderen zu wählen, setzen Sie take: { FELD: SCHLÜSSEL }.",
  },
  "reshape/unbalanced": {
    says: (f) => `die Operation würde ${f.count} × ${f.what} verlieren oder erfinden: ${liste(f.examples, f.count)}`,
    remedy:
      "Nichts wurde umgeformt. Artikelnummern ändert renumber. Alles andere ist ein Fehler der Operation: entfernen Sie sie, und melden Sie ihn.",
  },
  "change/would-delete": {
    says: (f) => `${art(f.kind)} ${f.key} würde auf ${f.target} gelöscht`,
    remedy: "Ist das bei jedem aufgeführten Datensatz beabsichtigt, bauen Sie mit --despite change/would-delete.",
  },
  "change/no-column": {
    says: (f) => `${f.target} hat keine Spalte für ${f.field} allein`,
    remedy: "Nennen Sie ein Feld, für das eine der Dateien eine Spalte hat, als `kind.field`.",
  },
  "change/no-whole-range": {
    says: (f) => `${f.target} nimmt keine Datei mit dem ganzen Sortiment an`,
    remedy: "Laden Sie nur hoch, was sich geändert hat.",
  },
  "change/cannot-remove": {
    says: (f) =>
      `${f.target} kann keine Einträge aus Listen entfernen. ${anzahl(f.count, "Liste hat", "Listen haben")} auf der Plattform mehr Einträge als in Ihren Quellen: ${liste(f.examples, f.count)}`,
    remedy: "Sind sie falsch, entfernen Sie sie von Hand auf der Plattform.",
  },
  "change/not-deleted": {
    says: (f) =>
      `${anzahl(f.count, "Datensatz", "Datensätze")} auf ${f.target} ${f.count === 1 ? "kann" : "können"} nicht gelöscht werden: ${liste(f.examples, f.count)}`,
    remedy:
      "Kein Import des Ziels löscht sie, andere Datensätze nennen sie, oder sie enthalten Datensätze, die bleiben. Löschen Sie sie von Hand, oder lassen Sie sie stehen.",
  },
  "change/never-changes": {
    says: (f) =>
      `${f.target} ändert nie, was feststeht. ${anzahl(f.count, "Wert bleibt", "Werte bleiben")} wie auf der Plattform: ${liste(f.examples, f.count)}`,
    remedy: "Soll Ihr Wert gelten, legen Sie den Datensatz auf der Plattform unter einem anderen Schlüssel neu an.",
  },
  "change/no-export": {
    says: (f) => `einen Weg zurück gibt es für Änderungen, und kein Export zeigt, was auf ${f.target} ist`,
    remedy: "Geben Sie den Export an, mit dem der Upload gebaut wurde (--export DATEI).",
  },
  "change/cannot-restore": {
    says: (f) =>
      `der Weg zurück lässt ${anzahl(f.made, "neuen Datensatz", "neue Datensätze")} und ${anzahl(f.others, "anderen Wert", "andere Werte")}, wie der Upload sie gemacht hat: ${liste(f.examples, f.made + f.others)}`,
    remedy: "Notieren Sie sie vor dem Hochladen. Wenn Sie zurückgehen, berichtigen Sie sie auf der Plattform von Hand.",
  },
  "collect/refused": {
    says: (f) => `die Plattform hat die Zeile abgelehnt: ${f.reasons.join("; ")}`,
    remedy: "Korrigieren Sie die Quelle. Der nächste Bau enthält sie wieder.",
  },
  "collect/picture-refused": {
    says: (f) => `die Plattform hat das Bild nicht angenommen: ${f.reasons.join("; ")}`,
    remedy: "Korrigieren Sie die Datei. Der nächste Bau enthält sie wieder.",
  },
  "collect/other-outcome": {
    says: (f) => `erwartet war „${f.expected}“, die Plattform meldet aber „${f.was}“`,
    remedy: "Prüfen Sie, ob die Plattform wirklich leer war, oder ob die Datei zweimal hochgeladen wurde.",
  },
  "collect/other-upload": {
    says: () => "der Upload-Ordner ist nicht, was das Projekt jetzt bauen würde",
    remedy:
      "Lesen Sie die IDs ein, bevor Sie etwas ändern. Oder stellen Sie die Quellen wieder her, lesen Sie ein, und ändern Sie sie dann.",
  },
  "collect/not-a-report": {
    says: () => "das ist kein Bericht der Plattform",
    remedy: "Speichern Sie den Bericht der Plattform unverändert.",
  },
  "collect/no-report": {
    says: () => "zu dieser Datei gibt es keinen Bericht",
    remedy: "Geben Sie den Bericht der Plattform an, oder laden Sie die Datei zuerst hoch.",
  },
  "collect/no-export": {
    says: (f) => `es gibt keinen Export mit den IDs (${art(f.kind)})`,
    remedy: "Exportieren Sie sie von der Plattform, und geben Sie die Datei an.",
  },
  "collect/ambiguous": {
    says: (f) => `dort gibt es ${f.ids.length} × ${art(f.kind)} mit ${f.by} ${f.word}: IDs ${f.ids.join(", ")}`,
    remedy:
      "Benennen Sie einen davon auf der Plattform um, oder löschen Sie den überzähligen. Exportieren Sie dann noch einmal.",
  },
  "collect/not-there": {
    says: (f) => `der Export enthält diesen Datensatz nicht (${art(f.kind)}, verglichen nach ${f.ways.join(", ")})`,
    remedy: "Prüfen Sie, ob die Datei in dieses Konto hochgeladen wurde. Exportieren Sie dann noch einmal.",
  },
};

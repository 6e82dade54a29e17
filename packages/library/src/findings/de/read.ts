/** The German of en/read.ts. */

import type { Translated } from "../definition.js";
import type { read as english } from "../en/read.js";
import { amNaechsten, anzahl, art, de, liste, meintenSie, zitiert } from "./wording.js";

export const read: Translated<typeof english> = {
  "read/missing-file": {
    says: () => "die Datei gibt es nicht",
    remedy: "Korrigieren Sie den Dateinamen im Projekt, oder legen Sie die Datei dort ab.",
  },
  "read/unreadable": {
    says: (f) => `die Datei kann nicht gelesen werden: ${de(f.reason)}`,
    remedy: "Prüfen Sie die Datei und Ihre Leserechte.",
  },
  "read/folder": { says: () => "das ist ein Ordner, keine Datei", remedy: "Nennen Sie eine Datei in diesem Ordner." },
  "read/empty-file": {
    says: () => "die Datei ist leer",
    remedy: "Besorgen Sie die Datei noch einmal, oder entfernen Sie die Quelle.",
  },
  "read/header-only": {
    says: () => "die Datei hat eine Kopfzeile, aber keine Zeilen",
    remedy: "Besorgen Sie die Datei noch einmal, oder entfernen Sie die Quelle.",
  },
  "read/wrong-encoding": {
    says: (f) => `die Datei ist nicht in ${f.encoding}: Byte ${f.byte} ist ungültig`,
    remedy:
      "Nennen Sie die Zeichenkodierung im Layout (format: csv: encoding). Die meisten alten Exporte sind in windows-1252.",
  },
  "read/open-quote": {
    says: () =>
      "ein Anführungszeichen wird nie geschlossen oder steht mitten in einer Zelle. Die Zeile wurde ohne Anführungszeichen gelesen",
    remedy: "Schließen oder verdoppeln Sie das Anführungszeichen.",
  },
  "read/gave-up": {
    says: () => "es gibt zu viele fehlerhafte Anführungszeichen. Unterhalb dieser Zeile wurde nichts gelesen",
    remedy: "Prüfen Sie das Anführungszeichen im Layout.",
  },
  "read/too-many-columns": {
    says: (f) => `die Datei hat ${f.columns} Spalten. Höchstens ${f.most} werden gelesen`,
    remedy: "Prüfen Sie das Trennzeichen im Layout.",
  },
  "read/header-too-long": {
    says: (f) => `eine Spaltenüberschrift hat ${f.chars} Zeichen. Gelesen werden höchstens ${f.most}`,
    remedy:
      'Prüfen Sie das Trennzeichen und die Zeile der Überschriften. Ist die Datei richtig, erhöhen Sie "header characters" unter "caps" im Projekt.',
  },
  "read/over-cap": {
    says: (f) => `die Datei enthält mehr, als gelesen wird: die Grenze "${f.cap}" liegt bei ${f.most}`,
    remedy: 'Prüfen Sie die Datei. Ist sie richtig, erhöhen Sie dieses Wort unter "caps" im Projekt.',
  },
  "read/no-column-known": {
    says: (f) => `keine Spalte der Datei steht im Layout ${f.layout}. Die Kopfzeile beginnt mit ${zitiert(f.found)}`,
    remedy: "Prüfen Sie die Datei und das Trennzeichen im Layout.",
  },
  "read/column-missing": {
    says: (f) =>
      `die Datei hat keine Spalte „${f.header}“, aber das Layout ${f.layout} liest sie${meintenSie(f.nearest)}`,
    remedy: "Korrigieren Sie die Kopfzeile der Datei oder das Layout.",
  },
  "read/column-repeated": {
    says: () => "zwei Spalten haben diese Überschrift. Nur die erste wurde gelesen",
    remedy: "Benennen Sie eine der beiden Spalten um.",
  },
  "read/not-the-constant": {
    says: (f) => `${zitiert(f.text)} steht, wo das Layout die Konstante ${zitiert(f.constant)} hat`,
    remedy:
      "Prüfen Sie, was der Text für die anderen Zellen bedeutet: eine Einheit, eine Währung, eine Version. Berichtigen Sie dann die Datei oder das Layout.",
  },
  "read/column-unbound": {
    says: (f) => `das Layout ${f.layout} erwähnt diese Spalte nicht. Sie wurde nicht gelesen`,
    remedy: "Binden Sie die Spalte an ein Feld, oder führen Sie sie unter „ignore“ auf.",
  },
  "read/encoding-guessed": {
    says: (f) => `die Datei wurde als ${f.encoding} gelesen, worauf ihre Bytes hindeuten`,
    remedy: "Wenn Buchstaben falsch sind, setzen Sie „encoding“ im Layout.",
  },
  "read/mixed-line-ends": {
    says: () => "die Datei hat zwei Arten von Zeilenenden. Sie wechseln in dieser Zeile",
    remedy: "Hier wurden vielleicht zwei Dateien verbunden. Prüfen Sie, ob beide Teile vollständig sind.",
  },
  "read/xml-broken": {
    says: (f) => `das XML ist hier fehlerhaft: ${de(f.problem)}`,
    remedy: "Korrigieren Sie die Datei an ihrer Quelle. Nach dieser Zeile wurde nichts gelesen.",
  },
  "read/json-broken": {
    says: (f) => `das JSON ist hier fehlerhaft: ${de(f.problem)}`,
    remedy: "Korrigieren Sie die Datei an ihrer Quelle. Nach dieser Stelle wurde nichts gelesen.",
  },
  "read/zip-broken": {
    says: (f) => `das Archiv konnte nicht entpackt werden: ${de(f.problem)}`,
    remedy: "Besorgen Sie das Archiv noch einmal.",
  },
  "read/not-in-zip": {
    says: (f) => `das Archiv enthält ${f.name} nicht. Es enthält ${liste(f.names)}`,
    remedy: "Nennen Sie eine dieser Dateien unter „within“ im Projekt.",
  },
  "read/workbook-broken": {
    says: (f) => `die Arbeitsmappe kann nicht gelesen werden: ${de(f.problem)}`,
    remedy: "Öffnen Sie sie in einer Tabellenkalkulation und speichern Sie sie neu.",
  },
  "read/which-sheet": {
    says: (f) => `${de(f.wanted)}. Die Blätter sind ${liste(f.names.map(zitiert))}`,
    remedy: "Nennen Sie eines davon im Layout („workbook: sheet“).",
  },
  "read/hidden": {
    says: (f) => {
      const what =
        f.what === "row"
          ? anzahl(f.count, "ausgeblendete Zeile", "ausgeblendete Zeilen")
          : anzahl(f.count, "ausgeblendete Spalte", "ausgeblendete Spalten");
      return `${what} ${f.count === 1 ? "wurde" : "wurden"} ${f.isRead ? "wie die anderen gelesen" : "ausgelassen"}`;
    },
    remedy: "Um das zu ändern, setzen Sie „hidden rows“ im Layout.",
  },
  "read/merged-cells": {
    says: (f) =>
      `${anzahl(f.count, "verbundener Bereich", "verbundene Bereiche")}: der Wert wurde ${f.isRepeated ? "in jeder Zelle des Bereichs" : "nur in der ersten Zelle"} gelesen`,
    remedy: "Um das zu ändern, setzen Sie „merged cells“ im Layout.",
  },
  "read/sheets-left": {
    says: (f) => `diese Blätter wurden nicht gelesen: ${liste(f.names.map(zitiert))}`,
    remedy: "Fügen Sie für jedes Blatt, das Sie brauchen, eine Quelle hinzu.",
  },
  "read/no-element": {
    says: (f) => `das Dokument hat kein Element bei ${zitiert(f.element)}`,
    remedy:
      "Korrigieren Sie den Pfad unter „element“ im Layout. Ein Präfix gehört nur hinein, wenn das Dokument eines verwendet.",
  },
  "read/nothing-there": {
    says: (f) => `dieser Pfad des Layouts ${f.layout} ist in jedem Element leer`,
    remedy: "Ist das beabsichtigt, müssen Sie nichts tun. Sonst korrigieren Sie den Pfad im Layout.",
  },
  "read/further-values": {
    says: (f) =>
      `${anzahl(f.values, "weiterer Wert steht", "weitere Werte stehen")} unter diesem Pfad. Von jedem Element wurde nur der erste gelesen`,
    remedy:
      "Lesen Sie sie mit einer Spur (lane), oder sagen Sie in Klammern, welcher gemeint ist. Oder nennen Sie den Pfad unter ignore.",
  },
  "read/ragged-row": {
    says: (f) => `die Zeile hat ${anzahl(f.cells, "Zelle", "Zellen")}, die Kopfzeile aber ${f.headers}`,
    remedy:
      "Zu viele Zellen: eine Zelle enthält das Trennzeichen ohne Anführungszeichen. Zu wenige: die Zeile wurde abgeschnitten.",
  },
  "read/cell-too-long": {
    says: (f) => `die Zelle hat ${f.chars} Zeichen. Höchstens ${f.most} werden gelesen`,
    remedy: "Suchen Sie oberhalb dieser Zeile nach einem fehlenden Anführungszeichen.",
  },
  "read/row-without-group": {
    says: () => "die Zelle, die Zeilen gruppiert, ist leer. Die Zeile gehört zu keinem Datensatz",
    remedy: "Füllen Sie die Zelle, die Zeilen gruppiert.",
  },
  "read/row-above-all": {
    says: () => "diese Zeile setzt die Zeile darüber fort, aber darüber steht keine",
    remedy: "Verschieben Sie sie unter die Zeile ihres Datensatzes.",
  },
  "read/orphan-row": {
    says: (f) => `die Zeile gehört zu ${zitiert(f.names)}, das nicht in dieser Datei steht`,
    remedy: "Korrigieren Sie den Namen, oder fügen Sie den Datensatz hinzu.",
  },
  "read/no-key": { says: (f) => `${art(f.kind)} ohne Schlüssel`, remedy: "Füllen Sie die Zelle des Schlüssels." },
  "read/scattered-group": {
    says: (f) => `die Zeilen von „${f.group}“ stehen nicht beieinander`,
    remedy: "Sortieren Sie die Datei, oder setzen Sie „groups: scattered“ im Layout.",
  },
  "read/group-too-large": {
    says: (f) => `„${f.group}“ hat mehr als ${f.most} Zeilen. Der Rest wurde ausgelassen`,
    remedy: "Prüfen Sie die Datei und die Spalte, die Zeilen gruppiert.",
  },
  "read/repeated-key": {
    says: (f) => `den Schlüssel „${f.key}“ (${art(f.kind)}) gibt es schon`,
    remedy: "Geben Sie einem der beiden einen anderen Schlüssel.",
  },
  "read/cell-not-used": {
    says: (f) => `diese Zelle ginge verloren: sie füllt ${f.feeds}, aber die Zeile gehört zu: ${art(f.rowOf)}`,
    remedy:
      "Verschieben Sie den Wert in die Zeile seines Datensatzes, oder füllen Sie die Zelle, zu der er gehört (den Namen vor seiner Übersetzung).",
  },
  "read/cells-disagree": {
    says: (f) => `in der Zelle steht ${zitiert(f.here)}, in der ersten Zeile des Datensatzes aber ${zitiert(f.first)}`,
    remedy: "Behalten Sie einen der beiden Werte.",
  },
  "read/stale-translation": {
    says: (f) => `die Übersetzung wurde aus ${zitiert(f.here)} gemacht. Der Text lautet jetzt ${zitiert(f.first)}`,
    remedy: "Lassen Sie den neuen Text übersetzen.",
  },
  "read/sources-disagree": {
    says: (f) =>
      `in der Zelle steht ${zitiert(f.here)}, in einer anderen Quelle ${zitiert(f.first)}. Keine der Quellen hat Vorrang`,
    remedy: "Korrigieren Sie eine davon, oder geben Sie einer Quelle im Projekt eine höhere „precedence“.",
  },
  "read/source-overruled": {
    says: (f) =>
      `zwei Quellen widersprechen sich: ${zitiert(f.stays)} gilt wegen des Vorrangs, ${zitiert(f.goes)} wird nicht verwendet`,
    remedy: "Gilt der richtige Wert, müssen Sie nichts tun.",
  },
  "read/names-none": {
    says: (f) =>
      `kein Datensatz (${art(f.kind)}) hat ${f.names} ${zitiert(f.text)}. Die Zeile wurde ausgelassen${amNaechsten(f.nearest)}`,
    remedy:
      "Korrigieren Sie die Zelle, oder fügen Sie den Datensatz hinzu. Sind solche Zeilen normal, setzen Sie „otherwise: ignored“ im Layout.",
  },
  "read/names-several": {
    says: (f) => `${f.count} Datensätze haben ${f.names} ${zitiert(f.text)}. Die Zeile wurde ausgelassen`,
    remedy: "Nennen Sie den Datensatz mit etwas Eindeutigem.",
  },
  "read/rows-ignored": {
    says: (f) => `${anzahl(f.rows, "Zeile wurde", "Zeilen wurden")} nicht gelesen: ${de(f.why)}`,
    remedy: "Ist das beabsichtigt, müssen Sie nichts tun.",
  },
  "read/unknown-language": {
    says: (f) => `${zitiert(f.word)} ist keine Sprache dieses Layouts. Es hat ${f.known}`,
    remedy: "Korrigieren Sie die Zelle, oder fügen Sie das Wort im Layout unter „code words“ hinzu.",
  },
  "read/fixed": {
    says: (f) =>
      `${anzahl(f.count, "Zelle wurde", "Zellen wurden")} repariert (${f.fix}): aus ${zitiert(f.before)} wurde zum Beispiel ${zitiert(f.after)}`,
    remedy: "Sie müssen nichts tun. Sie können auch die Quelle korrigieren.",
  },
  "read/excluded-unknown": {
    says: (f) => `${zitiert(f.combination)} soll ausgelassen werden, ist aber keine Kombination der aufgeführten Werte`,
    remedy: "Korrigieren Sie die Kombination.",
  },
  "read/value-without-axis": {
    says: (f) => `${zitiert(f.value)} ist ein Wert, aber das Produkt hat keine Achse ${f.axis}`,
    remedy: "Nennen Sie die Achse, oder leeren Sie die Zelle.",
  },
  "read/not-parallel": {
    says: (f) =>
      `die Zelle passt nicht zu „${f.beside}“: beide brauchen gleich viele Pfade, jeder mit gleich vielen Ebenen`,
    remedy: "Geben Sie jeden Pfad in beiden Spalten an.",
  },
};

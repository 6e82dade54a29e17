/** The German of en/check.ts. */

import type { Translated } from "../definition.js";
import type { check as english } from "../en/check.js";
import { anzahl, art, betrag, de, liste, meintenSie, zitiert } from "./wording.js";

export const check: Translated<typeof english> = {
  "check/repeated-code": {
    says: (f) =>
      `${anzahl(f.count, "Datensatz hat", "Datensätze haben")} die Artikelnummer „${f.code}“. Eine Plattform behielte nur den letzten`,
    remedy: "Geben Sie jedem Datensatz eine eigene Artikelnummer.",
  },
  "check/no-code": { says: (f) => `${art(f.kind)} ohne Artikelnummer`, remedy: "Vergeben Sie eine Artikelnummer." },
  "check/look-alike-values": {
    says: (f) => `${f.axis} hat „${f.one}“ und „${f.other}“. Kunden sähen zwei Werte`,
    remedy: "Schreiben Sie den Wert überall gleich.",
  },
  "check/missing-value": {
    says: (f) => `die Variante hat keinen Wert für ${zitiert(f.axis)}`,
    remedy: "Füllen Sie die Zelle.",
  },
  "check/repeated-combination": {
    says: (f) => `eine andere Variante dieses Produkts hat auch die Werte ${zitiert(f.values)}`,
    remedy: "Ändern Sie eine der beiden Varianten, oder entfernen Sie sie.",
  },
  "check/missing-combinations": {
    says: (f) =>
      `${f.present} von ${f.possible} Kombinationen gibt es. Es fehlen: ${liste(f.examples, f.possible - f.present)}`,
    remedy: "Werden die anderen nicht verkauft, müssen Sie nichts tun.",
  },
  "check/barcode": {
    says: (f) => `${zitiert(f.barcode)} ist keine gültige GTIN: ${de(f.problem)}`,
    remedy: "Besorgen Sie die Nummer noch einmal, in einer als Text formatierten Spalte.",
  },
  "check/was-not-above": {
    says: (f) =>
      `der frühere Preis ${betrag(f.was, f.currency)} liegt nicht über dem Preis ${betrag(f.price, f.currency)}`,
    remedy: "Korrigieren Sie einen der beiden, oder leeren Sie den früheren Preis.",
  },
  "check/offer-not-below": {
    says: (f) =>
      `der Angebotspreis ${betrag(f.offer, f.currency)} liegt nicht unter dem Preis ${betrag(f.price, f.currency)}`,
    remedy: "Korrigieren Sie einen der beiden, oder leeren Sie den Angebotspreis.",
  },
  "check/below-cost": {
    says: (f) =>
      `${f.role === "offer" ? "der Angebotspreis" : "der Preis"} ${betrag(f.price, f.currency)} liegt unter dem Einkaufspreis ${betrag(f.cost, f.currency)}`,
    remedy: "Korrigieren Sie einen der beiden. Oft ist einer in einer anderen Währung oder enthält Steuer.",
  },
  "check/no-cost": {
    says: (f) =>
      `der Datensatz hat einen Preis (${betrag(f.price, f.currency)}), aber keinen Einkaufspreis. Andere Datensätze dieser Tabelle haben einen`,
    remedy: "Fragen Sie den Lieferanten nach dem Einkaufspreis.",
  },
  "check/short-code": {
    says: (f) =>
      `die Artikelnummer „${f.code}“ hat weniger als die ${f.width} Ziffern der anderen. Eine Tabellenkalkulation hat vielleicht führende Nullen entfernt`,
    remedy: "Besorgen Sie sie noch einmal, oder setzen Sie „fix: { pad: … }“ im Layout.",
  },
  "check/damaged-text": {
    says: (f) =>
      `${f.field} ${zitiert(f.text)} ist beschädigt (${de(f.damage)})${f.right === undefined ? "" : `. Richtig ist vermutlich ${zitiert(f.right)}`}`,
    remedy: "Besorgen Sie den Text noch einmal, oder setzen Sie „fix“ im Layout, wenn es dafür eine Reparatur gibt.",
  },
  "check/half-character": {
    says: (f) => `${f.field} enthält ein halbes Zeichen, das keine Datei speichern kann`,
    remedy: "Geben Sie den Text neu ein. Programme, die Texte kürzen, schneiden manchmal ein Zeichen durch.",
  },
  "check/missing-translation": {
    says: (f) => `${f.fields.join(", ")} ${f.fields.length === 1 ? "fehlt" : "fehlen"} in ${f.lang}`,
    remedy: "Lassen Sie den Text übersetzen, oder leiten Sie ihn mit einer Marke aus einer anderen Sprache ab.",
  },
  "check/repeated-slug": {
    says: (f) => `ein anderer Datensatz (${art(f.kind)}) hat auch die Adresse „${f.slug}“`,
    remedy: "Geben Sie jedem eine eigene, oder leiten Sie sie ab: abgeleitete sind immer verschieden.",
  },
  "check/repeated-tier": {
    says: (f) => `es gibt zwei Preise ab Menge ${f.from} für ${f.group}`,
    remedy: "Entfernen Sie einen davon.",
  },
  "check/picture-unused": {
    says: (f) =>
      `${anzahl(f.count, "Bild", "Bilder")} im Ordner verwendet kein Datensatz: ${liste(f.examples, f.count)}`,
    remedy: "Sind sie übrig geblieben, müssen Sie nichts tun.",
  },
  "check/related-to-itself": {
    says: (f) => `das Produkt steht in Beziehung zu sich selbst (${f.relation})`,
    remedy: "Entfernen Sie es aus seiner eigenen Liste.",
  },
  "check/relation-refused": {
    says: (f) =>
      `das Produkt steht in Beziehung zu sich selbst (${f.relation}). ${f.refusedBy.join(", ")} ${f.refusedBy.length === 1 ? "lehnt" : "lehnen"} die Zeile ab`,
    remedy: "Entfernen Sie es aus seiner eigenen Liste.",
  },
  "check/unknown-value": {
    says: (f) => `${f.field} ist ${zitiert(f.word)}. Zulässig sind ${f.among.join(", ")}${meintenSie(f.nearest)}`,
    remedy: "Korrigieren Sie den Wert, oder übersetzen Sie ihn im Layout unter „code words“.",
  },
  "check/weight-of-nothing": {
    says: (f) => `das Produkt hat ein Gewicht, ist aber ${f.sort === "service" ? "eine Dienstleistung" : "eine Datei"}`,
    remedy: "Entfernen Sie das Gewicht, oder korrigieren Sie die Produktart (sort).",
  },
  "check/no-hire-price": {
    says: () => "das Produkt wird vermietet, hat aber keinen Preis für einen Zeitraum",
    remedy: "Geben Sie ihm einen Preis mit Mietzeitraum (hire).",
  },
  "check/hire-price": {
    says: (f) => `das Produkt hat einen Preis für einen Mietzeitraum, seine Produktart ist aber ${f.sort}`,
    remedy: "Korrigieren Sie die Produktart, oder entfernen Sie den Mietzeitraum.",
  },
  "check/no-choice": {
    says: (f) =>
      f.choices === 0
        ? "die Optionsgruppe hat keine Auswahl"
        : "die Optionsgruppe ist Pflicht, hat aber nur eine Auswahl",
    remedy: "Fügen Sie Auswahlen hinzu, oder entfernen Sie die Optionsgruppe.",
  },
  "check/surcharge": {
    says: (f) => `ein Aufpreis von ${f.surcharge} Prozent liegt über 100`,
    remedy: "Korrigieren Sie ihn. Ist es ein Betrag, setzen Sie „surchargeIs“ auf „amount“.",
  },
  "check/bundle-dearer": {
    says: (f) =>
      `das Set kostet ${betrag(f.price, f.currency)}, seine Bestandteile zusammen ${betrag(f.sum, f.currency)}`,
    remedy: "Korrigieren Sie den Preis, oder leiten Sie ihn aus der Summe ab.",
  },
  "check/bundle-lighter": {
    says: (f) => `das Set wiegt ${f.weight} kg, seine Bestandteile zusammen ${f.sum} kg`,
    remedy: "Korrigieren Sie das Gewicht, oder leiten Sie es aus der Summe ab.",
  },
  "check/members-and-rule": {
    says: () => "das Sortiment hat Mitglieder und eine Regel",
    remedy: "Entfernen Sie eines von beiden. Mit einer Regel ergeben sich die Mitglieder aus ihr.",
  },
  "check/empty-assortment": {
    says: () => "das Sortiment ist leer",
    remedy: "Geben Sie ihm Mitglieder oder eine Regel, oder entfernen Sie es.",
  },
  "check/property-type": {
    says: (f) => `${zitiert(f.value)} passt nicht zum Typ ${f.type}, den ${f.property} verlangt`,
    remedy: "Korrigieren Sie den Wert, oder den Typ der Eigenschaft.",
  },
  "check/least-above-most": {
    says: (f) => `${f.low} ist ${f.least}, also höher als ${f.high} (${f.most})`,
    remedy: "Korrigieren Sie eines von beiden.",
  },
  "check/ends-before": {
    says: (f) => `der Preis endet am ${f.until}, bevor er am ${f.from} beginnt`,
    remedy: "Korrigieren Sie eines der beiden Daten.",
  },
  "check/prices-overlap": {
    says: (f) =>
      `ein anderer Preis derselben Rolle (${f.role}) gilt zur selben Zeit (${f.from || "ohne Anfang"} bis ${f.until || "ohne Ende"})`,
    remedy: "Lassen Sie den einen enden, bevor der andere beginnt.",
  },
  "check/repeated-identifier": {
    says: (f) => `ein anderer Datensatz hat auch ${f.type} „${f.value}“`,
    remedy: "Korrigieren Sie eines von beiden.",
  },
  "check/picture-twice": {
    says: (f) => `das Bild „${f.file}“ steht zweimal mit derselben Rolle da`,
    remedy: "Entfernen Sie eines davon.",
  },
  "check/picture-position": {
    says: (f) => `die Bilder „${f.other}“ und „${f.file}“ haben beide die Position ${f.position}`,
    remedy: "Nummerieren Sie sie in der gewünschten Reihenfolge.",
  },
  "check/no-image-link": {
    says: (f) => `„${f.link}“ sieht nicht wie die Adresse eines Bildes aus`,
    remedy: "Geben Sie die Adresse des Bildes selbst an, nicht die einer Seite, die es zeigt.",
  },
  "check/component-twice": {
    says: (f) => `die Komponente „${f.component}“ ist zweimal aufgeführt`,
    remedy: "Entfernen Sie eine der beiden, und berichtigen Sie die Menge der anderen.",
  },
  "check/negative": { says: (f) => `${f.field} ist ${f.value}`, remedy: "Berichtigen Sie die Zahl." },
  "check/below-zero": {
    says: (f) => `${f.field} ist ${f.value}`,
    remedy: "Berichtigen Sie die Zahl, oder laden Sie sie hoch, wenn die Plattform unter null zählt.",
  },
  "check/zero": {
    says: (f) => `${f.field} ist ${f.value} und muss 1 oder mehr sein`,
    remedy: "Berichtigen Sie die Zahl, oder entfernen Sie sie.",
  },
  "check/for-nothing": {
    says: (f) => `${f.field} ist ${f.value}: es wird verschenkt`,
    remedy: "Berichtigen Sie die Zahl, wenn es nicht kostenlos ist.",
  },
  "check/no-amount": {
    says: (f) => `es gibt einen Eintrag ohne ${f.field}`,
    remedy: "Ergänzen Sie die Zahl, oder entfernen Sie, was die Zeile oder Zelle sonst für den Eintrag hat.",
  },
  "check/no-quantity": {
    says: (f) => `es gibt eine Komponente ohne ${f.field}`,
    remedy: "Ergänzen Sie die Zahl. Ohne sie nehmen die meisten Plattformen 1 an.",
  },
  "check/tiers-overlap": {
    says: (f) => `der Preis ab Menge ${f.from} beginnt, bevor der darunter endet (Menge ${f.end})`,
    remedy: "Lassen Sie den einen enden, bevor der andere beginnt.",
  },
  "check/look-alike-names": {
    says: (f) =>
      f.one === f.other
        ? `zwei Datensätze an einer Stelle (${art(f.kind)}) heißen ${zitiert(f.one)}`
        : `die Namen ${zitiert(f.one)} und ${zitiert(f.other)} (${art(f.kind)}) unterscheiden sich nur in Großschreibung, Leerzeichen oder einem Buchstaben`,
    remedy: "Schreiben Sie sie gleich, wenn sie dasselbe sind. Sonst brauchen Sie nichts zu tun.",
  },
  "check/look-alike-keys": {
    says: (f) =>
      `die Schlüssel ${zitiert(f.one)} und ${zitiert(f.other)} (${art(f.kind)}) unterscheiden sich nur in Großschreibung, Leerzeichen oder Akzenten`,
    remedy:
      "Schreiben Sie den Schlüssel auf allen Zeilen gleich, wenn es ein Datensatz ist. Die Zeilen der anderen Schreibweise wurden ein eigener Datensatz.",
  },
  "check/role-hidden": {
    says: (f) => `das Bild „${f.file}“ hat die Rolle ${f.role}, ist aber verborgen`,
    remedy: "Zeigen Sie es, oder geben Sie die Rolle einem anderen Bild.",
  },
  "check/picture-of-another": {
    says: (f) =>
      `das Bild „${f.file}“ hat hier die Rolle ${f.role}, steht aber unter den Bildern von „${f.of}“ und nicht unter diesen`,
    remedy: "Nennen Sie ein Bild dieses Datensatzes, oder nehmen Sie es unter seine Bilder auf.",
  },
  "check/picture-missing": {
    says: (f) => `es gibt keine Datei für das Bild „${f.file}“`,
    remedy: "Legen Sie die Datei in den Bilderordner, oder berichtigen Sie den Namen.",
  },
  "check/picture-refused": {
    says: (f) =>
      `es gibt keine Datei für das Bild „${f.file}“. ${f.refusedBy.join(", ")} ${f.refusedBy.length === 1 ? "lehnt" : "lehnen"} die Zeile ab`,
    remedy: "Legen Sie die Datei in den Bilderordner, oder berichtigen Sie den Namen.",
  },
};

/** The German of en/build.ts. */

import type { Translated } from "../definition.js";
import type { build as english } from "../en/build.js";
import { art, de, liste, zitiert } from "./wording.js";

function links(chain: readonly string[]): string {
  const more = chain.length - mostLinks;
  return more > 0 ? `${chain.slice(0, mostLinks).join(" › ")} › und ${more} weitere` : chain.join(" › ");
}
const mostLinks = 20;

export const build: Translated<typeof english> = {
  "findings/more": {
    says: (f) => `${f.more} weitere Befunde ${f.code} sind nicht aufgeführt`,
    remedy: "Beheben Sie die aufgeführten, und beginnen Sie von vorn.",
  },
  "plan/cycle": {
    says: (f) => `jeder dieser Datensätze braucht zuerst den nächsten: ${links(f.chain)}`,
    remedy: "Entfernen Sie einen der Verweise.",
  },
  "plan/no-order": {
    says: (f) => `${f.target} hat keine Reihenfolge, in der ${f.kinds.map(art).join(", ")} importiert werden können`,
    remedy: "Korrigieren Sie die Importe (imports) des Ziels.",
  },
  "rehearse/refused": {
    says: (f) => `${f.target} würde Zeile ${f.line} von ${f.file} ablehnen: ${f.reasons.join("; ")}`,
    remedy: "Korrigieren Sie die Quelle, oder lassen Sie den Datensatz mit --hold-back weg.",
  },
  "rehearse/file-refused": {
    says: (f) => `${f.target} würde die ganze Datei ablehnen: ${f.reason}`,
    remedy: "Korrigieren Sie, was abgelehnt wird, oder das Layout der Datei im Ziel.",
  },
  "rehearse/different": {
    says: (f) =>
      f.field === ""
        ? `${f.intended === undefined ? `${f.target} hätte einen Datensatz, der nicht gemeint ist` : `der Datensatz wäre nicht auf ${f.target}`}`
        : `in ${f.field} hätte ${f.target} ${f.actual === undefined ? "nichts" : zitiert(f.actual)} statt ${f.intended === undefined ? "nichts" : zitiert(f.intended)}`,
    remedy: "Korrigieren Sie die Quelle oder das Ziel, oder lassen Sie den Datensatz mit --hold-back weg.",
  },
  "plan/nothing-to-upload": {
    says: (f) => `es wurde kein Datensatz gelesen, den ${f.target} annimmt, also gibt es nichts hochzuladen`,
    remedy: "Prüfen Sie die Befunde zu den Quellen.",
  },
  "build/not-built": {
    says: () => "der Upload-Ordner hat diese Datei nicht, die das Projekt jetzt schreiben würde",
    remedy: "Führen Sie zuerst zest-tier build aus, mit denselben Optionen.",
  },
  "plan/late-link": {
    says: (f) =>
      `„${f.to}“ kommt erst nach diesem Datensatz, und ${f.target} hat keinen Import, der die Verknüpfung nachträgt`,
    remedy:
      "Entfernen Sie eine der Verknüpfungen, die im Kreis laufen, oder ergänzen Sie im Target einen Import, der sie nachträgt.",
  },
  "plan/too-large": {
    says: (f) => `das Produkt braucht ${f.rows} ${f.what} in einer Datei, eine Datei nimmt aber ${f.most}`,
    remedy: "Teilen Sie das Produkt.",
  },
  "build/held-back": {
    says: (f) => `der Datensatz wird zurückgehalten: ${de(f.because)}`,
    remedy: "Beheben Sie den Fehler, und bauen Sie noch einmal.",
  },
  "build/nothing-left": {
    says: (f) => `alles wird zurückgehalten (${de(f.held)}), also gibt es nichts hochzuladen`,
    remedy: "Beheben Sie, was die anderen Befunde nennen, und bauen Sie noch einmal.",
  },
  "build/link-left-out": {
    says: (f) => `der Verweis (${f.relation}) auf „${f.to}“ entfällt, weil „${f.to}“ zurückgehalten wird`,
    remedy: "Beheben Sie den Fehler im anderen Produkt, und bauen Sie noch einmal.",
  },
  "build/cannot-write": {
    says: (f) => `der Upload-Ordner kann nicht geschrieben werden: ${de(f.reason)}`,
    remedy: "Wählen Sie mit --upload einen Ordner, in den Sie schreiben dürfen.",
  },
  "build/folder-there": {
    says: () => "den Ordner gibt es schon, und Zest Tier hat ihn nicht geschrieben",
    remedy: "Wählen Sie mit --upload einen anderen Ordner, oder verschieben Sie diesen.",
  },
  "build/folder-of-other": {
    says: (f) => `das ist der Upload-Ordner eines anderen Projekts: ${zitiert(f.project)}`,
    remedy: "Wählen Sie mit --upload einen anderen Ordner, oder verschieben Sie diesen.",
  },
  "build/folder-has-others": {
    says: (f) =>
      `der Ordner enthält Dateien, die Zest Tier nicht geschrieben hat: ${liste(f.names.slice(0, 5).map(zitiert), f.names.length)}`,
    remedy: "Verschieben Sie diese Dateien. Ein Bau ersetzt den ganzen Ordner.",
  },
  "build/folder-link": {
    says: () =>
      "das ist eine Verknüpfung zu einem anderen Ordner. Ein Bau folgt Verknüpfungen nicht und ersetzt sie nicht",
    remedy: "Nennen Sie mit --upload den Ordner selbst, oder entfernen Sie die Verknüpfung.",
  },
  "io/cannot-write": {
    says: (f) => `die Datei kann nicht geschrieben werden: ${de(f.reason)}`,
    remedy: "Schaffen Sie Platz, oder schreiben Sie anderswohin. Keine Datei blieb halb geschrieben.",
  },
  "io/failed": {
    says: (f) => `die Datei kann nicht verwendet werden: ${de(f.reason)} (${f.action})`,
    remedy: "Prüfen Sie den Pfad, die Rechte und den Datenträger, und versuchen Sie es noch einmal.",
  },
  "io/locked": {
    says: (f) =>
      `ein anderer Lauf von Zest Tier verwendet dieses Projekt, dieses Verzeichnis oder diesen Upload-Ordner${f.pid === undefined ? "" : ` (Prozess ${f.pid} auf ${f.host})`}`,
    remedy: "Warten Sie, bis er beendet ist. Gibt es den Prozess nicht mehr, löschen Sie diese Datei.",
  },
};

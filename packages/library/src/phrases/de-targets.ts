/** Phrases of targets, in German. */

export const targetPhrasesDe = {
  "{0}: rows that list combinations cannot be rehearsed yet":
    "{0}: Zeilen, die Kombinationen aufzählen, lassen sich noch nicht proben",
  "{0}: what is not in the list {1} is refused": "{0}: was nicht in der Liste {1} steht, wird abgelehnt",
  '{0}: "{1}" cannot leave columns out where the header has to be as it is':
    "{0}: „{1}“ kann keine Spalten weglassen, wo die Kopfzeile sein muss, wie sie ist",
  '{0}: names within a {1} need "{2}"': "{0}: Namen innerhalb von {1} brauchen „{2}“",
  '{0}: without "{1}" an import would delete what it does not name: "{2}"':
    "{0}: ohne „{1}“ würde ein Import löschen, was er nicht nennt: „{2}“",
  '"{0}" is of "{1}", which does not tell entries apart. Its change would add an entry':
    "„{0}“ gehört zu „{1}“, woran sich Einträge nicht unterscheiden. Seine Änderung würde einen Eintrag hinzufügen",
  '"{0}" is not a column of entries': "„{0}“ ist keine Spalte von Einträgen",
  'no column of "{0}" is in the entry key': "keine Spalte von „{0}“ steht in „entry key“",
  '{0}: the column "{1}" tells what a row is, and cannot be left out':
    "{0}: Die Spalte „{1}“ sagt, was eine Zeile ist, und kann nicht weggelassen werden",
  '{0}: the column "{1}" is required, and cannot be left out':
    "{0}: Die Spalte „{1}“ ist nötig und kann nicht weggelassen werden",
  '{0}: "{1}" and "{2}" belong together. An import takes both':
    "{0}: „{1}“ und „{2}“ gehören zusammen. Ein Import nimmt beide",
  '{0}: "{1}" cannot leave columns out where there is no header':
    "{0}: „{1}“ kann keine Spalten weglassen, wo es keine Kopfzeile gibt",
  "{0}: a record cannot be created by its {1}": "{0}: ein Datensatz kann nicht über {1} angelegt werden",
  '{0}: "{1}" means nothing where a refusal costs the file':
    "{0}: „{1}“ bedeutet nichts, wo eine Ablehnung die Datei kostet",
  "{0}: no column says the {1} of a {2}": "{0}: keine Spalte nennt {1} von {2}",
  '{0}: "{1}" is for columns that name records': "{0}: „{1}“ ist für Spalten, die Datensätze nennen",
  "{0}: rows that are found by a column make no records":
    "{0}: Zeilen, die über eine Spalte gefunden werden, legen keine Datensätze an",
  '"{0}" of the column says what becomes of names that no record has':
    "„{0}“ der Spalte sagt, was aus Namen wird, die kein Datensatz hat",
  'the cells of {0} have no part "{1}"': "die Zellen von {0} haben keinen Teil „{1}“",
  '"{0}" is not for a part of a cell': "„{0}“ ist nicht für einen Teil einer Zelle",
  'it has to be above "{0}"': "der Wert muss über „{0}“ liegen",
  'it must not be below "{0}"': "der Wert darf nicht unter „{0}“ liegen",
  'it needs as many entries as "{0}"': "es braucht so viele Einträge wie „{0}“",
  'only products with {0} "{1}" have it': "nur Produkte mit {0} „{1}“ haben es",
  '{0}: "{1}" cannot be rehearsed yet in such a column':
    "{0}: „{1}“ lässt sich in einer solchen Spalte noch nicht proben",
  'a product has no text field "{0}"': "ein Produkt hat kein Textfeld „{0}“",
  "{0}: names that are created, or in a list, are not looked up":
    "{0}: Namen, die angelegt werden oder in einer Liste stehen, werden nicht nachgeschlagen",
  '{0}: the column refuses "{1}", and blank cells too':
    "{0}: die Spalte nimmt „{1}“ nicht an, und leere Zellen auch nicht",
  '{0}: "{1}" means nothing without "{2}"': "{0}: „{1}“ bedeutet nichts ohne „{2}“",
  '{0}: "{1}" is not for such a column': "{0}: „{1}“ ist nicht für eine solche Spalte",
  "at most {0} characters": "höchstens {0} Zeichen",
  '"{0}" cannot be rehearsed yet for such an import': "„{0}“ lässt sich für einen solchen Import noch nicht proben",
  '"{0}" is for files with one import': "„{0}“ ist für Dateien mit einem einzigen Import",
  '"{0}" is for a file in which each row is a record of one kind':
    "„{0}“ ist für eine Datei, in der jede Zeile ein Datensatz einer Art ist",
  "{0}: no other file gives the platform the keys of {1}":
    "{0}: Keine andere Datei gibt der Plattform die Schlüssel von {1}",
  '"{0}" does not tell which record is deleted. Leave it out of "columns"':
    "„{0}“ sagt nicht, welcher Datensatz gelöscht wird. Lassen Sie es aus „columns“ weg",
  '"{0}" needs a column that tells which record is deleted':
    "„{0}“ braucht eine Spalte, die sagt, welcher Datensatz gelöscht wird",
  '{0} has no import with "{1}"': "{0} hat keinen Import mit „{1}“",
  '"{0}" needs the name of an entry: {1}': "„{0}“ braucht den Namen eines Eintrags: {1}",
  '"{0}" is not a list: it cannot "{1}"': "„{0}“ ist keine Liste: „{1}“ geht nicht",
  '"{0}" leaves no record to the imports after it': "„{0}“ lässt den Importen danach keinen Datensatz",
  "Creates the {0} for which {1}. Nothing that they refer to comes later.":
    "Legt {0} an, für die gilt: {1}. Nichts, worauf sie verweisen, kommt später.",
  "the layout has no column with ids": "das Layout hat keine Spalte mit IDs",
  "no entry may occur twice": "kein Eintrag darf zweimal vorkommen",
  '"{other}" is for names of columns, and for items of a list':
    "„{other}“ ist für Namen von Spalten und für Listeneinträge",
  'no file has a column "{0}"': "keine Datei hat eine Spalte „{0}“",
  'the languages are those of the setting "{0}"': "die Sprachen sind die der Einstellung „{0}“",
  'the languages of "{0}" are missing': "die Sprachen von „{0}“ fehlen",
  '"{0}" is not a language of {1}': "„{0}“ ist keine Sprache von {1}",
  '"{0}" occurs twice': "„{0}“ kommt zweimal vor",
} as const;

/** The German of what can be done where a platform has no place for something. */

export const advicePhrasesDe = {
  "write the choices into the description, or make variants of those that change the price":
    "schreiben Sie die Auswahlen in die Beschreibung, oder machen Sie Varianten aus denen, die den Preis ändern",
  "name the components and their quantities in the description, and sell the bundle as a product":
    "nennen Sie Bestandteile und Mengen in der Beschreibung, und verkaufen Sie das Set als Produkt",
  "put its members into a category of that name": "nehmen Sie seine Mitglieder in eine Kategorie dieses Namens auf",
  "derive a line of the description from each property":
    "leiten Sie aus jeder Eigenschaft eine Zeile der Beschreibung ab",
  "set up redirects from the old addresses on the web server": "richten Sie die Weiterleitungen auf dem Webserver ein",
  "add the number to the description, or keep it in the ERP":
    "nehmen Sie die Nummer in die Beschreibung auf, oder bewahren Sie sie im ERP auf",
  "derive a line of the description from the measures": "leiten Sie aus den Maßen eine Zeile der Beschreibung ab",
  "leave it out of the upload, or show it to everybody": "lassen Sie es beim Upload weg, oder zeigen Sie es allen",
  "mention it in the description": "erwähnen Sie es in der Beschreibung",
  "keep it in the ERP, because a shop does not need it": "bewahren Sie es im ERP auf, ein Shop braucht es nicht",
  "derive the price from it while it is valid": "leiten Sie den Preis daraus ab, solange es gilt",
  "keep it in the ERP, because shoppers must not see it": "bewahren Sie es im ERP auf, Kunden dürfen es nicht sehen",
  "sell what has another price as a product of its own, or leave the price to the till":
    "verkaufen Sie, was einen anderen Preis hat, als eigenes Produkt, oder überlassen Sie den Preis der Kasse",
  "add up the quantities of all locations": "zählen Sie die Mengen aller Lagerorte zusammen",
  "put it among the pictures of the product": "nehmen Sie es unter die Bilder des Produkts auf",
  "name the related products in the description": "nennen Sie die verwandten Produkte in der Beschreibung",
  "the platform makes its own from the name": "die Plattform bildet es selbst aus dem Namen",
  "put it on a page of its own, or into the texts of its products":
    "stellen Sie es auf eine eigene Seite, oder in die Texte der Produkte",
  "upload the language to another account, if the platform offers that":
    "laden Sie die Sprache in ein eigenes Konto hoch, wenn die Plattform das bietet",
  "put such products into a category of their own": "nehmen Sie solche Produkte in eine eigene Kategorie auf",
} as const;

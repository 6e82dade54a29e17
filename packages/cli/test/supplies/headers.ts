/** How columns are called in files that suppliers send: whole words, abbreviations of merchandise systems, and what people type. */

import type { Tongue } from "./vocabulary.js";

/** What a column is about. */
export type About =
  | "article"
  | "group"
  | "parent"
  | "name"
  | "text"
  | "shortText"
  | "category"
  | "subcategory"
  | "brand"
  | "price"
  | "dealerPrice"
  | "was"
  | "cost"
  | "stock"
  | "weight"
  | "length"
  | "width"
  | "height"
  | "barcode"
  | "picture"
  | "colour"
  | "size"
  | "material"
  | "shown"
  | "from"
  | "part"
  | "pieces"
  | "related"
  | "sequence"
  | "categoryCode"
  | "categoryName"
  | "above"
  | "slug"
  // What has no field, or none that a supplier's word is enough for.
  | "customs"
  | "origin"
  | "remark"
  | "changed"
  | "buyer"
  | "storage";

export const headers: Readonly<Record<About, Readonly<Record<Tongue, readonly string[]>>>> = {
  article: {
    en: ["Item number", "SKU", "Art. no.", "Stock code", "ITEMNO", "Product code", "Our ref"],
    de: ["Artikelnummer", "Art.-Nr.", "ARTNR", "Bestell-Nr.", "Artikel", "Sachnummer", "ArtikelNo"],
    fr: ["Référence", "Réf.", "Code article", "REF_ART", "N° article"],
    es: ["Referencia", "Código", "Cód. artículo", "REF", "Nº artículo"],
    it: ["Codice", "Cod. articolo", "Riferimento", "COD_ART", "Codice articolo"],
    nl: ["Artikelnummer", "Art.nr.", "Bestelnummer", "ARTNR", "Artikelcode"],
    pl: ["Numer artykułu", "Indeks", "Kod produktu", "Nr kat.", "SYMBOL"],
  },
  group: {
    en: ["Style", "Model", "Family code", "Parent group", "Series no", "MODEL_ID"],
    de: ["Modell", "Modellnr.", "Serie", "Stammartikel", "Vatergruppe", "MODNR"],
    fr: ["Modèle", "Code modèle", "Gamme", "Série"],
    es: ["Modelo", "Cód. modelo", "Serie", "Gama"],
    it: ["Modello", "Cod. modello", "Serie", "Linea"],
    nl: ["Model", "Modelnummer", "Serie", "Hoofdartikel"],
    pl: ["Model", "Kod modelu", "Seria", "Grupa wariantów"],
  },
  parent: {
    en: ["Parent SKU", "Parent", "Main item", "Belongs to item"],
    de: ["Vaterartikel", "Gehört zu", "Hauptartikel", "Übergeordnete Art.-Nr."],
    fr: ["Article parent", "Parent", "Réf. parent"],
    es: ["Artículo padre", "Ref. padre", "Pertenece a"],
    it: ["Articolo padre", "Codice padre", "Appartiene a"],
    nl: ["Hoofdartikel", "Bovenliggend artikel", "Hoort bij"],
    pl: ["Produkt nadrzędny", "Indeks nadrzędny", "Należy do"],
  },
  name: {
    en: ["Product name", "Title", "Item description", "Name", "DESCR1", "Description 1"],
    de: ["Bezeichnung", "Artikelbezeichnung", "BEZ1", "Produktname", "Bezeichnung 1", "Titel"],
    fr: ["Désignation", "Libellé", "Nom du produit", "LIB_ART", "Intitulé"],
    es: ["Nombre", "Denominación", "Descripción corta", "Título", "DESC1"],
    it: ["Nome", "Denominazione", "Descrizione breve", "Titolo", "DESCR"],
    nl: ["Omschrijving", "Productnaam", "Naam", "OMSCHR1", "Titel"],
    pl: ["Nazwa", "Nazwa produktu", "NAZWA1", "Tytuł"],
  },
  text: {
    en: ["Description", "Long text", "Web text", "Product information", "LONGDESC"],
    de: ["Beschreibung", "Langtext", "Artikeltext", "Webtext", "Produktbeschreibung"],
    fr: ["Description", "Texte long", "Descriptif détaillé", "Texte web"],
    es: ["Descripción", "Descripción larga", "Texto web", "Texto"],
    it: ["Descrizione", "Descrizione estesa", "Testo web", "Testo lungo"],
    nl: ["Beschrijving", "Lange tekst", "Webtekst", "Producttekst"],
    pl: ["Opis", "Opis długi", "Tekst na stronę", "Opis produktu"],
  },
  shortText: {
    en: ["Short text", "Teaser"],
    de: ["Kurztext", "Anrisstext"],
    fr: ["Accroche", "Texte court"],
    es: ["Resumen", "Texto breve"],
    it: ["Riassunto", "Testo breve"],
    nl: ["Korte tekst", "Samenvatting"],
    pl: ["Krótki opis", "Skrót"],
  },
  category: {
    en: ["Category", "Product group", "Department", "Section", "Web category"],
    de: ["Kategorie", "Warengruppe", "Hauptgruppe", "Sortiment", "WGR"],
    fr: ["Catégorie", "Rayon", "Famille", "Univers"],
    es: ["Categoría", "Sección", "Familia"],
    it: ["Categoria", "Reparto", "Famiglia"],
    nl: ["Categorie", "Productgroep", "Afdeling"],
    pl: ["Kategoria", "Dział", "Grupa towarowa"],
  },
  subcategory: {
    en: ["Subcategory", "Sub group", "Category 2"],
    de: ["Unterkategorie", "Untergruppe", "Kategorie 2"],
    fr: ["Sous-catégorie", "Sous-famille"],
    es: ["Subcategoría", "Subfamilia"],
    it: ["Sottocategoria", "Sottofamiglia"],
    nl: ["Subcategorie", "Subgroep"],
    pl: ["Podkategoria", "Podgrupa"],
  },
  brand: {
    en: ["Brand", "Manufacturer", "Make", "Maker"],
    de: ["Marke", "Hersteller", "Fabrikat"],
    fr: ["Marque", "Fabricant"],
    es: ["Marca", "Fabricante"],
    it: ["Marca", "Marchio", "Produttore"],
    nl: ["Merk", "Fabrikant"],
    pl: ["Marka", "Producent"],
  },
  price: {
    en: ["Price", "RRP", "Retail price incl. VAT", "Unit price", "SALES_PRICE", "Price EUR"],
    de: ["Preis", "VK", "VK brutto", "UVP", "Listenpreis", "VKPR", "Preis in EUR"],
    fr: ["Prix", "Prix TTC", "PVC", "Prix de vente", "Tarif public"],
    es: ["Precio", "PVP", "Precio venta", "Tarifa"],
    it: ["Prezzo", "Prezzo di listino", "Prezzo al pubblico", "PREZZO_V"],
    nl: ["Prijs", "Verkoopprijs", "Adviesprijs", "VKP incl. btw"],
    pl: ["Cena", "Cena brutto", "Cena detaliczna", "CENA_SP"],
  },
  dealerPrice: {
    en: ["Dealer price", "Price dealers", "Wholesale"],
    de: ["Händlerpreis", "Preis Händler", "HEK"],
    fr: ["Prix revendeur", "Tarif revendeurs"],
    es: ["Precio distribuidor", "Precio mayorista"],
    it: ["Prezzo rivenditori", "Prezzo ingrosso"],
    nl: ["Dealerprijs", "Prijs dealers"],
    pl: ["Cena hurtowa", "Cena dla dealerów"],
  },
  was: {
    en: ["Old price", "Was", "Price before"],
    de: ["Alter Preis", "Statt-Preis", "Streichpreis"],
    fr: ["Prix barré", "Ancien prix"],
    es: ["Precio anterior", "Precio antes"],
    it: ["Prezzo precedente", "Vecchio prezzo"],
    nl: ["Oude prijs", "Van-prijs"],
    pl: ["Stara cena", "Cena przed"],
  },
  cost: {
    en: ["Cost price", "Purchase price", "Buying price", "COST"],
    de: ["EK", "Einkaufspreis", "EK netto", "EKPR"],
    fr: ["Prix d'achat", "PA HT", "Coût d'achat"],
    es: ["Precio de compra", "Coste"],
    it: ["Prezzo di acquisto", "Costo"],
    nl: ["Inkoopprijs", "Kostprijs"],
    pl: ["Cena zakupu", "Koszt zakupu"],
  },
  stock: {
    en: ["Stock", "Qty on hand", "Available", "Inventory", "QTY"],
    de: ["Bestand", "Lagerbestand", "Verfügbar", "Menge", "LAGERBEST"],
    fr: ["Stock", "Quantité", "Disponible", "Qté"],
    es: ["Existencias", "Stock", "Cantidad"],
    it: ["Giacenza", "Quantità", "Disponibilità"],
    nl: ["Voorraad", "Aantal", "Beschikbaar"],
    pl: ["Stan", "Ilość", "Stan magazynowy"],
  },
  weight: {
    en: ["Weight", "Weight kg", "Net weight (g)", "Gross wt kg"],
    de: ["Gewicht", "Gewicht kg", "Gewicht in g", "Nettogewicht (kg)"],
    fr: ["Poids", "Poids (kg)", "Poids en g"],
    es: ["Peso", "Peso kg", "Peso (g)"],
    it: ["Peso", "Peso (kg)", "Peso in g"],
    nl: ["Gewicht", "Gewicht (kg)", "Gewicht in g"],
    pl: ["Waga", "Waga kg", "Masa (g)"],
  },
  length: {
    en: ["Length", "Length cm", "L (cm)"],
    de: ["Länge", "Länge cm", "L (cm)"],
    fr: ["Longueur", "Longueur cm"],
    es: ["Largo", "Longitud cm"],
    it: ["Lunghezza", "Lunghezza cm"],
    nl: ["Lengte", "Lengte cm"],
    pl: ["Długość", "Długość cm"],
  },
  width: {
    en: ["Width", "Width cm", "W (cm)"],
    de: ["Breite", "Breite cm", "B (cm)"],
    fr: ["Largeur", "Largeur cm"],
    es: ["Ancho", "Anchura cm"],
    it: ["Larghezza", "Larghezza cm"],
    nl: ["Breedte", "Breedte cm"],
    pl: ["Szerokość", "Szerokość cm"],
  },
  height: {
    en: ["Height", "Height cm", "H (cm)"],
    de: ["Höhe", "Höhe cm", "H (cm)"],
    fr: ["Hauteur", "Hauteur cm"],
    es: ["Alto", "Altura cm"],
    it: ["Altezza", "Altezza cm"],
    nl: ["Hoogte", "Hoogte cm"],
    pl: ["Wysokość", "Wysokość cm"],
  },
  barcode: {
    en: ["EAN", "Barcode", "GTIN", "EAN code"],
    de: ["EAN", "GTIN", "EAN-Code", "Strichcode"],
    fr: ["EAN", "Code-barres", "Gencod"],
    es: ["EAN", "Código de barras"],
    it: ["EAN", "Codice a barre"],
    nl: ["EAN", "Streepjescode"],
    pl: ["EAN", "Kod kreskowy"],
  },
  picture: {
    en: ["Image", "Picture", "Photo file", "IMG"],
    de: ["Bild", "Bilddatei", "Foto", "Abbildung"],
    fr: ["Image", "Photo", "Fichier image"],
    es: ["Imagen", "Foto", "Fichero imagen"],
    it: ["Immagine", "Foto", "File immagine"],
    nl: ["Afbeelding", "Foto", "Beeld"],
    pl: ["Zdjęcie", "Obraz", "Plik zdjęcia"],
  },
  colour: {
    en: ["Colour", "Color", "Shade", "COL"],
    de: ["Farbe", "Farbton", "Ausführung"],
    fr: ["Couleur", "Coloris", "Teinte"],
    es: ["Color", "Tono"],
    it: ["Colore", "Tinta"],
    nl: ["Kleur", "Tint"],
    pl: ["Kolor", "Barwa"],
  },
  size: {
    en: ["Size", "Fit", "SZ"],
    de: ["Größe", "Gr.", "Maß"],
    fr: ["Taille", "Format"],
    es: ["Talla", "Tamaño"],
    it: ["Taglia", "Misura"],
    nl: ["Maat", "Formaat"],
    pl: ["Rozmiar", "Wielkość"],
  },
  material: {
    en: ["Material", "Made of", "Wood"],
    de: ["Material", "Werkstoff", "Holzart"],
    fr: ["Matière", "Matériau"],
    es: ["Material", "Materia"],
    it: ["Materiale", "Essenza"],
    nl: ["Materiaal", "Houtsoort"],
    pl: ["Materiał", "Tworzywo"],
  },
  shown: {
    en: ["Online", "Active", "On web", "Visible"],
    de: ["Aktiv", "Online", "Im Shop", "Sichtbar"],
    fr: ["Actif", "En ligne", "Visible"],
    es: ["Activo", "En línea", "Visible"],
    it: ["Attivo", "Online", "Visibile"],
    nl: ["Actief", "Online", "Zichtbaar"],
    pl: ["Aktywny", "Widoczny", "W sklepie"],
  },
  from: {
    en: ["From qty", "Min. quantity", "From"],
    de: ["Ab Menge", "ab Stück", "Staffel ab"],
    fr: ["À partir de", "Qté min."],
    es: ["A partir de", "Cant. mínima"],
    it: ["A partire da", "Q.tà minima"],
    nl: ["Vanaf", "Vanaf aantal"],
    pl: ["Od ilości", "Od sztuk"],
  },
  part: {
    en: ["Component", "Part", "Contains item"],
    de: ["Komponente", "Bestandteil", "Enthält Artikel"],
    fr: ["Composant", "Contient article"],
    es: ["Componente", "Contiene artículo"],
    it: ["Componente", "Contiene articolo"],
    nl: ["Onderdeel", "Bevat artikel"],
    pl: ["Składnik", "Zawiera produkt"],
  },
  pieces: {
    en: ["Pieces", "Quantity in set"],
    de: ["Anzahl", "Menge im Set"],
    fr: ["Nombre", "Quantité par lot"],
    es: ["Unidades", "Cantidad por lote"],
    it: ["Pezzi", "Quantità nel set"],
    nl: ["Stuks", "Aantal in set"],
    pl: ["Sztuk", "Ilość w zestawie"],
  },
  related: {
    en: ["Goes with", "Accessories", "See also"],
    de: ["Passt zu", "Zubehör", "Siehe auch"],
    fr: ["Va avec", "Accessoires"],
    es: ["Combina con", "Accesorios"],
    it: ["Si abbina a", "Accessori"],
    nl: ["Past bij", "Accessoires"],
    pl: ["Pasuje do", "Akcesoria"],
  },
  sequence: {
    en: ["Sort order", "Sequence", "Pos."],
    de: ["Sortierung", "Reihenfolge", "Pos."],
    fr: ["Ordre", "Rang"],
    es: ["Orden", "Posición"],
    it: ["Ordine", "Posizione"],
    nl: ["Volgorde", "Positie"],
    pl: ["Kolejność", "Pozycja"],
  },
  categoryCode: {
    en: ["Category ID", "Group code", "Node"],
    de: ["Kategorie-ID", "WG-Nr.", "Knoten"],
    fr: ["Code catégorie", "ID rayon"],
    es: ["Cód. categoría", "ID sección"],
    it: ["Cod. categoria", "ID reparto"],
    nl: ["Categorie-ID", "Groepscode"],
    pl: ["ID kategorii", "Kod działu"],
  },
  categoryName: {
    en: ["Category name", "Group name", "Label"],
    de: ["Kategoriename", "WG-Bezeichnung", "Name"],
    fr: ["Nom catégorie", "Libellé"],
    es: ["Nombre categoría", "Nombre"],
    it: ["Nome categoria", "Nome"],
    nl: ["Categorienaam", "Naam"],
    pl: ["Nazwa kategorii", "Nazwa"],
  },
  above: {
    en: ["Parent ID", "Upper group", "Below"],
    de: ["Eltern-ID", "Obergruppe", "Übergeordnet"],
    fr: ["Parent", "ID parent"],
    es: ["ID padre", "Superior"],
    it: ["ID padre", "Superiore"],
    nl: ["Bovenliggend", "Hoofdgroep"],
    pl: ["ID nadrzędne", "Nadrzędna"],
  },
  slug: {
    en: ["URL name", "Slug"],
    de: ["URL-Name", "Slug"],
    fr: ["URL"],
    es: ["URL amigable"],
    it: ["URL"],
    nl: ["URL-naam"],
    pl: ["Adres URL"],
  },
  customs: {
    en: ["Tariff code", "HS code"],
    de: ["Zolltarifnr.", "Warennummer"],
    fr: ["Code douanier"],
    es: ["Código arancelario"],
    it: ["Codice doganale"],
    nl: ["Goederencode"],
    pl: ["Kod CN"],
  },
  origin: {
    en: ["Country of origin", "Origin"],
    de: ["Ursprungsland", "Herkunft"],
    fr: ["Pays d'origine"],
    es: ["País de origen"],
    it: ["Paese di origine"],
    nl: ["Land van herkomst"],
    pl: ["Kraj pochodzenia"],
  },
  remark: {
    en: ["Internal note", "Remarks"],
    de: ["Bemerkung intern", "Notiz"],
    fr: ["Remarque interne"],
    es: ["Nota interna"],
    it: ["Nota interna"],
    nl: ["Interne notitie"],
    pl: ["Uwagi"],
  },
  changed: {
    en: ["Last changed", "Date modified"],
    de: ["Letzte Änderung", "Änderungsdatum"],
    fr: ["Modifié le"],
    es: ["Fecha de cambio"],
    it: ["Data modifica"],
    nl: ["Gewijzigd op"],
    pl: ["Data zmiany"],
  },
  buyer: {
    en: ["Buyer", "Resp."],
    de: ["Einkäufer", "SB"],
    fr: ["Acheteur"],
    es: ["Comprador"],
    it: ["Addetto"],
    nl: ["Inkoper"],
    pl: ["Kupiec"],
  },
  storage: {
    en: ["Bin", "Shelf place"],
    de: ["Lagerplatz", "Regalplatz"],
    fr: ["Emplacement"],
    es: ["Ubicación"],
    it: ["Ubicazione"],
    nl: ["Magazijnplaats"],
    pl: ["Miejsce"],
  },
};

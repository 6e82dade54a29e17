/** What made-up suppliers sell, and how they write of it in seven languages. */

export type Tongue = "en" | "de" | "fr" | "es" | "it" | "nl" | "pl";
export const tongues: readonly Tongue[] = ["en", "de", "fr", "es", "it", "nl", "pl"];

export interface Vocabulary {
  readonly goods: readonly string[];
  readonly qualities: readonly string[];
  readonly colours: readonly string[];
  readonly materials: readonly string[];
  /** A department, and what it is divided into. */
  readonly shelves: Readonly<Record<string, readonly string[]>>;
  /** Sentences about a good; `*` stands for it. */
  readonly sentences: readonly string[];
  readonly yes: string;
  readonly no: string;
}

export const vocabularies: Readonly<Record<Tongue, Vocabulary>> = {
  en: {
    goods: [
      "Lantern",
      "Basket",
      "Apron",
      "Kettle",
      "Blanket",
      "Stool",
      "Brush",
      "Jar",
      "Candle holder",
      "Watering can",
    ],
    qualities: ["small", "large", "woven", "folding", "plain", "striped", "tall", "round"],
    colours: ["Red", "Dark green", "Black", "White", "Slate", "Mustard"],
    materials: ["Oak", "Beech", "Linen", "Steel", "Copper", "Clay"],
    shelves: {
      Kitchen: ["Cooking", "Storing"],
      Garden: ["Watering", "Sowing"],
      Home: ["Light", "Textiles", "Seating"],
    },
    sentences: [
      "The * is made by hand and lasts for many years.",
      "It is easy to clean with warm water.",
      "Comes in a box with a short manual.",
      "For use in the house and outside.",
    ],
    yes: "yes",
    no: "no",
  },
  de: {
    goods: ["Laterne", "Korb", "Schürze", "Kessel", "Decke", "Hocker", "Bürste", "Glas", "Kerzenhalter", "Gießkanne"],
    qualities: ["klein", "groß", "geflochten", "klappbar", "schlicht", "gestreift", "hoch", "rund"],
    colours: ["Rot", "Dunkelgrün", "Schwarz", "Weiß", "Schiefer", "Senfgelb"],
    materials: ["Eiche", "Buche", "Leinen", "Stahl", "Kupfer", "Ton"],
    shelves: { Küche: ["Kochen", "Aufbewahren"], Garten: ["Gießen", "Säen"], Wohnen: ["Licht", "Textilien", "Sitzen"] },
    sentences: [
      "Das Stück * ist von Hand gemacht und hält viele Jahre.",
      "Es lässt sich mit warmem Wasser leicht reinigen.",
      "Wird in einem Karton mit kurzer Anleitung geliefert.",
      "Für drinnen und draußen geeignet.",
    ],
    yes: "ja",
    no: "nein",
  },
  fr: {
    goods: [
      "Lanterne",
      "Panier",
      "Tablier",
      "Bouilloire",
      "Couverture",
      "Tabouret",
      "Brosse",
      "Bocal",
      "Bougeoir",
      "Arrosoir",
    ],
    qualities: ["petit", "grand", "tressé", "pliant", "uni", "rayé", "haut", "rond"],
    colours: ["Rouge", "Vert foncé", "Noir", "Blanc", "Ardoise", "Moutarde"],
    materials: ["Chêne", "Hêtre", "Lin", "Acier", "Cuivre", "Argile"],
    shelves: {
      Cuisine: ["Cuisson", "Rangement"],
      Jardin: ["Arrosage", "Semis"],
      Maison: ["Lumière", "Textiles", "Assises"],
    },
    sentences: [
      "Cet article * est fait à la main et dure de longues années.",
      "Il se nettoie facilement à l'eau tiède.",
      "Livré dans une boîte avec une notice courte.",
      "Pour la maison et pour le jardin.",
    ],
    yes: "oui",
    no: "non",
  },
  es: {
    goods: [
      "Farol",
      "Cesta",
      "Delantal",
      "Hervidor",
      "Manta",
      "Taburete",
      "Cepillo",
      "Tarro",
      "Portavelas",
      "Regadera",
    ],
    qualities: ["pequeño", "grande", "trenzado", "plegable", "liso", "rayado", "alto", "redondo"],
    colours: ["Rojo", "Verde oscuro", "Negro", "Blanco", "Pizarra", "Mostaza"],
    materials: ["Roble", "Haya", "Lino", "Acero", "Cobre", "Barro"],
    shelves: { Cocina: ["Cocción", "Guardado"], Jardín: ["Riego", "Siembra"], Hogar: ["Luz", "Textiles", "Asientos"] },
    sentences: [
      "El artículo * está hecho a mano y dura muchos años.",
      "Se limpia con facilidad con agua tibia.",
      "Se entrega en una caja con instrucciones breves.",
      "Para usar dentro y fuera de la casa.",
    ],
    yes: "sí",
    no: "no",
  },
  it: {
    goods: [
      "Lanterna",
      "Cesto",
      "Grembiule",
      "Bollitore",
      "Coperta",
      "Sgabello",
      "Spazzola",
      "Barattolo",
      "Candeliere",
      "Annaffiatoio",
    ],
    qualities: ["piccolo", "grande", "intrecciato", "pieghevole", "semplice", "a righe", "alto", "rotondo"],
    colours: ["Rosso", "Verde scuro", "Nero", "Bianco", "Ardesia", "Senape"],
    materials: ["Rovere", "Faggio", "Lino", "Acciaio", "Rame", "Argilla"],
    shelves: {
      Cucina: ["Cottura", "Conservazione"],
      Giardino: ["Irrigazione", "Semina"],
      Casa: ["Luce", "Tessili", "Sedute"],
    },
    sentences: [
      "L'articolo * è fatto a mano e dura molti anni.",
      "Si pulisce facilmente con acqua tiepida.",
      "Viene fornito in una scatola con brevi istruzioni.",
      "Per la casa e per l'esterno.",
    ],
    yes: "sì",
    no: "no",
  },
  nl: {
    goods: ["Lantaarn", "Mand", "Schort", "Ketel", "Deken", "Kruk", "Borstel", "Pot", "Kandelaar", "Gieter"],
    qualities: ["klein", "groot", "gevlochten", "opvouwbaar", "effen", "gestreept", "hoog", "rond"],
    colours: ["Rood", "Donkergroen", "Zwart", "Wit", "Leisteen", "Mosterd"],
    materials: ["Eiken", "Beuken", "Linnen", "Staal", "Koper", "Klei"],
    shelves: { Keuken: ["Koken", "Bewaren"], Tuin: ["Gieten", "Zaaien"], Wonen: ["Verlichting", "Textiel", "Zitten"] },
    sentences: [
      "Dit artikel * is met de hand gemaakt en gaat jaren mee.",
      "Het is met warm water makkelijk schoon te maken.",
      "Wordt geleverd in een doos met een korte handleiding.",
      "Voor binnen en voor buiten.",
    ],
    yes: "ja",
    no: "nee",
  },
  pl: {
    goods: ["Latarnia", "Koszyk", "Fartuch", "Czajnik", "Koc", "Stołek", "Szczotka", "Słoik", "Świecznik", "Konewka"],
    qualities: ["mały", "duży", "pleciony", "składany", "gładki", "w paski", "wysoki", "okrągły"],
    colours: ["Czerwony", "Ciemnozielony", "Czarny", "Biały", "Łupkowy", "Musztardowy"],
    materials: ["Dąb", "Buk", "Len", "Stal", "Miedź", "Glina"],
    shelves: {
      Kuchnia: ["Gotowanie", "Przechowywanie"],
      Ogród: ["Podlewanie", "Siew"],
      Dom: ["Światło", "Tkaniny", "Siedziska"],
    },
    sentences: [
      "Produkt * jest wykonany ręcznie i służy przez wiele lat.",
      "Można go łatwo umyć ciepłą wodą.",
      "Dostarczany w pudełku z krótką instrukcją.",
      "Do domu i na zewnątrz.",
    ],
    yes: "tak",
    no: "nie",
  },
};

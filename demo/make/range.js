/**
 * The range of Bramblecomb Bee Supply, as the demo's files are made from it. All of it is made up.
 *
 * One line a product: key, stem of its codes, English and German name, shelves, maker, price, kilograms, features. Texts below.
 */

const wood = ["Wood", ["Cedar", "Pine", "Larch", "Spruce"]];
const size = (...sizes) => ["Size", sizes];
const pack = (...packs) => ["Pack", packs];

export const categories = [
  // id, parent, English, German
  ["hives", "", "Hives", "Beuten"],
  ["hives-full", "hives", "Complete hives", "Komplette Beuten"],
  ["hives-parts", "hives", "Boxes + floors", "Zargen + Böden"],
  ["hives-boxes", "hives-parts", "Brood boxes and supers", "Brut- und Honigräume"],
  ["hives-floors", "hives-parts", "Floors and roofs", "Böden und Deckel"],
  ["hives-see", "hives", "Observation hives", "Schaubeuten"],
  ["frames", "", "Frames", "Rähmchen"],
  ["frames-brood", "frames", "Brood frames", "Bruträhmchen"],
  ["frames-brood-deep", "frames-brood", "Deep 14×12/35", "Hoch 14×12/35"],
  ["frames-super", "frames", "Super frames", "Honigrähmchen"],
  ["frames-wax", "frames", "Foundation", "Mittelwände"],
  ["honey", "", "Honey", "Honig"],
  ["honey-out", "honey", "Extraction", "Schleudern"],
  ["honey-out-machines", "honey-out", "Extractors", "Honigschleudern"],
  ["honey-out-hand", "honey-out-machines", "Hand-driven", "Handantrieb"],
  ["honey-out-motor", "honey-out-machines", "Motor-driven", "Motorantrieb"],
  ["honey-out-tools", "honey-out", "Uncapping", "Entdeckeln"],
  ["honey-fill", "honey", "Filling", "Abfüllen"],
  ["honey-fill-jars", "honey-fill", "Jars", "Gläser"],
  ["honey-fill-glass", "honey-fill-jars", "Glass jars", "Honiggläser"],
  ["honey-fill-hex", "honey-fill-glass", "Six-sided", "Sechseckig"],
  ["honey-fill-lids", "honey-fill-jars", "Lids", "Deckel"],
  ["honey-fill-labels", "honey-fill", "Labels", "Etiketten"],
  ["wear", "", "Clothing", "Kleidung"],
  ["wear-suits", "wear", "Suits and jackets", "Anzüge und Jacken"],
  ["wear-hands", "wear", "Gloves", "Handschuhe"],
  ["wear-veils", "wear", "Veils", "Schleier"],
  ["tools", "", "Tools", "Werkzeug"],
  ["tools-smoke", "tools", "Smokers", "Smoker"],
  ["tools-hand", "tools", "Hive tools", "Stockmeißel"],
  ["queens", "", "Queen rearing", "Königinnenzucht"],
  ["queens-graft", "queens", "Grafting", "Umlarven"],
  ["queens-cage", "queens", "Cages", "Käfige"],
  ["queens-mate", "queens", "Mating hives", "Begattungskästchen"],
  ["care", "", "Bee care", "Bienenpflege"],
  ["care-feed", "care", "Feeding", "Füttern"],
  ["care-feed-in", "care-feed", "Feeders", "Futtergeschirr"],
  ["care-mite", "care", "Against mites", "Gegen Milben"],
  ["home", "", "Wax and gifts", "Wachs und Geschenke"],
  ["home-candles", "home", "Candle moulds", "Kerzenformen"],
  ["home-books", "home", "Books", "Bücher"],
];

/** Words of features in German; values that are the same in both languages are left out. */
export const words = {
  Wood: ["Holz", { Cedar: "Zeder", Pine: "Kiefer", Larch: "Lärche", Spruce: "Fichte" }],
  Size: ["Größe", { Small: "Klein", Medium: "Mittel", Large: "Groß", "Extra large": "Sehr groß", Child: "Kind" }],
  Pack: ["Packung", { Single: "Einzeln", "10 pieces": "10 Stück", "12 pieces": "12 Stück", "50 pieces": "50 Stück", "72 pieces": "72 Stück", "100 pieces": "100 Stück" }],
  Volume: ["Inhalt", {}],
  Lid: ["Deckel", { Gold: "Gold", White: "Weiß", Honeycomb: "Wabenmuster" }],
  Colour: ["Farbe", { White: "Weiß", Khaki: "Khaki", Yellow: "Gelb", Blue: "Blau", Red: "Rot", Green: "Grün" }],
  Material: ["Material", { Goatskin: "Ziegenleder", Cowhide: "Rindsleder", Nitrile: "Nitril", "Stainless steel": "Edelstahl", Copper: "Kupfer", Beech: "Buche" }],
  Fit: ["Beutenmaß", { "10 frames": "10 Waben", "12 frames": "12 Waben" }],
  Drive: ["Antrieb", { Crank: "Kurbel", "Motor 230 V": "Motor 230 V" }],
  Hanging: ["Aufhängung", { "Short lugs": "Kurze Ohren", "Long lugs": "Lange Ohren" }],
  Finish: ["Oberfläche", { Raw: "Roh", Oiled: "Geölt" }],
};

const P = (key, stem, en, de, shelves, maker, price, kg, features = [], extra = {}) => ({ key, stem, en, de, shelves, maker, price, kg, features, ...extra });
const own = "Bramblecomb";
const thorn = "Thornapple Joinery";
const glim = "Glimmer & Sons";
const reed = "Reedmace Works";

export const products = [
  P("orchard-hive", "OH", "Orchard hive", "Obstgarten-Beute", ["hives-full"], thorn, 189, 14.2, [wood, ["Finish", ["Raw", "Oiled"]]], { goes: ["hive-stand", "frame-deep"], before: 209, text: "A whole hive: floor, brood box, two supers and a roof that keeps the rain out. Joints are glued and pinned.", texte: "Eine ganze Beute: Boden, Brutraum, zwei Honigräume und ein Deckel, der den Regen abhält. Verleimt und gestiftet." }),
  P("meadow-hive", "MH", "Meadow hive", "Wiesen-Beute", ["hives-full"], thorn, 164, 12.8, [wood], { goes: ["hive-stand"], text: "The light hive for those who carry their bees to the meadow.", texte: "Die leichte Beute für alle, die ihre Bienen auf die Wiese tragen." }),
  P("hillside-hive", "HH", "Hillside hive", "Hang-Beute", ["hives-full"], thorn, 219, 16.5, [wood, ["Fit", ["10 frames", "12 frames"]]], { goes: ["orchard-hive"], text: "Wide and low, it stands firm on a slope.", texte: "Breit und niedrig: steht sicher am Hang." }),
  P("glass-hive", "GH", "Classroom hive", "Klassenzimmer-Beute", ["hives-see"], reed, 342, 9.4, [], { text: "Two panes, one colony, thirty children: nobody gets stung.", texte: "Zwei Scheiben, ein Volk, dreißig Kinder: niemand wird gestochen." }),
  P("brood-box", "BB", "Brood box", "Brutraum", ["hives-boxes"], thorn, 46.5, 4.1, [wood, ["Fit", ["10 frames", "12 frames"]]], { goes: ["frame-deep", "super-box"], club: [[5, 43], [10, 39.9]], text: "Dovetailed at the corners, ready for frames.", texte: "An den Ecken gezinkt, fertig für Rähmchen." }),
  P("super-box", "SB", "Super", "Honigraum", ["hives-boxes"], thorn, 34.9, 2.9, [wood, ["Fit", ["10 frames", "12 frames"]]], { goes: ["brood-box", "frame-shallow"], club: [[5, 32.5], [10, 29.9]], text: "The storey that you will want one more of.", texte: "Das Stockwerk, von dem man immer eines mehr braucht." }),
  P("mesh-floor", "FM", "Mesh floor", "Gitterboden", ["hives-floors", "care-mite"], thorn, 28.4, 2.2, [wood], { spares: ["mite-drawer"], text: "Fresh air from below, and a drawer to count mites.", texte: "Frische Luft von unten und eine Schublade zum Milbenzählen." }),
  P("mite-drawer", "MD", "Drawer for the mesh floor", "Schublade zum Gitterboden", ["hives-floors"], own, 7.9, 0.4, [], { text: "White, with a grid, for counting.", texte: "Weiß, mit Raster, zum Auszählen." }),
  P("gable-roof", "RG", "Gable roof", "Satteldach", ["hives-floors"], thorn, 52, 5.3, [wood], { goes: ["orchard-hive"], text: "For hives that are looked at.", texte: "Für Beuten, die man ansieht." }),
  P("flat-roof", "RF", "Flat roof", "Flachdach", ["hives-floors"], thorn, 31, 3.6, [], { text: "Sheet metal over plywood; stacks.", texte: "Blech auf Sperrholz; stapelbar." }),
  P("crown-board", "CB", "Crown board", "Innendeckel", ["hives-floors"], thorn, 16.8, 1.3, [["Fit", ["10 frames", "12 frames"]]], { text: "With two holes for feeders.", texte: "Mit zwei Löchern für Futtergeschirr." }),
  P("queen-excluder", "QE", "Queen excluder", "Absperrgitter", ["hives-boxes"], reed, 14.2, 0.6, [["Material", ["Stainless steel", "Copper"]]], { text: "Wire that lets workers by, and nobody else.", texte: "Draht, an dem nur Arbeiterinnen vorbeikommen." }),
  P("hive-stand", "ST", "Hive stand", "Beutenständer", ["hives-full", "hives-floors"], thorn, 39, 4.8, [wood], { goes: ["orchard-hive", "meadow-hive"], text: "Knee-high, for the sake of your back.", texte: "Kniehoch, dem Rücken zuliebe." }),
  P("hive-strap", "HS", "Hive strap", "Beutengurt", ["hives-full"], own, 8.5, 0.3, [["Colour", ["Yellow", "Blue", "Green"]]], { club: [[10, 7.2]], text: "Five metres with a buckle that holds.", texte: "Fünf Meter, mit einer Schnalle, die hält." }),
  P("frame-deep", "FD", "Deep frame", "Hohes Rähmchen", ["frames-brood-deep"], thorn, 2.1, 0.22, [["Hanging", ["Short lugs", "Long lugs"]], pack("Single", "10 pieces", "50 pieces", "100 pieces")], { goes: ["wax-deep"], packPrices: true, text: "In parts, with nails.", texte: "In Teilen, mit Nägeln." }),
  P("frame-brood", "FB", "Brood frame", "Bruträhmchen", ["frames-brood"], thorn, 1.9, 0.2, [["Hanging", ["Short lugs", "Long lugs"]], pack("Single", "10 pieces", "50 pieces", "100 pieces")], { goes: ["wax-brood"], packPrices: true, text: "The usual frame, in parts, with nails.", texte: "Das übliche Rähmchen, in Teilen, mit Nägeln." }),
  P("frame-shallow", "FS", "Super frame", "Honigrähmchen", ["frames-super"], thorn, 1.7, 0.16, [["Hanging", ["Short lugs", "Long lugs"]], pack("Single", "10 pieces", "50 pieces", "100 pieces")], { goes: ["wax-super"], packPrices: true, text: "Shallow, so that a full super can be lifted.", texte: "Flach, damit ein voller Honigraum zu heben ist." }),
  P("wax-deep", "WD", "Wired foundation, deep", "Mittelwand, hoch", ["frames-wax"], glim, 1.95, 0.11, [pack("10 pieces", "50 pieces")], { packPrices: true, text: "Rolled from our customers' wax.", texte: "Gewalzt aus dem Wachs unserer Kundschaft." }),
  P("wax-brood", "WB", "Wired foundation, brood", "Mittelwand, Brut", ["frames-wax"], glim, 1.75, 0.09, [pack("10 pieces", "50 pieces")], { packPrices: true, text: "Rolled from our customers' wax.", texte: "Gewalzt aus dem Wachs unserer Kundschaft." }),
  P("wax-super", "WS", "Thin foundation, super", "Dünne Mittelwand", ["frames-wax"], glim, 1.35, 0.06, [pack("10 pieces", "50 pieces")], { packPrices: true, text: "Thin enough for comb honey.", texte: "Dünn genug für Wabenhonig." }),
  P("frame-jig", "FJ", "Frame jig", "Rähmchen-Lehre", ["frames", "tools-hand"], thorn, 44, 3.1, [], { goes: ["frame-deep", "frame-brood"], text: "Ten frames at a time, all square.", texte: "Zehn Rähmchen auf einmal, alle im Winkel." }),
  P("frame-nails", "FN", "Frame nails", "Rähmchennägel", ["frames"], own, 3.4, 0.25, [["Size", ["19 mm", "25 mm"]]], { text: "A quarter of a kilogram.", texte: "Ein Viertelkilo." }),
  P("spinner-two", "X2", "Two-frame extractor", "Zwei-Waben-Schleuder", ["honey-out-hand"], reed, 289, 13, [], { goes: ["uncapping-fork", "twin-sieve"], before: 319, text: "For the first harvest, and for a good many after it.", texte: "Für die erste Ernte und viele danach." }),
  P("spinner-four", "X4", "Four-frame extractor", "Vier-Waben-Schleuder", ["honey-out-hand", "honey-out-motor"], reed, 459, 19.5, [["Drive", ["Crank", "Motor 230 V"]]], { goes: ["twin-sieve"], text: "Crank today, motor later: the frame is the same.", texte: "Heute Kurbel, später Motor: Der Rahmen ist derselbe." }),
  P("spinner-nine", "X9", "Nine-frame extractor", "Neun-Waben-Schleuder", ["honey-out-motor"], reed, 1149, 38, [], { text: "Turns by itself and stops by itself.", texte: "Dreht von selbst und hält von selbst." }),
  P("uncapping-fork", "UF", "Uncapping fork", "Entdeckelungsgabel", ["honey-out-tools"], reed, 11.9, 0.12, [["Material", ["Stainless steel", "Beech"]]], { text: "Straight tines, a handle that does not turn.", texte: "Gerade Zinken, ein Griff, der sich nicht dreht." }),
  P("uncapping-bath", "UB", "Uncapping bath", "Entdeckelungswanne", ["honey-out-tools"], reed, 98, 4.4, [], { goes: ["uncapping-fork"], text: "With a rest for frames and a tap.", texte: "Mit Wabenauflage und Hahn." }),
  P("twin-sieve", "TS", "Twin sieve", "Doppelsieb", ["honey-out-tools"], reed, 27.5, 0.8, [["Size", ["21 cm", "28 cm"]]], { text: "Coarse above, fine below.", texte: "Oben grob, unten fein." }),
  P("settling-tank", "TK", "Settling tank", "Abfüllbehälter", ["honey-fill"], reed, 79, 3.2, [["Volume", ["25 l", "50 l", "100 l"]]], { goes: ["round-jar"], text: "With a tap that does not drip.", texte: "Mit einem Hahn, der nicht tropft." }),
  P("round-jar", "JR", "Round honey jar", "Rundes Honigglas", ["honey-fill-glass"], glim, 0.52, 0.19, [["Volume", ["125 ml", "250 ml", "500 ml"]], ["Lid", ["Gold", "White", "Honeycomb"]], pack("Single", "12 pieces", "72 pieces")], { goes: ["jar-label"], packPrices: true, club: [[20, 0.9]], text: "Wide at the neck, easy to fill and to wash.", texte: "Weiter Hals: leicht zu füllen und zu spülen." }),
  P("hex-jar", "JH", "Six-sided honey jar", "Sechseckiges Honigglas", ["honey-fill-hex"], glim, 0.68, 0.21, [["Volume", ["45 ml", "190 ml", "380 ml"]], ["Lid", ["Gold", "White", "Honeycomb"]], pack("Single", "12 pieces", "72 pieces")], { skip: (v) => v.includes("45 ml") && v.includes("Honeycomb"), goes: ["jar-label"], packPrices: true, text: "Six sides, like the comb; stands close in a box.", texte: "Sechs Seiten wie die Wabe; steht dicht im Karton." }),
  P("jar-lids", "LD", "Spare lids", "Ersatzdeckel", ["honey-fill-lids"], glim, 0.14, 0.012, [["Lid", ["Gold", "White", "Honeycomb"]], pack("12 pieces", "100 pieces")], { packPrices: true, text: "63 mm, with a seal.", texte: "63 mm, mit Dichtung." }),
  P("jar-label", "LB", "Honey labels", "Honigetiketten", ["honey-fill-labels"], own, 6.9, 0.1, [["Colour", ["Yellow", "White", "Green"]], pack("50 pieces", "100 pieces")], { text: "Gummed; room for your name and the year.", texte: "Gummiert; mit Platz für Namen und Jahr." }),
  P("seal-strip", "SL", "Jar seals", "Glassiegel", ["honey-fill-labels"], own, 4.4, 0.05, [pack("100 pieces")], { goes: ["jar-label"], text: "Shows that nobody was at the honey.", texte: "Zeigt, dass niemand am Honig war." }),
  P("honey-bucket", "BK", "Honey bucket", "Honigeimer", ["honey-fill"], reed, 5.6, 0.42, [["Volume", ["5 l", "12 l", "25 l"]]], { club: [[10, 4.9], [50, 4.2]], text: "With a lid that seals and a handle that stays on.", texte: "Mit dichtem Deckel und festem Henkel." }),
  P("stirring-rod", "SR", "Creaming rod", "Rührstab", ["honey-fill"], reed, 32, 0.9, [["Material", ["Stainless steel", "Beech"]]], { text: "For an hour a day until it is creamy.", texte: "Eine Stunde am Tag, bis er cremig ist." }),
  P("full-suit", "SU", "Full suit", "Imkeranzug", ["wear-suits"], own, 96, 1.4, [["Size", ["Small", "Medium", "Large", "Extra large"]], ["Colour", ["White", "Khaki"]]], { goes: ["long-gloves"], spares: ["round-veil"], before: 119, text: "Cotton, with a veil on a zip.", texte: "Baumwolle, mit Schleier am Reißverschluss." }),
  P("half-jacket", "JK", "Jacket with veil", "Jacke mit Schleier", ["wear-suits"], own, 64, 0.9, [["Size", ["Small", "Medium", "Large", "Extra large"]], ["Colour", ["White", "Khaki"]]], { goes: ["long-gloves"], spares: ["round-veil"], text: "For a quick look.", texte: "Für den schnellen Blick." }),
  P("child-suit", "SC", "Child's suit", "Kinderanzug", ["wear-suits"], own, 58, 0.7, [["Size", ["110", "128", "146"]]], { text: "Grows with them: the legs let out.", texte: "Wächst mit: Die Beine lassen sich auslassen." }),
  P("long-gloves", "GL", "Long gloves", "Lange Handschuhe", ["wear-hands"], own, 22.5, 0.25, [["Size", ["7", "8", "9", "10", "11"]], ["Material", ["Goatskin", "Cowhide"]]], { goes: ["full-suit"], text: "Cuffs to the elbow.", texte: "Stulpen bis zum Ellbogen." }),
  P("thin-gloves", "GN", "Thin gloves", "Dünne Handschuhe", ["wear-hands"], own, 9.9, 0.3, [["Size", ["7", "8", "9", "10"]]], { text: "A hundred nitrile gloves; blue, so that a torn one is found.", texte: "Hundert Nitrilhandschuhe; blau, damit man einen gerissenen findet." }),
  P("round-veil", "VR", "Round veil", "Runder Schleier", ["wear-veils"], own, 18, 0.2, [], { text: "Black before the eyes, white elsewhere.", texte: "Schwarz vor den Augen, sonst weiß." }),
  P("square-veil", "VS", "Folding veil", "Faltschleier", ["wear-veils"], own, 24, 0.35, [], { text: "Folds flat for the pocket of a rucksack.", texte: "Flach faltbar für die Rucksacktasche." }),
  P("smoker", "SM", "Smoker", "Smoker", ["tools-smoke"], reed, 33, 0.95, [["Size", ["Small", "Large"]], ["Material", ["Stainless steel", "Copper"]]], { goes: ["smoker-fuel"], spares: ["smoker-bellows"], text: "Draws well, even with damp hay.", texte: "Zieht gut, auch mit feuchtem Heu." }),
  P("smoker-bellows", "SW", "Bellows for the smoker", "Blasebalg zum Smoker", ["tools-smoke"], reed, 9.5, 0.2, [["Size", ["Small", "Large"]]], { text: "Leather, with screws.", texte: "Leder, mit Schrauben." }),
  P("smoker-fuel", "SF", "Smoker fuel", "Smokerstoff", ["tools-smoke"], own, 7.2, 1, [], { goes: ["smoker"], text: "Pressed lavender stalks; one kilogram.", texte: "Gepresste Lavendelstängel; ein Kilo." }),
  P("hive-tool", "HT", "Hive tool", "Stockmeißel", ["tools-hand"], reed, 13.5, 0.28, [["Colour", ["Yellow", "Red", "Blue"]]], { goes: ["bee-brush"], text: "A bright one, because it will be lost in the grass.", texte: "Ein bunter, denn er geht im Gras verloren." }),
  P("j-tool", "HJ", "Hook tool", "Stockmeißel mit Haken", ["tools-hand"], reed, 15.9, 0.3, [], { text: "The hook lifts the first frame.", texte: "Der Haken hebt die erste Wabe." }),
  P("bee-brush", "BR", "Bee brush", "Bienenbesen", ["tools-hand"], own, 5.2, 0.09, [["Material", ["Beech", "Nitrile"]]], { goes: ["hive-tool"], text: "Soft, for a sweep rather than a scrub.", texte: "Weich: zum Fegen, nicht zum Schrubben." }),
  P("frame-grip", "FG", "Frame grip", "Wabenzange", ["tools-hand"], reed, 17.4, 0.4, [], { text: "One hand for the frame, one for the smoker.", texte: "Eine Hand für die Wabe, eine für den Smoker." }),
  P("hive-scale", "HC", "Hive scale", "Stockwaage", ["tools", "hives-full"], reed, 149, 3.7, [], { text: "Weighs to ten grams; the battery lasts a year.", texte: "Wiegt auf zehn Gramm; die Batterie hält ein Jahr." }),
  P("pail-feeder", "PF", "Pail feeder", "Eimerfütterer", ["care-feed-in"], own, 6.8, 0.25, [["Volume", ["2 l", "5 l"]]], { goes: ["syrup"], text: "Turned over above the crown board.", texte: "Umgedreht auf den Innendeckel." }),
  P("frame-feeder", "FF", "Frame feeder", "Futtertasche", ["care-feed-in"], own, 9.6, 0.35, [], { goes: ["syrup"], text: "Hangs where a frame would; with a float.", texte: "Hängt statt einer Wabe; mit Schwimmer." }),
  P("syrup", "SY", "Winter syrup", "Wintersirup", ["care-feed"], own, 24.5, 14, [["Volume", ["10 l", "25 l"]]], { club: [[4, 22.5], [20, 19.9]], text: "Ready to pour.", texte: "Gießfertig." }),
  P("fondant", "FO", "Fondant", "Futterteig", ["care-feed"], own, 11.2, 2.5, [pack("Single", "10 pieces")], { packPrices: true, text: "In a film that bees open by themselves.", texte: "In Folie, die die Bienen selbst öffnen." }),
  P("mite-board", "MB", "Mite board", "Milbenbrett", ["care-mite"], own, 6.4, 0.2, [], { goes: ["mesh-floor"], text: "A grid to count on; wipes clean.", texte: "Ein Raster zum Zählen; abwischbar." }),
  P("sugar-shaker", "SS", "Sugar shaker", "Puderzuckerstreuer", ["care-mite"], own, 8.8, 0.15, [], { goes: ["mite-board"], text: "For counting mites without harm.", texte: "Zum schonenden Milbenzählen." }),
  P("candle-cone", "CC", "Cone candle mould", "Kegel-Kerzenform", ["home-candles"], glim, 21, 0.18, [["Size", ["Small", "Medium", "Large"]]], { goes: ["wick"], text: "Silicone; lasts for hundreds.", texte: "Silikon; hält für Hunderte." }),
  P("candle-skep", "CS", "Skep candle mould", "Bienenkorb-Kerzenform", ["home-candles"], glim, 24, 0.22, [], { goes: ["wick"], text: "The old straw hive, as a candle.", texte: "Der alte Strohkorb als Kerze." }),
  P("wick", "WK", "Candle wick", "Kerzendocht", ["home-candles"], glim, 3.9, 0.04, [["Size", ["1 m", "5 m", "20 m"]]], { text: "Braided cotton.", texte: "Geflochtene Baumwolle." }),
  P("wax-melter", "WM", "Sun wax melter", "Sonnenwachsschmelzer", ["home-candles", "honey-out-tools"], thorn, 119, 8.6, [], { text: "Melts old comb for nothing.", texte: "Schmilzt Altwaben umsonst." }),
  P("first-year", "BF", "The first year with bees", "Das erste Jahr mit Bienen", ["home-books"], own, 19.8, 0.55, [], { goes: ["orchard-hive"], text: "Month by month; in English.", texte: "Monat für Monat; auf Englisch." }),
  P("hive-diary", "BD", "Hive diary", "Stockkarte", ["home-books"], own, 9.4, 0.3, [], { text: "A page a visit, and a pencil that writes in the rain.", texte: "Eine Seite je Durchsicht und ein Stift, der im Regen schreibt." }),
];

/** The second supplier's range: queen rearing. */
export const rearing = [
  P("grafting-tool", "QG", "Grafting tool", "Umlarvlöffel", ["queens-graft"], "Quillwort", 6.5, 0.02, [["Material", ["Stainless steel", "Beech"]]], { text: "Lifts a larva with its food.", texte: "Hebt die Made samt Futter." }),
  P("cell-bar", "QB", "Cell bar frame", "Zuchtrahmen", ["queens-graft"], "Quillwort", 18.5, 0.4, [["Fit", ["10 frames", "12 frames"]]], { text: "Three bars, sixty cells.", texte: "Drei Leisten, sechzig Zellen." }),
  P("cell-cups", "QC", "Cell cups", "Weiselbecher", ["queens-graft"], "Quillwort", 4.9, 0.05, [["Colour", ["Yellow", "Green"]], pack("50 pieces", "100 pieces")], { text: "Fit every cell bar.", texte: "Passen an jede Leiste." }),
  P("roller-cage", "QR", "Roller cage", "Schlüpfkäfig", ["queens-cage"], "Quillwort", 1.2, 0.01, [pack("Single", "10 pieces", "50 pieces")], { packPrices: true, text: "For a queen to hatch in.", texte: "Zum Schlüpfen der Königin." }),
  P("travel-cage", "QT", "Travel cage", "Zusetzkäfig", ["queens-cage"], "Quillwort", 0.95, 0.01, [pack("Single", "10 pieces", "50 pieces")], { packPrices: true, text: "With room for eight companions.", texte: "Mit Platz für acht Begleiterinnen." }),
  P("marking-kit", "QM", "Marking kit", "Zeichenset", ["queens-cage"], "Quillwort", 14.9, 0.12, [["Colour", ["White", "Yellow", "Red", "Green", "Blue"]]], { text: "A colour for each year.", texte: "Eine Farbe für jedes Jahr." }),
  P("mini-mating", "QN", "Mini mating hive", "Mini-Begattungskasten", ["queens-mate"], "Quillwort", 26, 1.1, [["Finish", ["Raw", "Oiled"]]], { text: "A cup of bees is enough.", texte: "Ein Becher Bienen genügt." }),
  P("queen-catcher", "QF", "Queen catcher", "Königinnenfänger", ["queens-cage"], "Quillwort", 3.8, 0.03, [], { text: "Opens with one hand.", texte: "Öffnet mit einer Hand." }),
];

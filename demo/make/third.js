/**
 * What makes the range a whole catalogue: sets, services, hire, what a buyer can have done, offers in time, a second store, suppliers'
 * codes, assortments. A sheet for each, as its keeper would write it.
 */

/** Key, code, English, German, nature, shelf, price, per day, per week. Sets get their price from what is in them. */
export const extras = [
  ["Key", "Code", "English", "Deutsch", "Text", "Kind", "Shelf", "Price", "A day", "A week", "Photo"],
  ["starter-hive", "BC-SET-1", "Starter hive", "Einsteiger-Beute", "Floor, brood box, two supers, twenty frames and a roof: a colony can move in.", "goods", "hives-full", "", "", "", "orchard-hive.png"],
  ["first-season", "BC-SET-2", "First season", "Erste Saison", "The starter hive with all that a first season asks for.", "goods", "hives-full", "", "", "", "meadow-hive.png"],
  ["extractor-hire", "BC-HIRE-X4", "Extractor for hire", "Schleuder zur Miete", "The four-frame extractor, clean and oiled. Come for it on Friday, bring it back on Monday.", "hire", "honey-out-machines", "420.00", "14.00", "49.00", "spinner-four.png"],
  ["assembly", "BC-ASM", "Assembly", "Zusammenbau", "We glue and pin it for you.", "work", "hives", "24.00", "", "", ""],
  ["hive-plans", "BC-PLAN", "Plans of the orchard hive", "Baupläne der Obstgarten-Beute", "Nine sheets, to print at home.", "file", "home-books", "9.50", "", "", ""],
];

export const sets = [
  ["Set", "Part", "Times"],
  ["starter-hive", "BC-FM-CEDA", "1"],
  ["starter-hive", "BC-BB-CEDA-10FR", "1"],
  ["starter-hive", "BC-SB-CEDA-10FR", "2"],
  ["starter-hive", "BC-FD-SHOR-SING", "20"],
  ["starter-hive", "BC-RG-CEDA", "1"],
  ["first-season", "BC-SET-1", "1"],
  ["first-season", "BC-ST-CEDA", "1"],
  ["first-season", "BC-UF-STAI", "1"],
  ["first-season", "0010-1", "2"],
];

export const options = [
  ["Group", "English", "Deutsch", "Must", "Choice", "Says", "Sagt", "More", "In", "Done by"],
  ["branding", "Branding iron", "Brandzeichen", "no", "brand-name", "Your name", "Ihr Name", "12.50", "money", ""],
  ["branding", "Branding iron", "Brandzeichen", "no", "brand-mark", "Your mark", "Ihr Zeichen", "28.00", "money", ""],
  ["finish", "Finish on the outside", "Anstrich außen", "yes", "finish-none", "None", "Keiner", "0", "money", ""],
  ["finish", "Finish on the outside", "Anstrich außen", "yes", "finish-oil", "Linseed oil", "Leinöl", "8", "percent", ""],
  ["put-together", "Assembly", "Zusammenbau", "no", "put-done", "Ready to use", "Fertig gebaut", "24.00", "money", "BC-ASM"],
];

export const optionUse = [
  ["Key", "Can be had"],
  ["orchard-hive", "branding, put-together"],
  ["meadow-hive", "branding, finish, put-together"],
  ["hillside-hive", "finish, put-together"],
  ["brood-box", "branding"],
  ["starter-hive", "branding, put-together"],
];

export const offers = [
  ["Code", "Offer", "From", "Until"],
  ["BC-OH-CEDA-RAW", "169.00", "2027-03-01", "2027-03-31"],
  ["BC-OH-PINE-RAW", "179.00", "2027-03-01", "2027-03-31"],
  ["BC-JR-125M-GOLD-SING", "0.49", "2027-06-01", "2027-08-31"],
];

export const mill = [
  ["Code", "At the mill", "Order at", "Order up to"],
  ["BC-OH-CEDA-RAW", "6", "4", "12"],
  ["BC-BB-CEDA-10FR", "30", "10", "40"],
  ["BC-SB-CEDA-10FR", "44", "10", "40"],
  ["BC-FD-SHOR-SING", "900", "200", "1000"],
  ["BC-RG-CEDA", "18", "5", "20"],
];

export const supplied = [
  ["Code", "Supplier", "Their code", "Costs", "Days"],
  ["BC-OH-CEDA-RAW", "Thornapple Joinery", "TJ-4410", "96.00", "12"],
  ["BC-BB-CEDA-10FR", "Thornapple Joinery", "TJ-2101", "17.20", "8"],
  ["BC-JR-125M-GOLD-SING", "Sandhopper Glass", "G125/48", "0.21", "20"],
  ["0010-1", "Glimmer & Sons", "WD=Y", "1.10", "5"],
];

export const assortments = [
  ["Key", "English", "Deutsch", "In it", "Rule"],
  ["for-hire", "For hire", "Zum Mieten", "", 'sort == "hire"'],
  ["gifts", "Gifts", "Geschenke", "glass-hive, candle-skep, first-book", ""],
];

export const properties = [
  ["Trait", "English", "Deutsch", "Kind", "In", "Family"],
  ["frames-held", "Frames held", "Rähmchen", "number", "", "Size"],
  ["drum", "Drum", "Trommel", "number", "cm", "Size"],
  ["volts", "Voltage", "Spannung", "number", "V", "Power"],
  ["food-safe", "Safe for food", "Lebensmittelecht", "words", "", "Care"],
];

export const facts = [
  ["Key", "Trait", "Is", "Ist"],
  ["extractor-hire", "frames-held", "4", ""],
  ["extractor-hire", "drum", "52", ""],
  ["starter-hive", "frames-held", "20", ""],
  ["glass-hive", "frames-held", "1", ""],
  ["hex-jar", "food-safe", "yes", "ja"],
];

export const sizes = [
  ["Code", "Long cm", "Wide cm", "High cm", "Sold by", "Mould no"],
  ["BC-SET-1", "52", "46.5", "61", "", ""],
  ["BC-BB-CEDA-10FR", "50.5", "42.5", "24", "", ""],
  ["BC-FD-SHOR-SING", "48.2", "2.8", "22.3", "10", ""],
  ["BC-JR-125M-GOLD-SING", "5.4", "5.4", "8.1", "12", "M-0125"],
];

export const moved = [
  ["Kind", "Key", "Old address", "In"],
  ["article", "orchard-hive", "orchard-beehive", ""],
  ["article", "orchard-hive", "obstgartenbeute", "de"],
  ["article", "smoker", "bee-smoker-large", ""],
];

/** What the shop says above each part of the tree, a row for each language. */
export const shelfTexts = [
  ["Shelf", "Lang", "Text", "Search title"],
  ["hives", "E", "Made to be opened every week for twenty years.", "Hives and parts, made to last"],
  ["hives", "D", "Gebaut, um zwanzig Jahre lang jede Woche geöffnet zu werden.", "Beuten und Teile, die halten"],
  ["hives", "F", "Faites pour être ouvertes chaque semaine pendant vingt ans.", ""],
  ["honey", "E", "From the comb to the jar.", "Everything for the honey harvest"],
  ["honey", "D", "Von der Wabe ins Glas.", ""],
];

/** The public catalogue: everything the shop holds, as JSON (description, sections 6 and 8). */

import type { CodeRow, PennywortStore, TranslatedName } from "./store.js";

const decimal = (amount: number | null, places: number): string | null =>
  amount === null ? null : (amount / 10 ** places).toFixed(places).replace(/\.?0+$/, "");

/** A path as one text. */
const place = (path: readonly string[]): string => path.map((name) => name.replace(/[\\/]/g, "\\$&")).join("/");

function toJson(code: CodeRow) {
  return {
    code: code.code,
    price: decimal(code.cents, 2),
    was: decimal(code.wasCents, 2),
    stock: code.stock,
    weight: decimal(code.weight, 3),
    barcode: code.barcode,
    picture: code.picture,
    tiers: code.tiers.map(({ from, club, cents }) => ({ from, club, price: decimal(cents, 2) })),
  };
}

export function publicCatalogue(store: PennywortStore) {
  const [main, other] = store.languages;
  const inEach = (word: TranslatedName) => ({ [main]: word.main, ...(other && { [other]: word.other }) });
  const tree = store.tree();
  const placeOf = new Map(tree.map((node) => [node.id, place(node.path)]));
  const items = store.itemWords().map((word) => {
    const item = store.item(word)!;
    const codes = store.codesOf(word);
    const places = store.placesOf(word).map((node) => placeOf.get(node)!);
    return {
      item: word,
      title: inEach({ main: item.title, other: item.otherTitle }),
      text: inEach({ main: item.text, other: item.otherText }),
      places,
      traits: item.traits.map(inEach),
      brand: item.brand,
      pictures: item.pictures,
      goesWith: store.linksOf(word, "Goes with"),
      spares: store.linksOf(word, "Spares"),
      shown: item.shown === 1,
      visible: item.shown === 1 && places.length > 0 && codes.some((code) => code.cents > 0),
      codes: codes.map((code) => ({ ...toJson(code), values: code.values.map(inEach) })),
    };
  });
  return {
    items,
    tree: tree.map(({ path, other: word }) => ({
      place: place(path),
      under: path.length > 1 ? place(path.slice(0, -1)) : null,
      title: inEach({ main: path[path.length - 1]!, other: word }),
    })),
  };
}

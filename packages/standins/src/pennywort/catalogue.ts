/** The public catalogue: everything the shop holds, as JSON (description, sections 6 and 8). */

import type { CodeRow, PennywortStore } from "./store.js";

const decimal = (amount: number | null, places: number): string | null =>
  amount === null ? null : (amount / 10 ** places).toFixed(places).replace(/\.?0+$/, "");

function toJson(code: CodeRow) {
  return {
    code: code.code,
    values: code.values,
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
  const tree = store.tree();
  const pathOf = new Map(tree.map((node) => [node.id, node.path]));
  const items = store.itemWords().map((word) => {
    const item = store.item(word)!;
    const codes = store.codesOf(word);
    const places = store.placesOf(word).map((node) => pathOf.get(node)!);
    return {
      item: word,
      title: { en: item.titleEn, de: item.titleDe },
      text: { en: item.textEn, de: item.textDe },
      places,
      traits: item.traits,
      brand: item.brand,
      pictures: item.pictures,
      goesWith: store.linksOf(word, "Goes with"),
      spares: store.linksOf(word, "Spares"),
      shown: item.shown === 1,
      visible: item.shown === 1 && places.length > 0 && codes.some((code) => code.cents > 0),
      codes: codes.map(toJson),
    };
  });
  return { items, tree: tree.map(({ path, de }) => ({ path, de })) };
}

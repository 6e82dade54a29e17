/** What the compiler refuses: keys for codes, headers for languages, rows of one table for those of another. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Catalogue, CodeIndex, Kinds } from "#src/parts.js";
import type { Code, Header, Key, Lang } from "#src/index.js";

test("keys, codes, languages and headers are not taken for each other; a text that is read is taken for any", () => {
  const catalogue = new Catalogue(new Kinds());
  const products = catalogue.table("product");
  products.nameRecord(products.append(0, 2), "smoker");
  products.setText("code", 0, "BC-SM");
  const codes = new CodeIndex(catalogue);
  const key: Key = products.key(0);
  const code = products.text("code", 0) as Code;
  // @ts-expect-error a code is not a key
  assert.equal(products.find(code), undefined);
  // @ts-expect-error a key is not a code
  assert.equal(codes.find(key), undefined);
  assert.equal(products.find("smoker"), 0);
  assert.equal(codes.find(code)?.row, 0);
  const header: Header = "Name";
  // @ts-expect-error a header is not a language
  const lang: Lang = header;
  assert.equal(lang, "Name");
});

test("rows of one table are not taken for those of another, nor entries for their records", () => {
  const catalogue = new Catalogue(new Kinds());
  const [products, variants] = [catalogue.table("product"), catalogue.table("variant")];
  const prices = catalogue.table("variant.prices");
  const product = products.append(0, 2);
  products.nameRecord(product, "smoker");
  const variant = variants.append(0, 3, product);
  variants.nameRecord(variant, "smoker-large");
  const price = prices.append(0, 3, variant);
  // @ts-expect-error a variant's row is not a product's
  assert.equal(products.key(variant), "smoker");
  // @ts-expect-error a price's row is not a variant's
  assert.equal(variants.key(price), "smoker-large");
  // @ts-expect-error a variant is contained in a product, not in a variant
  assert.deepEqual([...variants.childrenOf(variant)], [0]);
  assert.equal(products.key(variants.parent(variant)), "smoker");
  assert.equal(variants.key(prices.parent(price)), "smoker-large");
});

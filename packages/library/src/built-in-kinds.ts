/** The kinds that every project has, as data. */

import type { Dependency, FieldSpec, KindSpec, Missing } from "./kind.js";

const text = (name: string): FieldSpec => ({ name, type: "text" });
const texts = (name: string): FieldSpec => ({ name, type: "text", perLanguage: true });
const oneOf = (name: string, ...among: string[]): FieldSpec => ({ name, type: "text", among });
const decimal = (name: string): FieldSpec => ({ name, type: "decimal" });
const integer = (name: string): FieldSpec => ({ name, type: "integer" });
const flag = (name: string): FieldSpec => ({ name, type: "flag" });
const date = (name: string): FieldSpec => ({ name, type: "date" });
const linksTo = (name: string, to: string, missing: Missing = "error"): FieldSpec => ({
  name,
  reference: { to, dependency: "linking", missing },
});
const listOf = (name: string, to: string, dependency: Dependency, missing: Missing): FieldSpec => ({
  name,
  reference: { to, dependency, list: true, missing },
});

/** Page texts for search engines. */
const searchTexts: readonly FieldSpec[] = [texts("searchTitle"), texts("searchText")];

/** The fields of whatever can be sold: a variant, or a product that has none. */
const sellable: readonly FieldSpec[] = [
  { name: "code", type: "code", own: true },
  { name: "barcode", type: "barcode", own: true },
  decimal("weight"),
  decimal("length"),
  decimal("width"),
  decimal("height"),
  oneOf("status", "selling", "paused", "ended"),
  oneOf("backorder", "refused", "allowed", "announced"),
  integer("quantityLeast"),
  integer("quantityMost"),
  integer("quantityStep"),
  { name: "unit", type: "text", listed: "unit" },
  { name: "tax", type: "text", listed: "tax" },
];
/** A sellable with components is a bundle. */
const sellableEntries = {
  prices: "price",
  stock: "stock",
  pictures: "picture",
  identifiers: "identifier",
  supplies: "supply",
  components: "component",
};

/** The platform's own id of a record, where a sheet tells it: an export, a report. Never a key. */
const id: FieldSpec = { name: "id", type: "text", own: true };
const position: FieldSpec = { name: "position", type: "integer", own: true };
const named: readonly FieldSpec[] = [{ ...texts("name"), own: true }, position, id];

/** The kinds that every project has; a project may add its own. */
export const builtInKinds: readonly KindSpec[] = [
  {
    name: "category",
    fields: [
      ...named,
      texts("description"),
      texts("slug"),
      ...searchTexts,
      flag("shown"),
      { name: "parent", reference: { to: "category", dependency: "containing", missing: "error" } },
      listOf("visibleTo", "customer-group", "linking", "create"),
    ],
    entries: { pictures: "picture", redirects: "redirect" },
  },
  { name: "axis", fields: named },
  { name: "value", of: "axis", fields: named },
  { name: "brand", fields: named },
  { name: "supplier", fields: named },
  { name: "customer-group", fields: named },
  {
    name: "option-group",
    within: "product",
    fields: [...named, texts("description"), flag("required"), linksTo("product", "product")],
  },
  {
    name: "choice",
    of: "option-group",
    fields: [
      ...named,
      decimal("surcharge"),
      oneOf("surchargeIs", "amount", "percent"),
      { name: "variant", reference: { to: "variant", dependency: "linking", missing: "error", otherwise: "product" } },
      linksTo("product", "product"),
    ],
  },
  { name: "property-group", fields: named },
  {
    name: "property",
    within: "product",
    fields: [
      ...named,
      oneOf("type", "text", "number", "flag", "date"),
      text("unit"),
      linksTo("group", "property-group", "create"),
      linksTo("product", "product"),
    ],
  },
  {
    name: "product",
    single: true,
    fields: [
      texts("name"),
      id,
      texts("description"),
      texts("slug"),
      ...searchTexts,
      oneOf("sort", "goods", "service", "file", "hire", "sold elsewhere"),
      { name: "brand", reference: { to: "brand", dependency: "linking", missing: "create" } },
      listOf("categories", "category", "linking", "error"),
      listOf("axes", "axis", "required", "create"),
      listOf("optionGroups", "option-group", "required", "error"),
      flag("shown"),
      listOf("visibleTo", "customer-group", "linking", "create"),
      position,
      ...sellable,
    ],
    entries: { ...sellableEntries, relations: "relation", properties: "property-value", redirects: "redirect" },
  },
  {
    name: "variant",
    of: "product",
    fields: [listOf("values", "value", "required", "create"), id, position, ...sellable],
    entries: sellableEntries,
  },
  {
    name: "assortment",
    fields: [...named, listOf("members", "product", "linking", "error"), text("rule")],
  },
  {
    name: "price",
    entryKey: ["role", "quantityFrom", "customerGroup", "currency", "from", "until", "hire"],
    fields: [
      text("role"),
      decimal("amount"),
      { name: "currency", type: "text" },
      flag("taxIncluded"),
      integer("quantityFrom"),
      integer("quantityTo"),
      { name: "customerGroup", reference: { to: "customer-group", dependency: "required", missing: "create" } },
      date("from"),
      date("until"),
      text("hire"),
    ],
  },
  {
    name: "stock",
    entryKey: ["location"],
    fields: [
      { name: "location", type: "text", listed: "location" },
      integer("quantity"),
      integer("reorderAt"),
      integer("reorderTo"),
    ],
  },
  {
    name: "picture",
    entryKey: ["role", "file"],
    fields: [text("role"), { name: "file", type: "file" }, texts("alternative"), integer("position"), flag("hidden")],
  },
  { name: "identifier", entryKey: ["type"], fields: [text("type"), text("value")] },
  {
    name: "supply",
    entryKey: ["supplier"],
    fields: [
      { name: "supplier", reference: { to: "supplier", dependency: "required", missing: "create" } },
      text("code"),
      decimal("cost"),
      integer("days"),
    ],
  },
  {
    name: "component",
    entryKey: ["variant", "product"],
    fields: [
      { name: "variant", reference: { to: "variant", dependency: "required", missing: "error", otherwise: "product" } },
      { name: "product", reference: { to: "product", dependency: "required", missing: "error" } },
      integer("quantity"),
    ],
  },
  {
    name: "relation",
    entryKey: ["name", "to", "language"],
    fields: [
      text("name"),
      { name: "to", reference: { to: "product", dependency: "linking", missing: "error" } },
      text("language"),
    ],
  },
  /** An old address, a slug, that leads to the record now. */
  { name: "redirect", entryKey: ["language", "from"], fields: [text("language"), text("from")] },
  {
    name: "property-value",
    entryKey: ["property"],
    fields: [
      { name: "property", reference: { to: "property", dependency: "required", missing: "create" } },
      text("value"),
      texts("text"),
    ],
  },
];

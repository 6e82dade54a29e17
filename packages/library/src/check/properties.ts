/** Properties: values are of the property's type. */

import { present } from "../checked.js";
import { targetsOf } from "../catalogue/catalogue.js";
import { canonicalDecimal } from "../decimal.js";
import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

const fits: Readonly<Record<string, (value: string) => boolean>> = {
  number: (value) => canonicalDecimal(value) !== undefined,
  flag: (value) => value === "true" || value === "false",
  date: (value) => /^\d{4}-\d{2}-\d{2}$/.test(value),
};

export const checkProperties: Check = ({ catalogue, findings }) => {
  const values = catalogue.table("product.properties");
  const properties = catalogue.table("property");
  for (let row = 0; row < values.size; row++) {
    const property = targetsOf(catalogue, values, "property", row)[0];
    const type = property === undefined ? undefined : properties.text("type", property);
    const value = values.text("value", row);
    if (typeof type !== "string" || typeof value !== "string" || (fits[type]?.(value) ?? true)) continue;
    const facts = { property: properties.key(present(property)), type, value };
    findings.add(finding("check/property-type", facts, catalogue.location(values, row, "properties[].value")));
  }
};

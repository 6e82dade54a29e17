/** The targets and layouts that come with Zest Tier, as texts in the page. */

import schemaOrg from "zest-tier/layouts/schema-org.yaml?raw";
import pennywort from "zest-tier/targets/pennywort.yaml?raw";
import saltmarsh from "zest-tier/targets/saltmarsh.yaml?raw";
import tollgate from "zest-tier/targets/tollgate.yaml?raw";

const targets: Readonly<Record<string, string>> = { pennywort, saltmarsh, tollgate };
const layouts: Readonly<Record<string, string>> = { "schema-org": schemaOrg };

export const shippedTargetNames: readonly string[] = Object.keys(targets);

const from = (texts: Readonly<Record<string, string>>) => (name: string) =>
  Promise.resolve(Object.hasOwn(texts, name) ? texts[name] : undefined);

export const shippedTarget = from(targets);
export const shippedLayout = from(layouts);

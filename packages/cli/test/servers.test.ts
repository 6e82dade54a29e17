/** Servers answer this machine by its own names, and let no page of another origin change anything. */

import assert from "node:assert/strict";
import { request } from "node:http";
import { test } from "node:test";
import { standInNames, startStandIn } from "@zest-tier/standins";

interface Asked {
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
}

/** With headers that a browser would set by itself. */
function statusOf(url: string, { method, path, headers }: Asked): Promise<number | undefined> {
  const { hostname, port } = new URL(url);
  return new Promise((resolve, reject) => {
    const asked = request({ hostname, port, method, path, headers }, (answer) => {
      answer.resume();
      answer.on("end", () => resolve(answer.statusCode));
    });
    asked.on("error", reject);
    asked.end();
  });
}

for (const name of standInNames)
  test(`${name} asks who asks`, async () => {
    const shop = await startStandIn(name);
    try {
      const own = new URL(shop.url).host;
      const port = new URL(shop.url).port;
      const reset = { method: "POST", path: "/reset" };
      const status = (asked: Partial<Asked> & Pick<Asked, "headers">) => statusOf(shop.url, { ...reset, ...asked });
      assert.equal(await status({ headers: {} }), 200, "a program, which sends no origin");
      assert.equal(await status({ headers: { origin: shop.url } }), 200, "its own page");
      assert.equal(await status({ headers: { host: `localhost:${port}`, origin: `http://localhost:${port}` } }), 200);
      assert.equal(await status({ headers: { origin: "https://elsewhere.example" } }), 403, "a page of another site");
      assert.equal(await status({ headers: { origin: "null" } }), 403, "a page without an origin");
      assert.equal(await status({ headers: { origin: `http://127.0.0.1:1` } }), 403, "another server of this machine");
      assert.equal(await status({ headers: { host: "elsewhere.example" } }), 421, "another name of this machine");
      const nothing = { method: "GET", path: "/nothing-here" };
      assert.equal(await status({ ...nothing, headers: { host: `elsewhere.example:${port}` } }), 421);
      assert.equal(await status({ ...nothing, headers: { host: own, origin: "https://elsewhere.example" } }), 404);
    } finally {
      await shop.stop();
    }
  });

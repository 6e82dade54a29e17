/** The pictures that every stand-in keeps. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { zipSync } from "fflate";
import { standInNames, startStandIn } from "#src/index.js";

for (const name of standInNames)
  test(`${name} gives out the pictures that it was sent, and nothing else`, async () => {
    const shop = await startStandIn(name);
    try {
      const body = zipSync({ "hive 1.png": new Uint8Array([1, 2, 3]), "page.html": new Uint8Array([60]) });
      await fetch(`${shop.url}/pictures`, { method: "POST", body: new Uint8Array(body) });
      const picture = await fetch(`${shop.url}/pictures/${encodeURIComponent("hive 1.png")}`);
      assert.equal(picture.headers.get("content-type"), "image/png");
      assert.deepEqual([...new Uint8Array(await picture.arrayBuffer())], [1, 2, 3]);
      const page = await fetch(`${shop.url}/pictures/page.html`);
      assert.equal(page.headers.get("content-type"), "application/octet-stream", "never shown as a page");
      assert.equal((await fetch(`${shop.url}/pictures/other.png`)).status, 404);
      await fetch(`${shop.url}/reset`, { method: "POST" });
      assert.equal((await fetch(`${shop.url}/pictures/${encodeURIComponent("hive 1.png")}`)).status, 404);
    } finally {
      await shop.stop();
    }
  });

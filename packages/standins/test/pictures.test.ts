/** The pictures that every stand-in keeps. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { standInNames, startStandIn } from "#src/index.js";

/** A stored zip of two files: `hive 1.png` of the bytes 1, 2, 3, and `page.html` of one character. */
const zip = Buffer.from(
  "UEsDBBQAAAAAAAAAIQAdgLxVAwAAAAMAAAAKAAAAaGl2ZSAxLnBuZwECA1BLAwQUAAAAAAAAACEACpNt/QEAAAABAAAACQAAAHBhZ2UuaHRtbDxQSwECFAMUAAAAAAAAACEAHYC8VQMAAAADAAAACgAAAAAAAAAAAAAAgAEAAAAAaGl2ZSAxLnBuZ1BLAQIUAxQAAAAAAAAAIQAKk239AQAAAAEAAAAJAAAAAAAAAAAAAACAASsAAABwYWdlLmh0bWxQSwUGAAAAAAIAAgBvAAAAUwAAAAAA",
  "base64",
);

for (const name of standInNames)
  test(`${name} gives out the pictures that it was sent, and nothing else`, async () => {
    const shop = await startStandIn(name);
    try {
      await fetch(`${shop.url}/pictures`, { method: "POST", body: zip });
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

/** The shopfront, served on this computer: its pages, and what is on each stand-in beside what was intended. */

import { existsSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { serve } from "@hono/node-server";
import { serveStatic } from "@hono/node-server/serve-static";
import { Hono } from "hono";
import { plainRecords, reviewPlatform, type BuiltUpload, type OpenedTarget } from "zest-tier";
import { sameOriginOnly, type StandIn } from "@zest-tier/standins";
import { UsageError } from "./command.js";
import { readPlatform } from "./platform.js";

export interface OpenShop {
  readonly opened: OpenedTarget;
  readonly heldBack: BuiltUpload["heldBack"];
  readonly standIn: StandIn;
}

export interface Shopfront {
  readonly url: string;
  readonly stop: () => Promise<void>;
}

/** @param port 0 takes a free one. @throws UsageError if the port is taken, or the pages are not built. */
export async function openShopfront(shops: readonly OpenShop[], port = 0): Promise<Shopfront> {
  const root = join(dirname(fileURLToPath(import.meta.resolve("@zest-tier/shopfront/package.json"))), "dist/app");
  if (!existsSync(join(root, "index.html")))
    throw new UsageError("the shopfront's pages are not built", "Build them with npm run pages.");
  const byName = new Map(shops.map((shop) => [shop.opened.target.name, shop]));
  const app = new Hono();
  app.get("/shops.json", (context) => context.json([...byName.keys()]));
  app.get("/shops/:name/shop.json", async (context) => {
    const shop = byName.get(context.req.param("name"));
    if (!shop) return context.notFound();
    const { catalogue, target, project } = shop.opened;
    const told = await readPlatform(shop.standIn.url, target, project.kinds);
    return context.json({
      name: target.name,
      // Of prices whose source names none.
      currency: project.currency ?? null,
      records: plainRecords(told.catalogue),
      reviewed: reviewPlatform(catalogue, target, shop.heldBack, told).records,
    });
  });
  app.get("/shops/:name/pictures/:file", async (context) => {
    const shop = byName.get(context.req.param("name"));
    if (!shop) return context.notFound();
    const answer = await fetch(`${shop.standIn.url}/pictures/${encodeURIComponent(context.req.param("file"))}`);
    return answer.ok ? new Response(answer.body, { headers: answer.headers }) : context.notFound();
  });
  // Paths of static files are taken from where the process is.
  app.use("*", serveStatic({ root: relative(process.cwd(), root) || "." }));
  return new Promise((resolve, reject) => {
    const server = serve(
      { fetch: sameOriginOnly((request) => app.fetch(request)), port, hostname: "127.0.0.1" },
      ({ port: own }: AddressInfo) =>
        resolve({
          url: `http://127.0.0.1:${own}/`,
          stop: () =>
            new Promise((stopped) => {
              server.close(() => stopped());
              if ("closeAllConnections" in server) server.closeAllConnections();
            }),
        }),
    );
    server.on("error", (error: NodeJS.ErrnoException) =>
      reject(new UsageError(`cannot listen on port ${port}: ${error.code ?? error.message}`, "Choose another port.")),
    );
  });
}

/**
 * The stand-ins: small fictional platforms over HTTP, to prove an upload on. They take nothing from the library.
 * What each does is described in docs/standins/.
 */

import { serve } from "@hono/node-server";
import type { AddressInfo } from "node:net";
import { sameOriginOnly } from "./common/same-origin.js";
import { pennywort } from "./pennywort/server.js";
import { saltmarsh } from "./saltmarsh/server.js";
import { tollgate } from "./tollgate/server.js";

export { sameOriginOnly } from "./common/same-origin.js";

const platforms = { pennywort, saltmarsh, tollgate };
export type StandInName = keyof typeof platforms;
export const standInNames = Object.keys(platforms) as StandInName[];

export interface StandIn {
  /** Where it answers, without a slash at the end. */
  readonly url: string;
  readonly stop: () => Promise<void>;
}

/**
 * Starts an empty stand-in on this machine.
 *
 * @param port 0 takes a free one.
 * @throws Error if the port is taken.
 */
export async function startStandIn(name: StandInName, port = 0): Promise<StandIn> {
  const { app, close } = platforms[name]();
  return new Promise((resolve, reject) => {
    const server = serve(
      { fetch: sameOriginOnly((request) => app.fetch(request)), port, hostname: "127.0.0.1" },
      (address: AddressInfo) =>
        resolve({
          url: `http://127.0.0.1:${address.port}`,
          stop: () =>
            new Promise((stopped) => {
              server.close(() => {
                close();
                stopped();
              });
              if ("closeAllConnections" in server) server.closeAllConnections();
            }),
        }),
    );
    // A connection is let go by who opened it: closed here while a request is under way, that request would be lost.
    if ("keepAliveTimeout" in server) server.keepAliveTimeout = 0;
    server.on("error", reject);
  });
}

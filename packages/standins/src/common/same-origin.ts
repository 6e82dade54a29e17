/**
 * Who may ask a server on this machine: a page of another site can send requests to it too, by a name of its own for this machine, or
 * across sites.
 */

const ownHost = /^(127\.0\.0\.1|localhost|\[::1\])(:\d{1,5})?$/;
const readOnly = new Set(["GET", "HEAD", "OPTIONS"]);

/**
 * A server's answers, for requests to this machine by one of its own names alone (else 421), and, where they change something, from a page
 * of the same origin or from none (else 403).
 */
export function sameOriginOnly(
  fetch: (request: Request) => Response | Promise<Response>,
): (request: Request) => Response | Promise<Response> {
  return (request) => {
    const host = request.headers.get("host") ?? new URL(request.url).host;
    if (!ownHost.test(host))
      return new Response("this server answers to this machine's own names only", { status: 421 });
    const origin = request.headers.get("origin");
    if (!readOnly.has(request.method) && origin !== null && origin !== `http://${host}`)
      return new Response("a page of another origin cannot change anything here", { status: 403 });
    return fetch(request);
  };
}

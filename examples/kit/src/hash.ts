/** Where one is: the path and the words behind `#`, so that every view has an address, and the browser's the rollback works. */

import { useSyncExternalStore } from "react";

export interface Where {
  /** Without the first slash, in its parts. */
  readonly path: readonly string[];
  readonly query: URLSearchParams;
}

const subscribe = (tell: () => void) => {
  addEventListener("hashchange", tell);
  return () => removeEventListener("hashchange", tell);
};

export function useWhere(): Where {
  const hash = useSyncExternalStore(subscribe, () => location.hash);
  const [path = "", query = ""] = hash.replace(/^#\/?/, "").split("?");
  return {
    path: path
      .split("/")
      .filter((part) => part !== "")
      .map(plain),
    query: new URLSearchParams(query),
  };
}

function plain(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/** `#/sources/3?line=12`; what is undefined is left out. */
export function addressOf(
  path: readonly (string | number)[],
  query: Readonly<Record<string, string | number | undefined>> = {},
): string {
  const params = new URLSearchParams();
  for (const [name, value] of Object.entries(query)) if (value !== undefined) params.set(name, String(value));
  const behind = params.toString();
  return `#/${path.map((part) => encodeURIComponent(part)).join("/")}${behind === "" ? "" : `?${behind}`}`;
}

export const goTo = (address: string): void => {
  location.hash = address;
};

/** The project that lies open, as the pages see it: what is in it, what is being done, and what may be done to it. */

import { proxy, type Remote } from "comlink";
import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import type { Workspace, OpenResult } from "./workspace/workspace.js";
import type { Dropped } from "./workspace/opening.js";
import type { Overview } from "./workspace/views.js";
import type { Sheets } from "./sheets/sheets.js";

export type Doing =
  | { readonly what: "opening" | "working" | "plan" | "rehearsal" }
  | { readonly what: "reading"; readonly file: string; readonly bytes: number };

export interface OpenProject {
  readonly desk: Remote<Workspace>;
  readonly sheets: Remote<Sheets>;
  readonly overview: Overview | undefined;
  /** Whether the overview says all that reading and planning find. */
  readonly isSettled: boolean;
  /** What was dropped and is being looked at: its sheets can be seen before a layout is drafted. */
  readonly dropped: Dropped | undefined;
  readonly problem: string | undefined;
  readonly said: string | undefined;
  readonly say: (text: string | undefined) => void;
  readonly open: (dropped: Dropped, isDemo?: boolean) => Promise<void>;
  readonly openDemo: () => Promise<void>;
  readonly add: (dropped: Dropped) => Promise<void>;
  /** Does something to the project, and tells what has become of it. */
  readonly act: <T>(work: (desk: Remote<Workspace>) => Promise<T>) => Promise<T>;
  readonly forget: () => void;
}

const Context = createContext<OpenProject | undefined>(undefined);
/** By itself: it changes often, and little of the page shows it. */
const DoingContext = createContext<Doing | undefined>(undefined);
export const useDoing = (): Doing | undefined => useContext(DoingContext);

export function useProject(): OpenProject {
  const bench = useContext(Context);
  if (!bench) throw new Error("outside of the bench");
  return bench;
}

interface Props {
  readonly desk: Remote<Workspace>;
  readonly sheets: Remote<Sheets>;
  readonly children: ReactNode;
}

export function ProjectProvider({ desk, sheets, children }: Props) {
  const [overview, setOverview] = useState<Overview>();
  const [isSettled, setSettled] = useState(false);
  const [doing, setDoing] = useState<Doing | undefined>({ what: "opening" });
  const [dropped, setDropped] = useState<Dropped>();
  const [problem, setProblem] = useState<string>();
  const [said, say] = useState<string>();
  const asked = useRef(0);

  const refresh = useCallback(async () => {
    const own = ++asked.current;
    setSettled(false);
    setDoing({ what: "working" });
    const first = await desk.overview("loaded");
    if (own !== asked.current) return;
    setOverview((before) =>
      before?.version === undefined ? first : { ...first, found: before.found, records: before.records },
    );
    setDropped(undefined);
    const whole = await desk.overview("planned");
    if (own !== asked.current) return;
    setOverview(whole);
    setSettled(true);
    setDoing(undefined);
  }, [desk]);

  const opened = useCallback(
    async (asking: Promise<OpenResult>) => {
      const answer = await asking.catch((): OpenResult => ({ ok: false, reason: "failed" }));
      if (answer.ok) await refresh();
      else {
        setDropped(undefined);
        setProblem(answer.reason);
        setDoing(undefined);
      }
    },
    [refresh],
  );

  const open = useCallback(
    async (what: Dropped, isDemo = false) => {
      asked.current++;
      setProblem(undefined);
      setDoing({ what: "opening" });
      if (!isDemo) setDropped(what);
      location.hash = "#/sources/0";
      await opened(desk.open(what, isDemo));
    },
    [desk, opened],
  );

  const openDemo = useCallback(async () => {
    const zip = await (await fetch("./demo.zip")).blob();
    await open([["demo.zip", zip]], true);
  }, [open]);

  const add = useCallback(
    async (what: Dropped) => {
      setProblem(undefined);
      setDoing({ what: "opening" });
      await opened(desk.add(what));
    },
    [desk, opened],
  );

  const act = useCallback(
    async <T,>(work: (own: Remote<Workspace>) => Promise<T>): Promise<T> => {
      const done = await work(desk);
      await refresh();
      return done;
    },
    [desk, refresh],
  );

  useEffect(() => {
    void desk.listen(
      proxy((what: string, bytes: number) =>
        setDoing((before) => {
          // What a place asks for by itself, it says by itself.
          if (before === undefined) return before;
          return what === "plan" || what === "rehearsal" ? { what } : { what: "reading", file: what, bytes };
        }),
      ),
    );
  }, [desk]);

  const value = useMemo<OpenProject>(
    () => ({
      desk,
      sheets,
      overview,
      isSettled,
      dropped,
      problem,
      said,
      say,
      open,
      openDemo,
      add,
      act,
      forget: () => setProblem(undefined),
    }),
    [desk, sheets, overview, isSettled, dropped, problem, said, open, openDemo, add, act],
  );
  return (
    <Context.Provider value={value}>
      <DoingContext.Provider value={doing}>{children}</DoingContext.Provider>
    </Context.Provider>
  );
}

/**
 * Asks the desk, again whenever the project or what is asked has changed. While it is asked again the last answer stays.
 *
 * @returns undefined until there is a first answer; an error is thrown into the page.
 */
export function useAsked<T>(
  ask: (desk: Remote<Workspace>) => Promise<T>,
  key: string,
): { readonly value: T | undefined; readonly isAsking: boolean } {
  const { desk, overview } = useProject();
  const version = overview?.version;
  const [answer, setAnswer] = useState<{ readonly value: T; readonly key: string }>();
  const [error, setError] = useState<unknown>();
  const own = `${version} ${key}`;
  const latest = useRef(ask);
  latest.current = ask;
  useEffect(() => {
    if (version === undefined) return;
    let isCurrent = true;
    latest.current(desk).then(
      (value) => isCurrent && setAnswer({ value, key: own }),
      (problem: unknown) => isCurrent && setError(problem ?? new Error("the desk failed")),
    );
    return () => {
      isCurrent = false;
    };
  }, [desk, own, version]);
  if (error !== undefined) throw error instanceof Error ? error : new Error(String(error));
  return { value: answer?.value, isAsking: answer?.key !== own };
}

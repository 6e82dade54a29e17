/** The open project, as the pages see it: what is in it, what is being done, and what can be done with it. */

import { proxy, type Remote } from "comlink";
import { useLanguage } from "@zest-tier/kit";
import {
  createContext,
  startTransition,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from "react";
import type { Workspace, OpenResult, Stage } from "./workspace/workspace.js";
import type { Dropped } from "./workspace/opening.js";
import type { Overview } from "./workspace/views.js";
import type { Sheets } from "./sheets/sheets.js";

export type Doing =
  | { readonly what: "opening" | "working" | "plan" | "rehearsal" }
  | { readonly what: "reading"; readonly file: string; readonly bytes: number };

export interface OpenProject {
  readonly workspace: Remote<Workspace>;
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
  readonly act: <T>(work: (workspace: Remote<Workspace>) => Promise<T>) => Promise<T>;
  readonly forget: () => void;
}

/** In bytes: what takes seconds to read. */
const muchToRead = 50_000_000;
/** For the page, the sheet and the desk. */
const processors = 3;
/** A page opens its sheet soon after it knows of it. */
const opening = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 500));

const Context = createContext<OpenProject | undefined>(undefined);
/** By itself: it changes often, and little of the page shows it. */
const DoingContext = createContext<Doing | undefined>(undefined);
export const useDoing = (): Doing | undefined => useContext(DoingContext);

export function useProject(): OpenProject {
  const context = useContext(Context);
  if (!context) throw new Error("outside of the provider");
  return context;
}

interface Props {
  readonly workspace: Remote<Workspace>;
  readonly sheets: Remote<Sheets>;
  readonly children: ReactNode;
}

export function ProjectProvider({ workspace, sheets, children }: Props) {
  const { lang } = useLanguage();
  const [overview, setOverview] = useState<Overview>();
  const [isSettled, setSettled] = useState(false);
  const [doing, setDoing] = useState<Doing | undefined>({ what: "opening" });
  const [dropped, setDropped] = useState<Dropped>();
  const [problem, setProblem] = useState<string>();
  const [said, say] = useState<string>();
  const asked = useRef(0);
  /** Ends the waiting for what is not asked any more: an edit stops all that was under way. */
  const supersede = useRef<() => void>(undefined);

  const refresh = useCallback(async () => {
    const own = ++asked.current;
    supersede.current?.();
    const superseded = new Promise<undefined>((resolve) => (supersede.current = () => resolve(undefined)));
    setSettled(false);
    setDoing({ what: "working" });
    const upTo = (stage: Stage) => Promise.race([workspace.overview(stage), superseded]);
    const first = await upTo("loaded");
    if (!first || own !== asked.current) return;
    // What is drawn anew is drawn in pieces: the page answers meanwhile.
    startTransition(() => {
      setOverview((before) =>
        before?.version === undefined ? first : { ...first, found: before.found, records: before.records },
      );
      setDropped(undefined);
    });
    // The sheet that one looks at comes first where there is no processor for it and the desk, and much to read.
    if (first.bytes > muchToRead && navigator.hardwareConcurrency < processors)
      await Promise.race([opening().then(() => sheets.quiet()), superseded]);
    if (own !== asked.current) return;
    const whole = await upTo("planned");
    if (!whole || own !== asked.current) return;
    startTransition(() => {
      setOverview(whole);
      setSettled(true);
      setDoing(undefined);
    });
  }, [workspace, sheets]);

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
      await opened(workspace.open(what, isDemo));
    },
    [workspace, opened],
  );

  const openDemo = useCallback(async () => {
    const zip = await (await fetch("./demo.zip")).blob();
    await open([["demo.zip", zip]], true);
  }, [open]);

  const add = useCallback(
    async (what: Dropped) => {
      setProblem(undefined);
      setDoing({ what: "opening" });
      await opened(workspace.add(what));
    },
    [workspace, opened],
  );

  const act = useCallback(
    async <T,>(work: (own: Remote<Workspace>) => Promise<T>): Promise<T> => {
      const done = await work(workspace);
      await refresh();
      return done;
    },
    [workspace, refresh],
  );

  useEffect(() => {
    void workspace.listen(
      proxy((what: string, bytes: number) =>
        setDoing((before) => {
          // What a page asks for by itself, it shows by itself.
          if (before === undefined) return before;
          return what === "plan" || what === "rehearsal" ? { what } : { what: "reading", file: what, bytes };
        }),
      ),
    );
  }, [workspace]);

  // Findings, steps and run sheets follow the language of the page.
  useEffect(() => {
    void workspace.setLanguage(lang).then((hasChanged) => (hasChanged ? refresh() : undefined));
  }, [workspace, lang, refresh]);

  const value = useMemo<OpenProject>(
    () => ({
      workspace,
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
    [workspace, sheets, overview, isSettled, dropped, problem, said, open, openDemo, add, act],
  );
  return (
    <Context.Provider value={value}>
      <DoingContext.Provider value={doing}>{children}</DoingContext.Provider>
    </Context.Provider>
  );
}

/**
 * Asks the workspace, again whenever the project or what is asked has changed. While it is asked again the last answer stays.
 *
 * @returns undefined until there is a first answer; an error is thrown into the page.
 */
export function useAsked<T>(
  ask: (workspace: Remote<Workspace>) => Promise<T>,
  key: string,
): { readonly value: T | undefined; readonly isAsking: boolean } {
  const { workspace, overview } = useProject();
  const version = overview?.version;
  const [answer, setAnswer] = useState<{ readonly value: T; readonly key: string }>();
  const [error, setError] = useState<unknown>();
  const own = `${version} ${key}`;
  const latest = useRef(ask);
  latest.current = ask;
  useEffect(() => {
    if (version === undefined) return;
    let isCurrent = true;
    latest.current(workspace).then(
      (value) => isCurrent && setAnswer({ value, key: own }),
      (problem: unknown) => isCurrent && setError(problem ?? new Error("the workspace failed")),
    );
    return () => {
      isCurrent = false;
    };
  }, [workspace, own, version]);
  if (error !== undefined) throw error instanceof Error ? error : new Error(String(error));
  return { value: answer?.value, isAsking: answer?.key !== own };
}

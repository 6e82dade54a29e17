/** The workbench: the bar, the stages, and the page that is open. */

import { SkipLink, useWhere } from "@zest-tier/kit";
import { Component, useEffect, type ReactNode } from "react";
import { Bar } from "./bar.js";
import type { Overview } from "./workspace/views.js";
import { useProject } from "./open-project.js";
import { DropEverywhere } from "./parts/dropping.js";
import { Waiting } from "./parts/parts.js";
import { BrokenPage } from "./pages/broken.js";
import { CataloguePage } from "./pages/catalogue.js";
import { LargePage } from "./pages/large.js";
import { FindingsPage } from "./pages/findings.js";
import { PlanPage } from "./pages/plan.js";
import { RehearsalPage } from "./pages/rehearsal.js";
import { RowsPage } from "./pages/rows.js";
import { DroppedSheet } from "./pages/sheet.js";
import { SourcesPage } from "./pages/sources.js";
import { Navigation } from "./navigation.js";
import { useTexts } from "./texts/texts.js";

const pages: Readonly<Record<string, () => ReactNode>> = {
  sources: SourcesPage,
  catalogue: CataloguePage,
  findings: FindingsPage,
  plan: PlanPage,
  rows: RowsPage,
  rehearsal: RehearsalPage,
};

export function App() {
  const texts = useTexts();
  const { overview, openDemo, open, add, dropped } = useProject();
  const { path } = useWhere();
  const name = path[0] !== undefined && Object.hasOwn(pages, path[0]) ? path[0] : "sources";

  useEffect(() => {
    void openDemo();
    // Once, when the page opens.
  }, []);

  // What was changed and not saved would be gone with the page.
  const hasEdits = overview?.undo !== undefined;
  useEffect(() => {
    if (!hasEdits) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener("beforeunload", ask);
    return () => removeEventListener("beforeunload", ask);
  }, [hasEdits]);

  const isDemo = overview?.isDemo ?? true;
  const Page = pages[name]!;
  return (
    <>
      <SkipLink to="content">{texts.skip}</SkipLink>
      <Bar />
      <Navigation here={name} />
      <main id="content" tabIndex={-1} data-version={overview?.version} data-page={name}>
        <Notices />
        <Guarded now={`${name} ${overview?.version}`}>
          {dropped ? (
            <DroppedSheet dropped={dropped} />
          ) : overview === undefined ? (
            <Waiting>{texts.doing.opening}</Waiting>
          ) : overview.state === "broken" ? (
            <BrokenPage />
          ) : isLarge(overview, name) ? (
            <LargePage />
          ) : (
            <Page />
          )}
        </Guarded>
      </main>
      <DropEverywhere
        onDrop={(what) => void (isDemo || !overview ? open(what) : holdsProject(what) ? open(what) : add(what))}
      />
    </>
  );
}

/** Whether a page is of what waits until it is asked for. Sheets can be looked at anyway. */
const isLarge = ({ state, large }: Overview, page: string): boolean =>
  state === "too large" ? page !== "sources" : large !== undefined && page === large.what;

/** What is a project of its own takes the place of the one that is open. */
const holdsProject = (dropped: readonly (readonly [string, Blob])[]): boolean =>
  dropped.some(([path]) => /(^|\/)project\.yaml$/.test(path) || (dropped.length === 1 && /\.zip$/i.test(path)));

function Notices() {
  const texts = useTexts();
  const { problem, forget, overview, said, say } = useProject();
  return (
    <>
      {problem !== undefined && (
        <div className="notice error" role="alert">
          <p>{texts.notOpened[problem] ?? texts.notOpened["failed"]}</p>
          <button type="button" className="plain" onClick={forget}>
            {texts.dismiss}
          </button>
        </div>
      )}
      {overview?.isDemo && <p className="notice">{texts.demoNote}</p>}
      <div role="status" className={said === undefined ? "hidden-text" : "notice"}>
        {said !== undefined && (
          <>
            <p>{said}</p>
            <button type="button" className="plain" onClick={() => say(undefined)}>
              {texts.dismiss}
            </button>
          </>
        )}
      </div>
    </>
  );
}

interface GuardedProps {
  /** Where and when this is: elsewhere, or after an edit, it is tried again. */
  readonly now: string;
  readonly children: ReactNode;
}

/** An error on a page is shown on it. The bar and the stages stay. */
class Guarded extends Component<GuardedProps, { readonly error: unknown }> {
  override state = { error: undefined as unknown };
  static getDerivedStateFromError(error: unknown) {
    return { error };
  }
  override componentDidUpdate(before: GuardedProps) {
    if (before.now !== this.props.now && this.state.error !== undefined) this.setState({ error: undefined });
  }
  override render() {
    return this.state.error === undefined ? this.props.children : <Failed error={this.state.error} />;
  }
}

function Failed({ error }: { readonly error: unknown }) {
  const texts = useTexts();
  return (
    <div className="notice error" role="alert">
      <div>
        <h2>{texts.errorTitle}</h2>
        <p>{texts.errorLead}</p>
        <p lang="en">
          <code>{error instanceof Error ? error.message : String(error)}</code>
        </p>
      </div>
    </div>
  );
}

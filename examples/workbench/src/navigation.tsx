/** The stages, as a ladder: six pages, each with its state. */

import { addressOf, Icon } from "@zest-tier/kit";
import type { ReactNode } from "react";
import { useProject } from "./open-project.js";
import { Counts, Sign } from "./parts/parts.js";
import { useTexts } from "./texts/texts.js";

const names = ["sources", "catalogue", "findings", "plan", "rows", "rehearsal"] as const;

export function Navigation({ here }: { readonly here: string }) {
  const texts = useTexts();
  const { overview, isSettled } = useProject();
  const isRead = overview?.state === "read";
  const count = (kind: string) => overview?.records.find(([name]) => name === kind)?.[1] ?? 0;
  const stands: Partial<Record<(typeof names)[number], ReactNode>> = overview
    ? {
        sources: texts.sheets(overview.sources.length),
        catalogue: !isSettled ? "…" : isRead ? texts.productsCount(count("product")) : undefined,
        findings: !isSettled ? (
          "…"
        ) : !isRead ? undefined : overview.found.error + overview.found.warning + overview.found.note === 0 ? (
          <Sign severity="good">{texts.found.good}</Sign>
        ) : (
          <Counts found={overview.found} isShort />
        ),
      }
    : {};
  return (
    <nav className="stages" aria-label={texts.stages}>
      <ol>
        {names.map((name) => (
          <li key={name}>
            <a href={addressOf([name])} aria-current={here === name ? "page" : undefined}>
              <span className="rung" aria-hidden="true">
                {here === name && <Icon name="go" size={12} />}
              </span>
              <span className="stage-name">{texts.pages[name]}</span>
              {stands[name] !== undefined && <span className="stage-state">{stands[name]}</span>}
            </a>
          </li>
        ))}
      </ol>
    </nav>
  );
}

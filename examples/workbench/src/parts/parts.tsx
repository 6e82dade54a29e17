/** Small things that several places show. */

import { Anchor, Button, CopyButton, Loader } from "@mantine/core";
import { addressOf, Icon } from "@zest-tier/kit";
import type { ReactNode } from "react";
import { useProject } from "../open-project.js";
import { lineOf } from "../workspace/line-of.js";
import type { FindingView, FindingCounts } from "../workspace/views.js";
import { useTexts } from "../texts/texts.js";

type Severity = "error" | "warning" | "note";

/** A severity: its sign and its word. */
export function Sign({ severity, children }: { readonly severity: Severity | "good"; readonly children: ReactNode }) {
  return (
    <span className={`sign ${severity}`}>
      <Icon name={severity} size={13} />
      {children}
    </span>
  );
}

/** How many of each; nothing for none. */
export function Counts({ found, isShort = false }: { readonly found: FindingCounts; readonly isShort?: boolean }) {
  const texts = useTexts();
  const some = (["error", "warning", "note"] as const).filter((severity) => found[severity] > 0);
  if (some.length === 0) return null;
  return (
    <span className="counts">
      {some.map((severity) => (
        <Sign key={severity} severity={severity}>
          {isShort ? (
            <>
              {found[severity].toLocaleString()}
              <span className="hidden-text"> {texts.one[severity]}</span>
            </>
          ) : (
            texts.found[severity](found[severity])
          )}
        </Sign>
      ))}
    </span>
  );
}

interface HeadProps {
  readonly location: "sources" | "catalogue" | "findings" | "plan" | "rows" | "rehearsal";
  /** The one clear next thing. */
  readonly next?: { readonly label: string; readonly href?: string; readonly onClick?: () => void } | undefined;
  readonly children?: ReactNode;
}

export function PageHead({ location, next, children }: HeadProps) {
  const texts = useTexts();
  return (
    <header className="page-head">
      <div>
        <h1>{texts.pages[location]}</h1>
        <p className="soft">{texts.leads[location]}</p>
      </div>
      {children}
      {next && (
        <div className="next">
          <span className="next-word">{texts.next}</span>
          {next.href === undefined ? (
            <Button onClick={next.onClick} rightSection={<Icon name="go" />}>
              {next.label}
            </Button>
          ) : (
            <Button component="a" href={next.href} rightSection={<Icon name="go" />}>
              {next.label}
            </Button>
          )}
        </div>
      )}
    </header>
  );
}

/** The command that does the same. */
export function CommandLine({ line }: { readonly line: string }) {
  const texts = useTexts();
  return (
    <footer className="command" aria-label={texts.command}>
      <span className="command-word">{texts.command}</span>
      <code dir="ltr" tabIndex={0}>
        {line}
      </code>
      <CopyButton value={line}>
        {({ copied, copy }) => (
          <Button
            size="compact-xs"
            variant="default"
            onClick={copy}
            leftSection={<Icon name={copied ? "good" : "copy"} size={13} />}
          >
            {copied ? texts.copied : texts.copy}
          </Button>
        )}
      </CopyButton>
    </footer>
  );
}

/** A word of a command line, in quotes where it needs them. */
const quoted = (word: string): string => (/^[\w./:@%+=,-]+$/.test(word) ? word : `'${word.replaceAll("'", `'\\''`)}'`);

export function useCommand() {
  const { overview } = useProject();
  return (name: string, ...more: string[]) => {
    const target = overview?.target === undefined || name === "calibrate" ? [] : ["--for", overview.target];
    const holdBack = overview?.holdBack && name !== "calibrate" ? ["--hold-back"] : [];
    const folder = name === "calibrate" ? [] : [overview?.name ?? "."];
    return ["npx zest-tier", name, ...folder, ...more, ...target, ...holdBack]
      .map((word, at) => (at === 0 ? word : quoted(word)))
      .join(" ");
  };
}

export const Waiting = ({ children }: { readonly children: ReactNode }) => (
  <p className="waiting" role="status">
    <Loader size="xs" aria-hidden="true" />
    {children}
  </p>
);

/** Where a finding leads: to its cell, or to the text that it is in. */
export function findingAddress({ at, source, code }: Pick<FindingView, "at" | "source" | "code">): string | undefined {
  if (!at) return undefined;
  if (source !== undefined) return addressOf(["sources", source], { line: lineOf(at), column: at.column, from: code });
  return at.record?.kind === "product" ? addressOf(["catalogue", at.record.key]) : undefined;
}

export function FindingLine({ finding }: { readonly finding: FindingView }) {
  const texts = useTexts();
  const address = findingAddress(finding);
  return (
    <li className="finding-line">
      <Sign severity={finding.severity}>{texts.one[finding.severity]}</Sign>
      <span dir="auto" className="finding-text">
        {finding.message}
      </span>
      {address === undefined ? (
        <code className="soft place">{finding.location}</code>
      ) : (
        <Anchor href={address} className="location">
          <code>{finding.location}</code>
        </Anchor>
      )}
    </li>
  );
}

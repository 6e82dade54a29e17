/** Sources: each sheet as it came, its damage marked in its cells, and beside it the layout that it is read by. */

import { NativeSelect } from "@mantine/core";
import { addressOf, goTo, useWhere } from "@zest-tier/kit";
import { useState } from "react";
import { useProject } from "../open-project.js";
import type { SourceView } from "../workspace/views.js";
import { CommandLine, Counts, PageHead, useCommand } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";
import { LargeNotice } from "./large.js";
import { Questions } from "./questions.js";
import { nameOf, OneSource } from "./sheet.js";

export function SourcesPage() {
  const texts = useTexts();
  const { overview, isSettled, act } = useProject();
  const { path, query } = useWhere();
  const { sources, found, state, version, questions } = overview!;
  const number = Math.min(sources.length - 1, Math.max(0, Number(path[1] ?? 0) || 0));
  const source = sources[number]!;
  const command = useCommand();
  const [followed, setFollowed] = useState<{ readonly source: number; readonly location: string }>();
  const next =
    state === "too large"
      ? { label: texts.nextSteps.large, onClick: () => void act((workspace) => workspace.allowLarge("sources")) }
      : !isSettled
        ? undefined
        : found.error > 0
          ? { label: texts.nextSteps.fix(found.error), href: addressOf(["findings"], { severity: "error" }) }
          : { label: texts.nextSteps.catalogue, href: addressOf(["catalogue"]) };
  const folder = overview!.name;
  return (
    <>
      <PageHead location="sources" next={next} />
      {state === "too large" && <LargeNotice />}
      {questions.length > 0 && <Questions key={version} questions={questions} />}
      <div className="sources">
        <SourceList sources={sources} here={number} />
        <OneSource
          key={number}
          source={source}
          number={number}
          version={version}
          line={query.get("line") === null ? undefined : Number(query.get("line"))}
          column={query.get("column") ?? undefined}
          from={query.get("from") ?? undefined}
          onFollow={(location) => setFollowed({ source: number, location })}
        />
      </div>
      <CommandLine
        line={
          followed?.source === number
            ? command("trace", "--source", followed.location)
            : command("calibrate", `${folder}/${source.file}`, "--layout", layoutOf(source, folder))
        }
      />
    </>
  );
}

const layoutOf = ({ layout, isShipped }: SourceView, folder: string): string =>
  isShipped ? layout.replace(" (shipped)", "") : `${folder}/${layout}`;

function SourceList({ sources, here }: { readonly sources: readonly SourceView[]; readonly here: number }) {
  const texts = useTexts();
  return (
    <nav className="source-list" aria-label={texts.sources.list}>
      <ul className="wide-list">
        {sources.map((source, at) => (
          <li key={at}>
            <a href={addressOf(["sources", at])} aria-current={at === here ? "true" : undefined}>
              <span className="source-name" dir="auto">
                {nameOf(source)}
              </span>
              <span className="soft number">
                {source.rows === undefined ? texts.sources.notRead : texts.rowsCount(source.rows)}
              </span>
              <Counts found={source.found} isShort />
            </a>
          </li>
        ))}
      </ul>
      <NativeSelect
        className="narrow-list"
        aria-label={texts.sources.list}
        value={String(here)}
        data={sources.map((source, at) => ({ value: String(at), label: nameOf(source) }))}
        onChange={(event) => goTo(addressOf(["sources", event.currentTarget.value]))}
      />
    </nav>
  );
}

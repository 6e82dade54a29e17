/** Sources: each sheet as it came, its damage marked in its cells, and beside it the layout that it is read by. */

import { NativeSelect } from "@mantine/core";
import { addressOf, goTo, useWhere } from "@zest-tier/kit";
import { useState } from "react";
import { useBench } from "../bench.js";
import type { SourceView } from "../desk/views.js";
import { CommandLine, Counts, PlaceHead, useCommand } from "../parts/parts.js";
import { useWords } from "../words/words.js";
import { LargeNotice } from "./large.js";
import { nameOf, OneSource } from "./sheet.js";

export function SourcesPlace() {
  const words = useWords();
  const { overview, isSettled, act } = useBench();
  const { path, query } = useWhere();
  const { sources, found, state, version } = overview!;
  const number = Math.min(sources.length - 1, Math.max(0, Number(path[1] ?? 0) || 0));
  const source = sources[number]!;
  const command = useCommand();
  const [followed, setFollowed] = useState<{ readonly source: number; readonly place: string }>();
  const next =
    state === "too large"
      ? { label: words.nextSteps.large, onClick: () => void act((desk) => desk.allowLarge()) }
      : !isSettled
        ? undefined
        : found.error > 0
          ? { label: words.nextSteps.mend(found.error), href: addressOf(["findings"], { severity: "error" }) }
          : { label: words.nextSteps.catalogue, href: addressOf(["catalogue"]) };
  const folder = overview!.name;
  return (
    <>
      <PlaceHead place="sources" next={next} />
      {state === "too large" && <LargeNotice />}
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
          onFollow={(place) => setFollowed({ source: number, place })}
        />
      </div>
      <CommandLine
        line={
          followed?.source === number
            ? command("trace", "--source", followed.place)
            : command("calibrate", `${folder}/${source.file}`, "--layout", layoutOf(source, folder))
        }
      />
    </>
  );
}

const layoutOf = ({ layout, isShipped }: SourceView, folder: string): string =>
  isShipped ? layout.replace(" (shipped)", "") : `${folder}/${layout}`;

function SourceList({ sources, here }: { readonly sources: readonly SourceView[]; readonly here: number }) {
  const words = useWords();
  return (
    <nav className="source-list" aria-label={words.sources.list}>
      <ul className="wide-list">
        {sources.map((source, at) => (
          <li key={at}>
            <a href={addressOf(["sources", at])} aria-current={at === here ? "true" : undefined}>
              <span className="source-name" dir="auto">
                {nameOf(source)}
              </span>
              <span className="soft number">
                {source.rows === undefined ? words.sources.notRead : words.rowsCount(source.rows)}
              </span>
              <Counts found={source.found} isShort />
            </a>
          </li>
        ))}
      </ul>
      <NativeSelect
        className="narrow-list"
        aria-label={words.sources.list}
        value={String(here)}
        data={sources.map((source, at) => ({ value: String(at), label: nameOf(source) }))}
        onChange={(event) => goTo(addressOf(["sources", event.currentTarget.value]))}
      />
    </nav>
  );
}

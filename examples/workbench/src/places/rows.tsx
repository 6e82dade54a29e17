/** Rows: the files as they will be uploaded, and where each cell has come from. */

import { Anchor, Button } from "@mantine/core";
import { addressOf, Icon, useWhere } from "@zest-tier/kit";
import { useCallback, useEffect, useState } from "react";
import { useAsked, useBench } from "../bench.js";
import { lineOf } from "../desk/line-of.js";
import { Grid, type GridRow } from "../parts/grid.js";
import { CommandLine, PlaceHead, Sign, useCommand, Waiting } from "../parts/parts.js";
import { useWords } from "../words/words.js";

export function RowsPlace() {
  const words = useWords();
  const { isSettled } = useBench();
  const { path, query } = useWhere();
  const { value } = useAsked((desk) => desk.uploadFiles(), "upload files");
  const command = useCommand();
  const files = value?.files ?? [];
  const here = files.find(({ name }) => name === path[1]) ?? files[0];
  const line = Number(query.get("line") ?? 0);
  const column = query.get("column") ?? undefined;
  const [picked, setPicked] = useState<{ readonly file: string; readonly line: number; readonly header: string }>();
  const isStopped = value !== undefined && !value.isBuilt && value.stopping > 0;
  const next =
    !isSettled || !value
      ? undefined
      : isStopped
        ? { label: words.nextSteps.mend(value.stopping), href: addressOf(["findings"], { severity: "error" }) }
        : { label: words.nextSteps.rehearsal, href: addressOf(["rehearsal"]) };
  return (
    <>
      <PlaceHead place="rows" next={next} />
      {isStopped && (
        <p className="notice error" role="alert">
          {words.rows.stopped}
        </p>
      )}
      {!value ? (
        <Waiting>{words.doing.plan}</Waiting>
      ) : !here ? (
        <p className="empty">{words.empty}</p>
      ) : (
        <div className="rows">
          <nav className="file-list" aria-label={words.rows.files}>
            <ul>
              {files.map((file) => (
                <li key={file.name}>
                  <a href={addressOf(["rows", file.name])} aria-current={file.name === here.name ? "true" : undefined}>
                    <code>{file.name}</code>
                    <span className="soft number">
                      {words.rowsCount(file.rows)}
                      {file.isNow ? "" : ` · ${words.rows.waits}`}
                    </span>
                  </a>
                </li>
              ))}
            </ul>
          </nav>
          <UploadGrid
            key={here.name}
            name={here.name}
            total={here.rows}
            line={line}
            column={column}
            onPick={setPicked}
          />
          <OriginPanel picked={picked?.file === here.name ? picked : undefined} />
        </div>
      )}
      <CommandLine
        line={picked ? command("trace", "--cell", `${picked.file}:${picked.line}:${picked.header}`) : command("build")}
      />
    </>
  );
}

interface GridProps {
  readonly name: string;
  readonly total: number;
  readonly line: number;
  readonly column: string | undefined;
  readonly onPick: (picked: { readonly file: string; readonly line: number; readonly header: string }) => void;
}

function UploadGrid({ name, total, line, column, onPick }: GridProps) {
  const { desk, overview } = useBench();
  const { value: first } = useAsked((asking) => asking.uploadRows(name, 0, 1), `first ${name}`);
  const ask = useCallback(
    async (from: number, count: number) => (await desk.uploadRows(name, from, count)).rows,
    [desk, name],
  );
  const [spot, setSpot] = useState<{ readonly row: number; readonly column: number }>();
  const headers = first?.headers ?? [];
  const joined = headers.join("\u0000");
  useEffect(() => {
    if (line === 0 || joined === "") return;
    void desk.uploadRowOf(name, line).then((row) => {
      setSpot({ row, column: Math.max(0, headers.indexOf(column ?? "")) });
      if (column !== undefined) onPick({ file: name, line, header: column });
    });
  }, [desk, name, line, column, joined]);
  const pick = (row: GridRow, at: number) => onPick({ file: name, line: row.line, header: headers[at]! });
  return (
    <section className="sheet" aria-label={name}>
      <Grid
        label={name}
        headers={headers}
        total={total}
        id={`${name} ${overview?.version}`}
        ask={ask}
        at={spot}
        onPick={pick}
      />
    </section>
  );
}

function OriginPanel({
  picked,
}: {
  readonly picked: { readonly file: string; readonly line: number; readonly header: string } | undefined;
}) {
  const words = useWords();
  const { value: cell, isAsking } = useAsked(
    async (desk) => (picked ? await desk.trace(picked.file, picked.line, picked.header) : undefined),
    `trace ${picked?.file} ${picked?.line} ${picked?.header}`,
  );
  if (!picked) return <p className="cell-panel soft">{words.rows.pick}</p>;
  return (
    <div className="cell-panel" aria-live="polite">
      <h2>
        {words.sources.cell} <code>{`${picked.line} · ${picked.header}`}</code>
      </h2>
      {isAsking ? (
        <Waiting>{words.sources.asking}</Waiting>
      ) : !cell ? (
        <p>{words.rows.fromNothing}</p>
      ) : (
        <>
          <p className="cell-text" dir="auto">
            {cell.text}
          </p>
          <p className="soft">
            {cell.record.kind}{" "}
            <Anchor href={addressOf(["order"], { record: cell.record.key })}>
              <code>{cell.record.key}</code>
            </Anchor>
          </p>
          <h3>{words.rows.from}</h3>
          {cell.origins.length === 0 && <p>{words.rows.fromNothing}</p>}
          <ul className="origins">
            {cell.origins.map(({ field, place, source }, at) => (
              <li key={at}>
                <code>{field}</code>
                {source === undefined ? (
                  <span className="soft">
                    <code>{place.file}</code> {words.rows.made}
                  </span>
                ) : (
                  <Button
                    component="a"
                    size="compact-sm"
                    variant="default"
                    href={addressOf(["sources", source], { line: lineOf(place), column: place.column })}
                    rightSection={<Icon name="go" size={13} />}
                  >
                    <code>{`${place.file}:${lineOf(place) ?? ""} ${place.column ?? ""}`}</code>
                  </Button>
                )}
              </li>
            ))}
          </ul>
          {cell.origins.length > 1 && <Sign severity="note">{words.records(cell.origins.length)}</Sign>}
        </>
      )}
    </div>
  );
}

/** Rows: the files as they will be uploaded, and where each cell has come from. */

import { Anchor, Button } from "@mantine/core";
import { addressOf, Icon, useWhere } from "@zest-tier/kit";
import { useCallback, useEffect, useState } from "react";
import { useAsked, useProject } from "../open-project.js";
import { lineOf } from "../workspace/line-of.js";
import { Grid, type GridRow } from "../parts/grid.js";
import { CommandLine, PageHead, Sign, useCommand, Waiting } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";

export function RowsPage() {
  const texts = useTexts();
  const { isSettled } = useProject();
  const { path, query } = useWhere();
  const { value } = useAsked((workspace) => workspace.uploadFiles(), "upload files");
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
        ? { label: texts.nextSteps.fix(value.stopping), href: addressOf(["findings"], { severity: "error" }) }
        : { label: texts.nextSteps.rehearsal, href: addressOf(["rehearsal"]) };
  return (
    <>
      <PageHead location="rows" next={next} />
      {isStopped && (
        <p className="notice error" role="alert">
          {texts.rows.stopped}
        </p>
      )}
      {!value ? (
        <Waiting>{texts.doing.plan}</Waiting>
      ) : !here ? (
        <p className="empty">{texts.empty}</p>
      ) : (
        <div className="rows">
          <nav className="file-list" aria-label={texts.rows.files}>
            <ul>
              {files.map((file) => (
                <li key={file.name}>
                  <a href={addressOf(["rows", file.name])} aria-current={file.name === here.name ? "true" : undefined}>
                    <code>{file.name}</code>
                    <span className="soft number">
                      {texts.rowsCount(file.rows)}
                      {file.isNow ? "" : ` · ${texts.rows.waits}`}
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
  const { workspace, overview } = useProject();
  const { value: first } = useAsked((asking) => asking.uploadRows(name, 0, 1), `first ${name}`);
  const ask = useCallback(
    async (from: number, count: number) => (await workspace.uploadRows(name, from, count)).rows,
    [workspace, name],
  );
  const [spot, setSpot] = useState<{ readonly row: number; readonly column: number }>();
  const headers = first?.headers ?? [];
  const joined = headers.join("\u0000");
  useEffect(() => {
    if (line === 0 || joined === "") return;
    void workspace.uploadRowOf(name, line).then((row) => {
      setSpot({ row, column: Math.max(0, headers.indexOf(column ?? "")) });
      if (column !== undefined) onPick({ file: name, line, header: column });
    });
  }, [workspace, name, line, column, joined]);
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
  const texts = useTexts();
  const { value: cell, isAsking } = useAsked(
    async (workspace) => (picked ? await workspace.trace(picked.file, picked.line, picked.header) : undefined),
    `trace ${picked?.file} ${picked?.line} ${picked?.header}`,
  );
  if (!picked) return <p className="cell-panel soft">{texts.rows.pick}</p>;
  return (
    <div className="cell-panel" aria-live="polite">
      <h2>
        {texts.sources.cell} <code>{`${picked.line} · ${picked.header}`}</code>
      </h2>
      {isAsking ? (
        <Waiting>{texts.sources.asking}</Waiting>
      ) : !cell ? (
        <p>{texts.rows.fromNothing}</p>
      ) : (
        <>
          <p className="cell-text" dir="auto">
            {cell.text}
          </p>
          <p className="soft">
            {cell.record.kind}{" "}
            <Anchor href={addressOf(["plan"], { record: cell.record.key })}>
              <code>{cell.record.key}</code>
            </Anchor>
          </p>
          <h3>{texts.rows.from}</h3>
          {cell.origins.length === 0 && <p>{texts.rows.fromNothing}</p>}
          <ul className="origins">
            {cell.origins.map(({ field, location, source }, at) => (
              <li key={at}>
                <code>{field}</code>
                {source === undefined ? (
                  <span className="soft">
                    <code>{location.file}</code> {texts.rows.made}
                  </span>
                ) : (
                  <Button
                    component="a"
                    size="compact-sm"
                    variant="default"
                    href={addressOf(["sources", source], { line: lineOf(location), column: location.column })}
                    rightSection={<Icon name="go" size={13} />}
                  >
                    <code>{`${location.file}:${lineOf(location) ?? ""} ${location.column ?? ""}`}</code>
                  </Button>
                )}
              </li>
            ))}
          </ul>
          {cell.origins.length > 1 && <Sign severity="note">{texts.records(cell.origins.length)}</Sign>}
        </>
      )}
    </div>
  );
}

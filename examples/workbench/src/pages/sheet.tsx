/** One sheet as it stands in its file, its damage marked in its cells, and the cell that is chosen. */

import { Anchor, Button } from "@mantine/core";
import { addressOf, Icon } from "@zest-tier/kit";
import { proxy } from "comlink";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useAsked, useProject } from "../open-project.js";
import type { Dropped } from "../workspace/opening.js";
import type { Mark, SourceView } from "../workspace/views.js";
import { Grid, type GridRow } from "../parts/grid.js";
import { PageHead, Sign, Waiting } from "../parts/parts.js";
import type { SheetAsked, SheetView } from "../sheets/sheets.js";
import { useTexts } from "../texts/texts.js";
import { LayoutPanel } from "./layout.js";

export const nameOf = ({ file, sheet, within }: SourceView): string =>
  [file.replace(/^sources\//, ""), within, sheet].filter((part) => part !== undefined).join(" › ");

/** A sheet that opens in the worker, and how far it is. */
function useSheet(asked: SheetAsked | undefined): SheetView | undefined {
  const { sheets } = useProject();
  const [info, setInfo] = useState<{ readonly id: string; readonly info: SheetView }>();
  const id = asked?.id;
  const latest = useRef(asked);
  latest.current = asked;
  useEffect(() => {
    if (id === undefined || !latest.current) return;
    let isCurrent = true;
    const tell = proxy((now: SheetView) => {
      if (isCurrent) setInfo({ id, info: now });
    });
    void sheets.open(latest.current, tell);
    return () => {
      isCurrent = false;
    };
  }, [id, sheets]);
  return info?.id === id ? info?.info : undefined;
}

/** What was just dropped, before there is a layout for it: seen at once. */
export function DroppedSheet({ dropped }: { readonly dropped: Dropped }) {
  const texts = useTexts();
  const { sheets } = useProject();
  const first = dropped.find(([path]) => /\.(csv|tsv|txt|xlsx?|xlsm|ods)$/i.test(path));
  const [path, blob] = first ?? ["", undefined];
  const id = `dropped ${path} ${blob?.size} ${blob instanceof File ? blob.lastModified : ""}`;
  const info = useSheet(blob && { id, blob, name: path, sheet: undefined, within: undefined, layout: undefined });
  const ask = useCallback((from: number, count: number) => sheets.rows(id, from, count), [sheets, id]);
  return (
    <>
      <PageHead location="sources" />
      <Waiting>{texts.doing.opening}</Waiting>
      {info && (
        <section className="sheet" aria-label={path}>
          <SheetLine name={path} info={info} />
          <Grid label={path} headers={info.headers} total={info.rows} id={id} ask={ask} />
        </section>
      )}
    </>
  );
}

function SheetLine({ name, info }: { readonly name: string; readonly info: SheetView | undefined }) {
  const texts = useTexts();
  return (
    <p className="sheet-line">
      <code>{name}</code>
      <span className="number">
        {info ? texts.rowsCount(info.rows) : "…"} {info?.isDone === false && texts.sources.reading}
      </span>
      {info?.encoding !== undefined && info.encoding !== "" && <span className="soft">{info.encoding}</span>}
    </p>
  );
}

interface OneProps {
  readonly source: SourceView;
  readonly number: number;
  readonly version: number;
  readonly line: number | undefined;
  readonly column: string | undefined;
  readonly from: string | undefined;
  /** Receives the cell whose way is followed. */
  readonly onFollow: (location: string) => void;
}

export function OneSource({ source, number, version, line, column, from, onFollow }: OneProps) {
  const texts = useTexts();
  const { workspace, sheets, isSettled } = useProject();
  const { value: opened } = useAsked(
    async (asking) => ({
      blob: await asking.file(source.file),
      file: await asking.fileNumber(source.file),
      layout: await asking.layoutText(number),
    }),
    `file ${number}`,
  );
  // The same file read by the same layout is the same sheet.
  const id = `${number} ${opened?.file} ${hashOf(opened?.layout ?? "")}`;
  const asked = opened?.blob && {
    id,
    blob: opened.blob,
    name: source.file,
    sheet: source.sheet,
    within: source.within,
    layout: opened.layout,
  };
  const info = useSheet(asked);
  const ask = useCallback((first: number, count: number) => sheets.rows(id, first, count), [sheets, id]);
  const [view, setView] = useState({ from: 0, to: 0 });
  const marks = useMarks(number, view, version);
  const [spot, setSpot] = useState<{ readonly row: number; readonly column: number }>();
  const [picked, setPicked] = useState<{ readonly row: GridRow; readonly column: number }>();
  const headers = info?.headers ?? [];

  const headerLine = info?.headerLine ?? 0;
  const headerMarks = useMarks(number, { from: 0, to: headerLine }, version);
  const headerNote = (header: string) => {
    const mark = headerLine === 0 ? undefined : headerMarks(headerLine, header);
    return mark && <Sign severity={mark.severity}>{texts.one[mark.severity]}</Sign>;
  };

  const goToCell = useCallback(
    async (toLine: number, toColumn: string | undefined) => {
      // What is reported of the header, or of what stands above it, is shown as such.
      if (headerLine > 0 && toLine <= headerLine)
        return setPicked({
          row: { line: toLine, cells: toLine === headerLine ? headers : [] },
          column: Math.max(0, headers.indexOf(toColumn ?? "")),
        });
      const row = await sheets.rowOf(id, toLine);
      const at = Math.max(0, headers.indexOf(toColumn ?? ""));
      setSpot({ row, column: at });
      const [there] = await sheets.rows(id, row, 1);
      if (there) setPicked({ row: there, column: at });
    },
    [sheets, id, headerLine, headers.join("\u0000")],
  );
  const isThere = headers.length > 0 && (info?.isDone ?? false);
  // After an edit the sheet is read again: one stays where one was.
  const here = useRef<{ readonly line: number; readonly column: string | undefined }>(undefined);
  if (picked && headers.length > 0) here.current = { line: picked.row.line, column: headers[picked.column] };
  useEffect(() => {
    const to = here.current ?? (line === undefined ? undefined : { line, column });
    if (isThere && to) void goToCell(to.line, to.column);
  }, [id, isThere]);
  useEffect(() => {
    if (isThere && line !== undefined) void goToCell(line, column);
  }, [line, column]);

  const goToMark = async (goes: "down" | "up") => {
    const mark = await workspace.nextMark(number, picked?.row.line ?? -1, goes);
    if (mark) await goToCell(mark.line, mark.column);
  };
  const onView = useCallback((first: number, last: number) => setView({ from: first, to: last }), []);
  const hasMarks = source.found.error + source.found.warning + source.found.note > 0;
  return (
    <>
      <section className="sheet" aria-label={nameOf(source)}>
        <div className="sheet-top">
          {from !== undefined && (
            <Anchor href={addressOf(["findings"], { code: from })} className="back">
              <Icon name="back" /> {texts.backToFindings}
            </Anchor>
          )}
          <SheetLine name={source.file} info={info} />
          <Button.Group>
            <Button
              size="compact-sm"
              variant="default"
              disabled={!hasMarks}
              onClick={() => void goToMark("up")}
              aria-label={texts.sources.previousMark}
            >
              <Icon name="up" />
            </Button>
            <Button
              size="compact-sm"
              variant="default"
              disabled={!hasMarks}
              onClick={() => void goToMark("down")}
              rightSection={<Icon name="down" />}
            >
              {hasMarks || !isSettled ? texts.sources.nextMark : texts.sources.noMarks}
            </Button>
          </Button.Group>
        </div>
        {info?.isDone === true && info.rows === 0 ? (
          <p className="empty">{texts.sources.noSheet}</p>
        ) : (
          <Grid
            label={nameOf(source)}
            headers={headers}
            total={info?.rows ?? 0}
            id={id}
            ask={ask}
            at={spot}
            markOf={marks}
            onView={onView}
            headerNote={headerNote}
            onPick={(row, at) => setPicked({ row, column: at })}
          />
        )}
        <CellPanel
          headers={headers}
          picked={picked}
          number={number}
          onFollow={(at, header) => {
            // The command line knows rows by their lines; elements of documents have none.
            if (headerLine > 0) onFollow([source.file, at, ...(header === undefined ? [] : [header])].join(":"));
          }}
        />
      </section>
      <LayoutPanel number={number} headers={headers} column={picked ? headers[picked.column] : undefined} />
    </>
  );
}

/** Marks of the lines in view, by line and header. */
function useMarks(number: number, view: { readonly from: number; readonly to: number }, version: number) {
  const { workspace, isSettled } = useProject();
  const [marks, setMarks] = useState<readonly Mark[]>([]);
  useEffect(() => {
    if (!isSettled) return;
    let isCurrent = true;
    void workspace.marks(number, view.from, view.to).then((list) => isCurrent && setMarks(list));
    return () => {
      isCurrent = false;
    };
  }, [workspace, number, view.from, view.to, version, isSettled]);
  return useMemo(() => {
    const byCell = new Map<string, Mark>();
    // The worst is shown: errors come over warnings, those over notes.
    for (const mark of marks) {
      const key = `${mark.line} ${mark.column ?? ""}`;
      const known = byCell.get(key);
      if (!known || weight[mark.severity] > weight[known.severity]) byCell.set(key, mark);
    }
    return (line: number, header: string | undefined) => {
      const mark = byCell.get(`${line} ${header ?? ""}`);
      return mark && { severity: mark.severity, title: mark.message };
    };
  }, [marks]);
}

const weight = { note: 0, warning: 1, error: 2 };

interface CellProps {
  readonly headers: readonly string[];
  readonly picked: { readonly row: GridRow; readonly column: number } | undefined;
  readonly number: number;
  readonly onFollow: (line: number, column: string | undefined) => void;
}

/** The cell that is chosen: what it says in full, what is wrong with it, where it went. */
function CellPanel({ headers, picked, number, onFollow }: CellProps) {
  const texts = useTexts();
  const { overview } = useProject();
  const line = picked?.row.line;
  const header = picked ? headers[picked.column] : undefined;
  const { value: found } = useAsked(
    async (workspace) => (line === undefined ? [] : await workspace.marks(number, line, line)),
    `marks ${number} ${line}`,
  );
  const [isFollowed, setFollowed] = useState("");
  const key = `${line} ${header}`;
  if (!picked) return <p className="cell-panel soft">{texts.sources.pick}</p>;
  const own = (found ?? [])
    .filter(({ column }) => column === header || column === undefined)
    .sort((a, b) => weight[b.severity] - weight[a.severity]);
  return (
    <div className="cell-panel" aria-live="polite">
      <h2>
        {texts.sources.cell} <code>{`${line} · ${header ?? ""}`}</code>
      </h2>
      <p className="cell-text" dir="auto">
        {picked.row.cells[picked.column] ?? ""}
      </p>
      {own.length > 0 && (
        <ul>
          {own.map((mark, at) => (
            <li key={at} className="cell-mark">
              <Sign severity={mark.severity}>{texts.one[mark.severity]}</Sign>
              <span>
                {mark.message} <span className="soft">→ {mark.remedy}</span>
              </span>
            </li>
          ))}
        </ul>
      )}
      {overview?.state === "read" &&
        (isFollowed === key ? (
          <WentTo source={number} line={picked.row.line} column={header} />
        ) : (
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => {
              setFollowed(key);
              onFollow(picked.row.line, header);
            }}
          >
            {texts.sources.wentTo}
          </Button>
        ))}
    </div>
  );
}

interface WentProps {
  readonly source: number;
  readonly line: number;
  readonly column: string | undefined;
}

function WentTo({ source, line, column }: WentProps) {
  const texts = useTexts();
  const { value: cells } = useAsked(
    (workspace) => workspace.traceFrom(source, line, column),
    `went ${source} ${line} ${column}`,
  );
  if (!cells) return <Waiting>{texts.sources.asking}</Waiting>;
  if (cells.length === 0) return <p>{texts.sources.wentNowhere}</p>;
  return (
    <ul className="went">
      {cells.slice(0, 50).map((cell, at) => (
        <li key={at}>
          <Anchor href={addressOf(["rows", cell.file], { line: cell.line, column: cell.header })}>
            <code>{`${cell.file}:${cell.line} ${cell.header}`}</code>
          </Anchor>{" "}
          <span dir="auto" className="cut">
            {cell.text}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** Tells texts apart; not for more. */
function hashOf(text: string): number {
  let hash = 0;
  for (let at = 0; at < text.length; at++) hash = (hash * 31 + text.charCodeAt(at)) | 0;
  return hash;
}

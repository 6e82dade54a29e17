/**
 * A grid of very many rows: only what is seen is there. Rows are asked for in blocks as they come into view, and kept.
 *
 * One stop for the tab key; within, arrows move the active cell. What is active is always in view, so it can be named to a reader.
 */

import { useCallback, useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import { useTexts } from "../texts/texts.js";
import { useWindow } from "./window.js";

export interface GridRow {
  readonly line: number;
  readonly cells: readonly string[];
}

export interface GridMark {
  readonly severity: "error" | "warning" | "note";
  readonly title: string;
}

export interface Spot {
  readonly row: number;
  readonly column: number;
}

interface Props {
  readonly label: string;
  readonly headers: readonly string[];
  readonly total: number;
  /** Another grid has another; rows of the last one are let go. */
  readonly id: string;
  readonly ask: (from: number, count: number) => Promise<readonly GridRow[]>;
  /** By line and header; a mark without a header is on the line's number. */
  readonly markOf?: ((line: number, header: string | undefined) => GridMark | undefined) | undefined;
  /** Where to be: given again, the grid goes there. */
  readonly at?: Spot | undefined;
  readonly onPick?: ((row: GridRow, column: number) => void) | undefined;
  /** What lines come into view. */
  readonly onView?: ((from: number, to: number) => void) | undefined;
  readonly headerNote?: ((header: string) => ReactNode) | undefined;
}

const rowHeight = 28;
const headHeight = 33;
const columnWidth = 144;
const lineWidth = 64;
const blockRows = 128;
const mostBlocks = 60;
/** Chromium lays out at most 2^25 pixels. */
const mostRows = 1_150_000;

export function Grid({ label, headers, total, id, ask, markOf, at, onPick, onView, headerNote }: Props) {
  const texts = useTexts();
  const hintId = useId();
  const cellId = useId();
  const scroller = useRef<HTMLDivElement>(null);
  const blocks = useRef(new Map<number, readonly GridRow[]>());
  const asked = useRef(new Set<number>());
  const [, setArrived] = useState(0);
  const [active, setActive] = useState<Spot>({ row: 0, column: 0 });
  const count = Math.min(total, mostRows);

  const seen = useWindow(scroller, { count, size: rowHeight, before: headHeight, spare: 8 }, "y");
  const across = useWindow(scroller, { count: headers.length, size: columnWidth, before: lineWidth, spare: 2 }, "x");
  const { first, last } = seen;

  useEffect(() => {
    blocks.current = new Map();
    asked.current = new Set();
    setArrived((n) => n + 1);
  }, [id]);

  useEffect(() => {
    if (count === 0) return;
    const own = blocks.current;
    for (let block = Math.floor(first / blockRows); block <= Math.floor(last / blockRows); block++) {
      const held = own.get(block);
      const want = Math.min(blockRows, count - block * blockRows);
      const key = block * 1_000 + want;
      if ((held && held.length >= want) || asked.current.has(key)) continue;
      asked.current.add(key);
      void ask(block * blockRows, blockRows).then((list) => {
        asked.current.delete(key);
        if (own !== blocks.current) return;
        own.set(block, list);
        if (own.size > mostBlocks) own.delete(own.keys().next().value!);
        setArrived((n) => n + 1);
      });
    }
  });

  const rowAt = (row: number): GridRow | undefined =>
    blocks.current.get(Math.floor(row / blockRows))?.[row % blockRows];
  const [firstLine, lastLine] = [rowAt(first)?.line, rowAt(last)?.line];
  useEffect(() => {
    if (firstLine !== undefined && lastLine !== undefined) onView?.(firstLine, lastLine);
  }, [firstLine, lastLine, onView]);

  const goTo = useCallback(
    (spot: Spot, how: "auto" | "center" = "auto") => {
      setActive(spot);
      seen.show(spot.row, how);
      across.show(spot.column, "auto");
    },
    [seen.show, across.show],
  );

  const atRow = at?.row;
  const atColumn = at?.column;
  useEffect(() => {
    if (atRow !== undefined && atColumn !== undefined && atRow < count)
      goTo({ row: atRow, column: atColumn }, "center");
    // Only where one is sent to counts, not how the grid has grown since.
  }, [atRow, atColumn, id, atRow !== undefined && atRow < count]);

  const pick = async (spot: Spot) => {
    const row = rowAt(spot.row) ?? (await ask(spot.row, 1))[0];
    if (row) onPick?.(row, spot.column);
  };

  const onKey = (event: KeyboardEvent) => {
    const { row, column } = active;
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 300) / rowHeight) - 2);
    const isFar = event.ctrlKey || event.metaKey;
    const lastRow = count - 1;
    const lastColumn = headers.length - 1;
    const moves: Readonly<Record<string, Spot>> = {
      ArrowDown: { row: isFar ? lastRow : row + 1, column },
      ArrowUp: { row: isFar ? 0 : row - 1, column },
      ArrowRight: { row, column: isFar ? lastColumn : column + 1 },
      ArrowLeft: { row, column: isFar ? 0 : column - 1 },
      PageDown: { row: row + page, column },
      PageUp: { row: row - page, column },
      Home: { row: isFar ? 0 : row, column: 0 },
      End: { row: isFar ? lastRow : row, column: lastColumn },
    };
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      return void pick(active);
    }
    const to = Object.hasOwn(moves, event.key) ? moves[event.key] : undefined;
    if (!to) return;
    event.preventDefault();
    goTo({ row: clamp(to.row, lastRow), column: clamp(to.column, lastColumn) });
  };

  const rowsSeen = numbersFrom(first, last);
  const columnsSeen = numbersFrom(across.first, across.last);
  const isActiveSeen = rowsSeen.includes(active.row) && columnsSeen.includes(active.column);
  const width = lineWidth + headers.length * columnWidth;

  return (
    <div
      className="grid"
      ref={scroller}
      role="grid"
      tabIndex={0}
      aria-label={label}
      aria-describedby={hintId}
      aria-rowcount={total + 1}
      aria-colcount={headers.length + 1}
      aria-activedescendant={isActiveSeen && rowAt(active.row) ? `${cellId}-cell` : undefined}
      onKeyDown={onKey}
    >
      <span id={hintId} className="hidden-text">
        {texts.grid.hint}
      </span>
      <div role="row" aria-rowindex={1} className="grid-head" style={{ width }}>
        <div role="columnheader" aria-colindex={1} className="grid-line" style={{ width: lineWidth }}>
          {texts.sources.line}
        </div>
        {columnsSeen.map((index) => (
          <div
            key={index}
            role="columnheader"
            aria-colindex={index + 2}
            className="grid-cell"
            style={{ width: columnWidth, insetInlineStart: lineWidth + index * columnWidth }}
            title={headers[index]}
          >
            <span className="cut">{headers[index]}</span>
            {headerNote?.(headers[index]!)}
          </div>
        ))}
      </div>
      <div role="rowgroup" style={{ height: count * rowHeight, width, position: "relative" }}>
        {rowsSeen.map((index) => {
          const row = rowAt(index);
          const lineMark = row && markOf?.(row.line, undefined);
          return (
            <div
              key={index}
              role="row"
              aria-rowindex={index + 2}
              className={index % 2 === 0 ? "grid-row" : "grid-row odd"}
              style={{ transform: `translateY(${index * rowHeight}px)`, height: rowHeight, width }}
            >
              <div
                role="rowheader"
                aria-colindex={1}
                className={lineMark ? `grid-line marked ${lineMark.severity}` : "grid-line"}
                style={{ width: lineWidth }}
                title={lineMark?.title}
              >
                {lineMark && <span className="hidden-text">{texts.one[lineMark.severity]} </span>}
                {row?.line ?? "…"}
              </div>
              {columnsSeen.map((column) => {
                const isActive = active.row === index && active.column === column;
                const mark = row && markOf?.(row.line, headers[column]);
                const text = row?.cells[column] ?? "";
                return (
                  // The grid itself takes the keys; a cell only the pointer.
                  <div
                    key={column}
                    id={isActive ? `${cellId}-cell` : undefined}
                    role="gridcell"
                    aria-colindex={column + 2}
                    aria-selected={isActive}
                    dir="auto"
                    className={`grid-cell${isActive ? " active" : ""}${mark ? ` marked ${mark.severity}` : ""}`}
                    style={{ width: columnWidth, insetInlineStart: lineWidth + column * columnWidth }}
                    title={mark ? `${texts.one[mark.severity]}: ${mark.title}` : undefined}
                    onClick={() => {
                      setActive({ row: index, column });
                      void pick({ row: index, column });
                    }}
                  >
                    {mark && <span className="hidden-text">{texts.one[mark.severity]}: </span>}
                    {text.length > 300 ? text.slice(0, 300) : text}
                  </div>
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}

const numbersFrom = (first: number, last: number): number[] =>
  Array.from({ length: Math.max(0, last - first + 1) }, (_, at) => first + at);
const clamp = (at: number, last: number): number => Math.max(0, Math.min(last, at));

/** The layout of a source beside its sheet: column by column, or as it is written; changed by hand, with the effect seen at once. */

import { Autocomplete, Button, SegmentedControl, Textarea } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { useAsked, useProject } from "../open-project.js";
import type { LayoutColumn, LayoutView } from "../workspace/views.js";
import { Counts, Waiting } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";

interface LayoutProps {
  readonly number: number;
  readonly headers: readonly string[];
  /** The column that is chosen in the sheet. */
  readonly column: string | undefined;
}

export function LayoutPanel({ number, headers, column }: LayoutProps) {
  const texts = useTexts();
  const { isSettled, overview } = useProject();
  const [shows, setShows] = useState<"columns" | "text">("columns");
  const { value: layout } = useAsked(
    (workspace) => workspace.layout(number, headers, isSettled && overview?.state === "read"),
    `layout ${number} ${headers.join("\u0000")} ${isSettled}`,
  );
  return (
    <section className="layout" aria-label={texts.sources.layout}>
      <div className="layout-top">
        <h2>{texts.sources.layout}</h2>
        <SegmentedControl
          size="xs"
          value={shows}
          onChange={(value) => setShows(value)}
          data={[
            { value: "columns", label: texts.sources.columns },
            { value: "text", label: texts.sources.text },
          ]}
        />
      </div>
      {layout && <code className="soft place">{layout.file}</code>}
      {layout?.isShipped === true && <p className="soft">{texts.sources.shipped}</p>}
      {!layout ? (
        <Waiting>{texts.doing.working}</Waiting>
      ) : shows === "columns" ? (
        <LayoutColumns layout={layout} number={number} here={column} />
      ) : (
        <LayoutText file={layout.file} text={layout.text} isFixed={layout.isShipped} />
      )}
    </section>
  );
}

function LayoutColumns({
  layout,
  number,
  here,
}: {
  readonly layout: LayoutView;
  readonly number: number;
  readonly here: string | undefined;
}) {
  const texts = useTexts();
  const [open, setOpen] = useState<string>();
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    if (here !== undefined)
      list.current?.querySelector(`[data-header="${CSS.escape(here)}"]`)?.scrollIntoView({ block: "nearest" });
  }, [here]);
  return (
    <ul className="layout-columns" ref={list}>
      {layout.columns.map((column) => (
        <li key={column.header} data-header={column.header} className={column.header === here ? "here" : undefined}>
          <button
            type="button"
            className="layout-column"
            aria-expanded={open === column.header}
            disabled={layout.isShipped}
            onClick={() => setOpen(open === column.header ? undefined : column.header)}
          >
            <span className="layout-header" dir="auto">
              {column.header}
            </span>
            <span className="layout-feeds">
              {column.isIgnored ? (
                <i>{texts.sources.ignored}</i>
              ) : column.binding === undefined ? (
                <i className="unbound">{texts.sources.unbound}</i>
              ) : (
                <code dir="ltr">{column.binding}</code>
              )}
            </span>
            <Counts found={column.found} isShort />
            {column.binding !== undefined && column.sure !== "by hand" && (
              <span className={`sureness ${column.sure}`} title={column.why}>
                {texts.sources.sureness[column.sure]}
              </span>
            )}
          </button>
          {open === column.header && (
            <BindForm column={column} number={number} choices={layout.choices} close={() => setOpen(undefined)} />
          )}
        </li>
      ))}
    </ul>
  );
}

interface BindProps {
  readonly column: LayoutColumn;
  readonly number: number;
  readonly choices: readonly string[];
  readonly close: () => void;
}

function BindForm({ column, number, choices, close }: BindProps) {
  const texts = useTexts();
  const { act, overview, say, workspace } = useProject();
  const [binding, setBinding] = useState(column.binding ?? "");
  const [isWrong, setWrong] = useState(false);
  const bind = async (to: string | undefined) => {
    const before = overview!.found;
    const isDone = await act((own) => own.bindColumn(number, column.header, to));
    if (!isDone) return setWrong(true);
    close();
    const { found, state } = await workspace.overview("planned");
    const sum = ({ error, warning, note }: typeof found) => error + warning + note;
    say(
      state === "broken"
        ? texts.brokenTitle
        : `${column.header} → ${to ?? texts.sources.unbound}. ${texts.sources.effect(sum(before), sum(found))}`,
    );
  };
  return (
    <form
      className="bind"
      onSubmit={(event) => {
        event.preventDefault();
        void bind(binding.trim());
      }}
    >
      {column.why !== "" && (
        <p className="soft" lang="en">
          {column.why}
        </p>
      )}
      <Autocomplete
        size="sm"
        label={texts.sources.bind}
        description={texts.sources.bindHint}
        value={binding}
        onChange={(value) => {
          setBinding(value);
          setWrong(false);
        }}
        data={[...choices]}
        limit={60}
        comboboxProps={{ withinPortal: false }}
        error={isWrong ? texts.sources.notYaml : undefined}
        data-autofocus
        autoFocus
      />
      <div className="bind-buttons">
        <Button size="compact-sm" type="submit" disabled={binding.trim() === ""}>
          {texts.apply}
        </Button>
        <Button size="compact-sm" variant="default" onClick={() => void bind("ignored")}>
          {texts.sources.ignore}
        </Button>
        <Button size="compact-sm" variant="default" onClick={() => void bind(undefined)}>
          {texts.sources.leave}
        </Button>
      </div>
    </form>
  );
}

export function LayoutText({
  file,
  text,
  isFixed,
}: {
  readonly file: string;
  readonly text: string;
  readonly isFixed: boolean;
}) {
  const texts = useTexts();
  const { act } = useProject();
  const [own, setOwn] = useState(text);
  useEffect(() => setOwn(text), [text]);
  return (
    <form
      className="layout-text"
      onSubmit={(event) => {
        event.preventDefault();
        void act((workspace) => workspace.setText(file, own));
      }}
    >
      <Textarea
        aria-label={file}
        value={own}
        onChange={(event) => setOwn(event.currentTarget.value)}
        readOnly={isFixed}
        spellCheck={false}
        autosize
        minRows={10}
        maxRows={28}
        classNames={{ input: "mono" }}
      />
      <div className="bind-buttons">
        <Button size="compact-sm" type="submit" disabled={own === text || isFixed}>
          {texts.apply}
        </Button>
        <Button size="compact-sm" variant="default" disabled={own === text} onClick={() => setOwn(text)}>
          {texts.cancel}
        </Button>
      </div>
    </form>
  );
}

/** The bar: what is open, for which platform, what may be undone, what may be saved. */

import { ActionIcon, Button, Loader, Menu, NativeSelect, Switch } from "@mantine/core";
import { Icon, Mark, Switches } from "@zest-tier/kit";
import { useEffect, useRef, useState } from "react";
import { useProject, useDoing, type Doing } from "./open-project.js";
import { chosen, saveBlob } from "./parts/dropping.js";
import { useTexts, type WorkbenchTexts } from "./texts/texts.js";

export function Bar() {
  const texts = useTexts();
  const { overview, act } = useProject();
  useKeys();
  const [undo, redo] = [overview?.undo, overview?.redo];
  const naming = (word: string, did: typeof undo) => (did ? `${word}: ${texts.did[did.what](did.to)}` : word);
  return (
    <header className="bar">
      <span className="brand">
        <Mark />
        <b>Zest Tier</b> <span className="soft">{texts.title}</span>
      </span>
      <span className="project" title={overview?.name} dir="auto">
        {overview?.name}
      </span>
      {overview && overview.targets.length > 0 && (
        <NativeSelect
          size="xs"
          aria-label={texts.target}
          value={overview.target ?? ""}
          data={[...overview.targets]}
          onChange={(event) => {
            const name = event.currentTarget.value;
            void act((workspace) => workspace.setTarget(name));
          }}
        />
      )}
      {overview && <HoldBack isOn={overview.holdBack} />}
      <DoingNow />
      <ActionIcon
        variant="default"
        size={32}
        aria-label={naming(texts.undo, undo)}
        title={naming(texts.undo, undo)}
        disabled={!undo}
        onClick={() => void act((workspace) => workspace.undo())}
      >
        <Icon name="undo" />
      </ActionIcon>
      <ActionIcon
        variant="default"
        size={32}
        aria-label={naming(texts.redo, redo)}
        title={naming(texts.redo, redo)}
        disabled={!redo}
        onClick={() => void act((workspace) => workspace.redo())}
      >
        <Icon name="redo" />
      </ActionIcon>
      <OpenMenu />
      <SaveMenu />
      <Switches />
    </header>
  );
}

/** It turns at once; what becomes of it takes longer. */
function HoldBack({ isOn }: { readonly isOn: boolean }) {
  const texts = useTexts();
  const { act } = useProject();
  const [wanted, setWanted] = useState(isOn);
  useEffect(() => setWanted(isOn), [isOn]);
  return (
    <Switch
      size="xs"
      label={texts.holdBack}
      checked={wanted}
      onChange={(event) => {
        const next = event.currentTarget.checked;
        setWanted(next);
        void act((workspace) => workspace.setHoldBack(next));
      }}
    />
  );
}

function DoingNow() {
  const texts = useTexts();
  const { overview, isSettled } = useProject();
  const doing = useDoing();
  return (
    <span className="doing" role="status">
      {doing ? (
        <>
          <Loader size={14} aria-hidden="true" />
          <span>{doingText(doing, texts, overview?.bytes)}</span>
        </>
      ) : isSettled ? (
        <span className="soft">{texts.ready}</span>
      ) : null}
    </span>
  );
}

function doingText(doing: Doing, texts: WorkbenchTexts, all: number | undefined): string {
  if (doing.what !== "reading") return texts.doing[doing.what];
  const percent =
    all !== undefined && all > 1_000_000 ? `${Math.min(99, Math.round((100 * doing.bytes) / all))} %` : "";
  return texts.doing.reading(doing.file, percent);
}

/** Undo and redo by the keys that everyone knows, but not while a text is written. */
function useKeys(): void {
  const { act, overview } = useProject();
  const [canUndo, canRedo] = [overview?.undo !== undefined, overview?.redo !== undefined];
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isWriting = event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
      if (!(event.ctrlKey || event.metaKey) || isWriting) return;
      const key = event.key.toLowerCase();
      const isRedo = key === "y" || (key === "z" && event.shiftKey);
      if (isRedo ? !canRedo : key !== "z" || !canUndo) return;
      event.preventDefault();
      void act((workspace) => (isRedo ? workspace.redo() : workspace.undo()));
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [act, canUndo, canRedo]);
}

function OpenMenu() {
  const texts = useTexts();
  const { open, add, openDemo } = useProject();
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const more = useRef<HTMLInputElement>(null);
  return (
    <>
      <Menu position="bottom-end" shadow="md" withinPortal={false} withInitialFocusPlaceholder={false}>
        <Menu.Target>
          <Button size="xs" variant="default" leftSection={<Icon name="open" />}>
            {texts.open}
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => files.current?.click()}>{texts.openFiles}</Menu.Item>
          <Menu.Item onClick={() => folder.current?.click()}>{texts.openFolder}</Menu.Item>
          <Menu.Item onClick={() => more.current?.click()}>{texts.addFiles}</Menu.Item>
          <Menu.Item onClick={() => void openDemo()}>{texts.openDemo}</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <input
        ref={files}
        type="file"
        multiple
        hidden
        data-what="files"
        onChange={(event) => void open(chosen(event.currentTarget.files))}
      />
      <input
        ref={(element) => {
          folder.current = element;
          element?.setAttribute("webkitdirectory", "");
        }}
        type="file"
        hidden
        data-what="folder"
        onChange={(event) => void open(chosen(event.currentTarget.files))}
      />
      <input
        ref={more}
        type="file"
        multiple
        hidden
        data-what="more"
        onChange={(event) => void add(chosen(event.currentTarget.files))}
      />
    </>
  );
}

function SaveMenu() {
  const texts = useTexts();
  const { say, overview } = useProject();
  const { saveUpload, saveRunSheet, saveLayouts, saveProject } = useSaving();
  const saying = (saving: Promise<string | undefined>, told = texts.saved) =>
    void saving.then((name) => say(name === undefined ? texts.notSaved : told(name)));
  const savedUpload = overview?.large?.what === "rehearsal" ? texts.savedUnrehearsed : texts.saved;
  return (
    <Menu position="bottom-end" shadow="md" withinPortal={false} withInitialFocusPlaceholder={false}>
      <Menu.Target>
        <Button size="xs" leftSection={<Icon name="save" />}>
          {texts.save}
        </Button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={() => saying(saveUpload(), savedUpload)}>{texts.saveUpload}</Menu.Item>
        <Menu.Item onClick={() => saying(saveRunSheet())}>{texts.saveRunSheet}</Menu.Item>
        <Menu.Item onClick={() => saying(saveLayouts())}>{texts.saveLayouts}</Menu.Item>
        <Menu.Item onClick={() => saying(saveProject())}>{texts.saveProject}</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}

/** Each tells the name of what it has saved; undefined where there was nothing to save. */
export function useSaving() {
  const { workspace, overview } = useProject();
  const name = overview?.name ?? "project";
  const saving = (file: string, ask: () => Promise<Blob | undefined>) => async (): Promise<string | undefined> => {
    const blob = await ask();
    if (!blob) return undefined;
    saveBlob(blob, file);
    return file;
  };
  return {
    saveUpload: saving(`upload-${overview?.target}.zip`, () => workspace.saveUpload()),
    saveRunSheet: saving("run-sheet.html", () => workspace.runSheet()),
    saveLayouts: saving(`${name}-layouts.zip`, () => workspace.saveLayouts()),
    saveProject: saving(`${name}.zip`, () => workspace.saveProject()),
  };
}

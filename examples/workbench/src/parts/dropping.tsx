/** Files and folders, dropped anywhere or chosen: with their paths, whoever brings them. */

import { useEffect, useState } from "react";
import type { Dropped } from "../workspace/opening.js";
import { useTexts } from "../texts/texts.js";

/** Folders deeper than this, or with more files, are none that anybody intended. */
const mostDepth = 12;
const mostFiles = 20_000;

export function DropEverywhere({ onDrop }: { readonly onDrop: (dropped: Dropped) => void }) {
  const texts = useTexts();
  const [isOver, setOver] = useState(false);
  useEffect(() => {
    let depth = 0;
    const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
    const enter = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      depth++;
      setOver(true);
    };
    const leave = () => {
      depth = Math.max(0, depth - 1);
      if (depth === 0) setOver(false);
    };
    const over = (event: DragEvent) => {
      if (hasFiles(event)) event.preventDefault();
    };
    const drop = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      depth = 0;
      setOver(false);
      void filesOf(event.dataTransfer!).then((dropped) => onDrop(dropped));
    };
    addEventListener("dragenter", enter);
    addEventListener("dragleave", leave);
    addEventListener("dragover", over);
    addEventListener("drop", drop);
    return () => {
      removeEventListener("dragenter", enter);
      removeEventListener("dragleave", leave);
      removeEventListener("dragover", over);
      removeEventListener("drop", drop);
    };
  }, [onDrop]);
  return isOver ? (
    <div className="drop-over">
      <p>{texts.dropHere}</p>
      <p>{texts.dropLead}</p>
    </div>
  ) : null;
}

/** What was chosen in a file dialog; of a folder, with paths within it. */
export const chosen = (files: FileList | null): Dropped =>
  [...(files ?? [])].map((file) => [file.webkitRelativePath === "" ? file.name : file.webkitRelativePath, file]);

async function filesOf(transfer: DataTransfer): Promise<Dropped> {
  // Entries are gone after the event: they are taken first.
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry());
  const plain = [...transfer.files];
  const found: [string, Blob][] = [];
  for (const entry of entries) if (entry) await walk(entry, "", 0, found);
  return found.length > 0 ? found : plain.map((file) => [file.name, file]);
}

async function walk(entry: FileSystemEntry, folder: string, depth: number, found: [string, Blob][]): Promise<void> {
  if (depth > mostDepth || found.length >= mostFiles) return;
  const path = folder === "" ? entry.name : `${folder}/${entry.name}`;
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    found.push([path, file]);
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) return;
    for (const one of some) await walk(one, path, depth + 1, found);
  }
}

/** Hands a file to the browser to be saved. */
export function saveBlob(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/**
 * How much memory it is expected to take to read sources and to rehearse them, and how much is taken unasked. The factors are measured, on
 * catalogues of 100 000 and 1 000 000 rows.
 */

import type { Project, Source } from "zest-tier";
import type { Files } from "./job.js";

/** Bytes of memory for each byte of a source. A text beside that takes some for each row. */
const perByte = { text: 4, document: 5, workbook: 24, packed: 40 };
const perRow = 600;
/** For each row that was read: the upload, the platform and what it holds, read again. */
const perRehearsedRow = 4_500;

/** The beginning of a text, by which its rows are estimated. */
const lookedAt = 65_536;

/** Browsers end a page whose scripts take more than 4 GB, and some do not say what the device has. */
const unknownDevice = 1.8;
const usualDevice = 8;
const shareUnasked = 0.3;

/** Bytes of memory that are taken unasked. @param deviceMemory in GB, as browsers say it. */
export function unaskedMemory({ deviceMemory = unknownDevice }: { readonly deviceMemory?: number }): number {
  return Math.min(deviceMemory, usualDevice) * shareUnasked * 1e9;
}

/** Bytes of memory that reading the sources of a project is expected to take. */
export async function memoryToRead({ sources }: Project, files: Files): Promise<number> {
  // The sheets of a workbook are opened together.
  const isFirst = ({ file, layout }: Source, at: number) =>
    layout.format.is !== "workbook" || sources.findIndex((one) => one.file === file) === at;
  const all = sources.filter(isFirst).map((source) => memoryOf(source, files.get(source.file)));
  return (await Promise.all(all)).reduce((sum, one) => sum + one, 0);
}

/** @param rows that were read, of all sources. */
export const memoryToRehearse = (rows: number): number => rows * perRehearsedRow;

async function memoryOf({ layout, within }: Source, blob: Blob | undefined): Promise<number> {
  const { format } = layout;
  const size = blob?.size ?? 0;
  if (!blob || size === 0) return 0;
  if (format.is === "workbook") return size * perByte.workbook;
  const beginning = new Uint8Array(await blob.slice(0, lookedAt).arrayBuffer());
  if (within !== undefined || isArchive(beginning)) return size * perByte.packed;
  if (format.is === "xml" || format.is === "json") return size * perByte.document;
  const lines = beginning.reduce((count, byte) => (byte === 10 ? count + 1 : count), 1);
  return size * perByte.text + (size / beginning.length) * lines * perRow;
}

const isArchive = ([p, k]: Uint8Array): boolean => p === 0x50 && k === 0x4b;

/** What a program adds to a project file: sources, targets, pictures. */

import { isMap, isSeq, parseDocument } from "yaml";

/** A file and its layout, as a project names them. */
export interface DraftedSource {
  readonly file: string;
  readonly within?: string;
  readonly layout: string;
}

/** Adds a source to a project file. @returns the text with one source more; undefined where it is not a project. */
export const addSource = (text: string, source: DraftedSource): string | undefined =>
  withMore(text, "sources", { ...source });

/** Adds a target to a project file. @returns the text with one target more; undefined where it is not a project. */
export const addTarget = (text: string, target: string): string | undefined => withMore(text, "targets", { target });

/**
 * Adds a folder of pictures to a project file.
 *
 * @returns the text with a folder of pictures, where it has none yet; undefined where it is not a project.
 */
export function addPictures(text: string, folder: string): string | undefined {
  const document = parseDocument(text);
  if (document.errors.length > 0 || !isMap(document.contents)) return undefined;
  if (!document.has("pictures")) document.set("pictures", folder);
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });
}

function withMore(text: string, list: string, entry: object): string | undefined {
  const document = parseDocument(text);
  if (document.errors.length > 0 || !isSeq(document.get(list))) return undefined;
  document.addIn([list], document.createNode(entry, { flow: true }));
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });
}

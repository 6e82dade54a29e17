/** What stands in a document and is read by no path of a layout: it would be lost in silence. */

/** A path that is read, seen from an element that may be repeated. */
export interface PathRead {
  /** Steps from the block's element to the one that the path is seen from. */
  readonly levels: readonly string[];
  readonly path: string;
}

/** A value that no path reads. */
export interface UnreadValue {
  /** Seen from the block's element, as a layout would name it. */
  readonly path: string;
  /** Of the element that holds it, where the format tells. */
  readonly line?: number;
  /** How many there are at the path; one, if left out. */
  readonly values?: number;
}

/** Looks for what is not read. */
export interface UnreadFinder<N> {
  /** In the element of a block. */
  readonly within: (node: N) => readonly UnreadValue[];
  /**
   * In the elements that blocks lie in, and beside them: of each once, when it is complete.
   *
   * @param next the block that comes now; undefined at the end.
   */
  readonly around: (next: N | undefined) => readonly UnreadValue[];
}

/** Paths by the element that they are seen from: each of these elements is looked for once. */
export function byLevels(
  reads: readonly PathRead[],
): { readonly levels: readonly string[]; readonly paths: string[] }[] {
  const groups = new Map<string, { readonly levels: readonly string[]; readonly paths: string[] }>();
  for (const { levels, path } of reads) {
    const name = levels.join("\n");
    const group = groups.get(name) ?? { levels, paths: [] };
    groups.set(name, group);
    group.paths.push(path);
  }
  return [...groups.values()];
}

/** A project as it is proposed, settled round by round: it is opened as it would be, until the platform needs nothing more that can be made. */

import { stringify } from "yaml";
import type { DraftOptions } from "../draft/drafter.js";
import type { Question } from "../draft/target.js";
import type { ReadonlyFindings } from "../findings/finding.js";
import { success } from "../findings/result.js";
import { boundTo } from "../layout/bindings/bound-to.js";
import type { FilesPort } from "../ports.js";
import { planUpload } from "./build.js";
import { neededFields, type NeededRule } from "./needed-fields.js";
import {
  currencyOf,
  fieldGiven,
  hasPictures,
  languageSetting,
  languagesOf,
  sourcesOf,
  type NewSource,
  type PlacedSample,
} from "./new-sources.js";
import { openProject, openTarget, readSourcesOf, type OpenedTarget } from "./open.js";
import type { ProjectPorts } from "./ports.js";
import { added } from "../lists.js";

/** The platform of a new project: a target, as text, or a file of its own that shows what it takes. */
export type NewTarget =
  | { readonly is: "shipped"; readonly name: string }
  | { readonly is: "target"; readonly path: string; readonly text: string }
  | { readonly is: "sample"; readonly name: string; readonly file: string };

/** What a project is to be made of. */
export interface NewProjectInput {
  readonly name: string;
  /** The files, and where they will lie in the project. */
  readonly sources: readonly { readonly file: string; readonly path: string }[];
  /** The picture files, where any are there. */
  readonly pictures?: { readonly folder: string; readonly names: readonly string[] } | undefined;
  /** Where the files are now. */
  readonly ports: ProjectPorts;
  readonly target: NewTarget;
  /** By the names of questions. */
  readonly replies: ReadonlyMap<string, string>;
  /** Whether the files are only looked at: what the platform needs is not found out by reading them whole. */
  readonly isQuick?: boolean | undefined;
  /** Whether files of which nothing can be bound are sources too, to be bound by hand. */
  readonly keepsUnbound?: boolean | undefined;
}

/** A project that is proposed: texts by path, and what is open. */
export interface NewProject {
  readonly written: ReadonlyMap<string, string>;
  readonly sources: readonly NewSource[];
  readonly questions: readonly Question[];
  /** Fields that the platform needs and no file gives, with how they are made. */
  readonly derived: readonly NeededRule[];
  readonly target: string;
}

/** The target as the project names it, with the text of its file where it is one of the project's own. */
export interface MadeTarget {
  readonly named: string;
  readonly path?: string;
  readonly text?: string;
  readonly questions: readonly Question[];
}

const schemaLine = (name: string, depth: string): string =>
  `# yaml-language-server: $schema=${depth}schemas/${name}.schema.json\n`;

/** Rounds in which needed fields are looked for: what one gives, another may need. */
const maxRounds = 4;

/** A project that is being proposed: what it consists of, and what is asked about it. */
export class ProjectProposal {
  #derived: readonly NeededRule[] = [];
  #questions: Question[] = [];
  #settings: Readonly<Record<string, string>> = {};
  #languages: readonly string[];
  #gaps: Readonly<Record<string, { copy: string }>> = {};

  #options: DraftOptions = {};
  #precedence: ReadonlySet<string> = new Set();
  sources: readonly NewSource[];

  constructor(
    readonly input: NewProjectInput,
    readonly samples: readonly PlacedSample[],
    readonly target: MadeTarget,
  ) {
    this.sources = sourcesOf(samples, {}, input.keepsUnbound);
    if (this.sources.some(hasPictures) && this.#picturesCome() === "later") this.#redraft({ withoutPictures: true });
    this.#languages = languagesOf(this.sources);
    this.#ask("currency", "In which currency are the prices?", currencyOf(this.sources) ?? "EUR");
    this.#precedence = new Set(this.#twice().map((one) => this.#whichCounts(one)));
  }

  #redraft(more: DraftOptions): void {
    this.#options = { ...this.#options, ...more };
    this.sources = sourcesOf(this.samples, this.#options, this.input.keepsUnbound);
  }

  #isList(path: string): boolean {
    return this.sources.some((one) => one.path === path && "found by" in one.draft.rows);
  }

  /** The fields that a list and another file give of the same articles, once for each pair of files. */
  #twice(): { readonly field: string; readonly paths: readonly string[] }[] {
    const byFiles = new Map<string, { field: string; paths: string[] }>();
    const given = new Map<string, string[]>();
    for (const { path, draft } of this.sources)
      for (const { binding } of draft.lines) {
        const field = fieldGiven(binding);
        if (field !== undefined) given.set(field, added(given.get(field), path));
      }
    for (const [field, paths] of given)
      if (new Set(paths).size > 1 && paths.some((path) => this.#isList(path)))
        byFiles.set(paths.join("\n"), { field, paths: [...new Set(paths)] });
    return [...byFiles.values()];
  }

  /** The file whose values count: a list that says more of articles is newer, as a rule, than the file that gives them. */
  #whichCounts({ field, paths }: { readonly field: string; readonly paths: readonly string[] }): string {
    const asks = `${paths.join(" and ")} both give ${field}. Which file counts?`;
    return this.#ask(`file of ${field}`, asks, paths.find((path) => this.#isList(path)) ?? paths[0]!, paths);
  }

  get #pictures(): readonly string[] {
    return this.input.pictures?.names ?? [];
  }

  /** Whether pictures that files name are uploaded now, or once their files are there. */
  #picturesCome(): string {
    if (this.#pictures.length > 0) return "now";
    const asks = "The files name pictures, and none was given. Leave them out until they are there, or bind them now?";
    return this.#ask("pictures", asks, "later", ["later", "now"]);
  }

  /** Opens the project as it is proposed, until the target needs nothing more that can be made. */
  async settle(): Promise<void> {
    for (let round = 0; round < maxRounds; round++) {
      const opened = await this.#opened();
      if (!opened) return;
      if (round === 0 && this.#takeLanguages(opened)) continue;
      const { findings } = await planUpload(opened);
      if (this.#leavesGroupPrices(opened, findings)) continue;
      const needed = neededFields(opened, findings, this.#languages[0]!, (name, asks, preset, choices) =>
        this.#ask(name, asks, preset, choices),
      );
      const more = needed.filter(({ field }) => this.#derived.every((one) => one.field !== field));
      if (more.length === 0) return;
      this.#derived = [...this.#derived, ...more];
    }
  }

  /** @returns whether prices for groups are left out from now on, as the target takes them only from a quantity on. */
  #leavesGroupPrices({ target, catalogue }: OpenedTarget, findings: ReadonlyFindings): boolean {
    if (this.#options.withoutGroupPrices) return false;
    const isBound = this.sources.some(({ draft }) =>
      draft.lines.some(({ binding }) => fieldGiven(binding)?.includes("customerGroup")),
    );
    const isOfQuantity = (kind: string, column: string) =>
      boundTo(target, column, kind, catalogue.kinds).some((field) => /quantityFrom|customerGroup/.test(field));
    const isRefused = findings.list().some(({ code, facts, at }) => {
      const columns = Object.values(facts).filter((one) => typeof one === "string");
      return code === "target/half" && columns.some((column) => isOfQuantity(at?.record?.kind ?? "", column));
    });
    if (!isBound || !isRefused) return false;
    const asks = `${target.name} takes prices for groups of customers only from a quantity on. Leave them out?`;
    if (this.#ask("prices of groups", asks, "leave out", ["leave out", "keep"]) !== "leave out") return false;
    this.#redraft({ withoutGroupPrices: true });
    return true;
  }

  /** @returns the reply, else what is assumed. */
  #ask(name: string, asks: string, preset: string, choices?: readonly string[]): string {
    const known = this.#questions.find((one) => one.name === name);
    const answer = this.input.replies.get(name);
    if (!known) this.#questions.push({ name, asks, preset, answer, ...(choices ? { choices } : {}) });
    return answer ?? preset;
  }

  async #opened(): Promise<OpenedTarget | undefined> {
    const { ports, sources } = this.input;
    const written = this.#written();
    const from = new Map(sources.map(({ file, path }) => [path, file]));
    const files: FilesPort = {
      read: (path) => {
        const text = written.get(path);
        return text === undefined ? ports.files.read(from.get(path) ?? path) : Promise.resolve(success(inBytes(text)));
      },
      list: () => Promise.resolve(this.#pictures.map((name) => ({ name, bytes: 0 }))),
    };
    const opened = await openProject({ ...ports, files });
    const read = opened.ok ? await readSourcesOf(opened.value) : opened;
    const target = read.ok ? await openTarget(read.value) : read;
    return target.ok ? target.value : undefined;
  }

  /**
   * Where the platform has other languages first than the files are in, its own settings are taken, else texts are copied.
   *
   * @returns whether anything changed.
   */
  #takeLanguages({ target }: OpenedTarget): boolean {
    const [source] = this.#languages;
    const [first] = target.languages;
    const lacking = target.languages.filter((lang) => !this.#languages.includes(lang));
    if (first === source && lacking.length === 0) return false;
    const setting = languageSetting(target.languageSettings, this.#languages);
    if (setting) {
      this.#settings = setting;
      return true;
    }
    if (first === undefined || first === source) return false;
    const reply = this.#ask(
      `texts in ${first}`,
      `The platform needs every text in ${first}. Copy those in ${source} where the files have none?`,
      "copy",
      ["copy", "leave blank"],
    );
    if (reply !== "copy") return false;
    this.#languages = [...new Set([...this.#languages, first])];
    this.#gaps = { [first]: { copy: "" } };
    return true;
  }

  #written(): Map<string, string> {
    const files = new Map<string, string>();
    for (const { layout, draft } of this.sources)
      if (layout !== undefined) files.set(layout, schemaLine("layout", "../") + draft.yaml);
    if (this.target.path !== undefined && this.target.text !== undefined) files.set(this.target.path, this.target.text);
    files.set("project.yaml", schemaLine("project", "") + this.#projectYaml());
    return files;
  }

  #projectYaml(): string {
    const flow = (value: unknown): string =>
      stringify(value, { collectionStyle: "flow", lineWidth: 0, flowCollectionPadding: true }).trim();
    const currency = this.#questions.find(({ name }) => name === "currency");
    const read = this.sources.filter(({ layout }) => layout !== undefined);
    const unread = this.sources.filter(({ layout }) => layout === undefined);
    const settings = Object.keys(this.#settings).length > 0 ? { settings: this.#settings } : {};
    return [
      stringify({ project: this.input.name }).trim(),
      "about: Made of the files as they came. Look over what is marked as likely in the layouts, and what is derived here.",
      "sources:",
      ...read.map(({ path, layout }) => {
        const precedence = this.#precedence.has(path) ? { precedence: 1 } : {};
        return `  - ${flow({ file: path, layout, ...precedence })}`;
      }),
      ...unread.map(({ path }) => `  # ${path}: nothing of it could be bound`),
      ...(currency ? [`currency: ${currency.answer ?? currency.preset}`] : []),
      `languages: ${flow(this.#languages)}`,
      ...(this.#pictures.length > 0 ? [stringify({ pictures: this.input.pictures!.folder }).trim()] : []),
      ...(Object.keys(this.#gaps).length > 0 ? [`gaps: ${flow(this.#gaps)}`] : []),
      ...(this.#derived.length > 0 ? ["derive:"] : []),
      ...this.#derived.map(({ rule, why }) => `  - ${flow(rule)} # ${why}`),
      "targets:",
      `  - ${flow({ target: this.target.named, ...settings })}`,
      "",
    ].join("\n");
  }

  proposed(): NewProject {
    const questions = [...this.target.questions, ...this.#questions];
    return {
      written: this.#written(),
      sources: this.sources,
      questions,
      derived: this.#derived,
      target: this.target.named.replace(/\.yaml$/, ""),
    };
  }
}

async function* inBytes(text: string): AsyncGenerator<Uint8Array> {
  yield await Promise.resolve(new TextEncoder().encode(text));
}

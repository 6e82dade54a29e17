/**
 * A project for files that come without one: their layouts drafted together, the target, the fields that it needs and no file gives.
 *
 * What cannot be known is asked, each question with what is assumed until there is a reply. Nothing is written here.
 */

import { stringify } from "yaml";
import { draftTogether, type Draft, type SampleToDraft } from "../draft/draft.js";
import type { DraftOptions } from "../draft/drafter.js";
import { lookAt } from "../draft/look.js";
import { draftTarget, type Question } from "../draft/target.js";
import { Findings, type ReadonlyFindings, type Result } from "../findings/finding.js";
import { failure, resultOf, success } from "../findings/result.js";
import { finding } from "../findings/finding.js";
import { boundTo } from "../layout/bindings/bound-to.js";
import type { FilesPort } from "../ports.js";
import type { Target } from "../target/target.js";
import { neededFields, type NeededRule } from "./needed-fields.js";
import { layoutName } from "./layouts.js";
import { openProject, openTarget, readSourcesOf, type OpenedTarget } from "./open.js";
import { planUpload } from "./build.js";
import type { ProjectPorts } from "./ports.js";

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

/** A file that became a source, and its draft. */
export interface NewSource {
  readonly path: string;
  readonly draft: Draft;
  /** The path of its layout; undefined where nothing of the file could be bound. */
  readonly layout: string | undefined;
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

/** Proposes a project. Fails where a file cannot be read, or none of them has rows that a layout can be drafted for. */
export async function proposeProject(input: NewProjectInput): Promise<Result<NewProject>> {
  const findings = new Findings();
  const samples = await samplesOf(input, findings);
  if (findings.hasErrors) return { ok: false, findings };
  if (samples.length === 0) return failure(finding("read/header-only", {}, { file: input.sources[0]?.file ?? "" }));
  const made = await targetOf(input, findings);
  if (!made) return { ok: false, findings };
  const project = new Proposal(input, samples, made);
  if (!input.isQuick) await project.settle();
  return resultOf(project.proposed(), findings);
}

/** The files as sources. A file of which nothing can be bound is none. */
function sourcesOf(samples: readonly PlacedSample[], options: DraftOptions, keepsUnbound = false): NewSource[] {
  return draftTogether(samples, options).map((draft, at): NewSource => {
    const isBound = keepsUnbound || draft.lines.some(({ binding }) => binding !== undefined && !isOnlyTelling(binding));
    return { path: samples[at]!.path, draft, layout: isBound ? `layouts/${samples[at]!.name}.yaml` : undefined };
  });
}

const hasPictures = ({ draft: { lines, lanes } }: NewSource): boolean =>
  /product\.pictures|variant\.pictures/.test(JSON.stringify([lines.map(({ binding }) => binding), lanes]));

const isOnlyTelling = (binding: unknown): boolean =>
  typeof binding === "object" && binding !== null && "constant" in binding;

interface PlacedSample extends SampleToDraft {
  readonly path: string;
}

async function samplesOf({ sources, ports }: NewProjectInput, findings: Findings): Promise<PlacedSample[]> {
  const samples: PlacedSample[] = [];
  const names = new Set<string>();
  for (const { file, path } of sources) {
    const bytes = findings.took(await ports.files.read(file));
    if (!bytes) continue;
    for (const sample of await lookAt(bytes, file, findings)) {
      const usual = layoutName(path, sample.sheet);
      let name = usual;
      for (let n = 2; names.has(name); n++) name = `${usual}-${n}`;
      names.add(name);
      samples.push({ file, path, name, sample });
    }
  }
  return samples;
}

/** The target as the project names it, with the text of its file where it is one of the project's own. */
interface MadeTarget {
  readonly named: string;
  readonly path?: string;
  readonly text?: string;
  readonly questions: readonly Question[];
}

async function targetOf(
  { target, ports, replies }: NewProjectInput,
  findings: Findings,
): Promise<MadeTarget | undefined> {
  if (target.is === "shipped") return { named: target.name, questions: [] };
  if (target.is === "target") return { named: target.path, path: target.path, text: target.text, questions: [] };
  const bytes = findings.took(await ports.files.read(target.file));
  if (!bytes) return undefined;
  const [sample] = await lookAt(bytes, target.file, findings);
  if (!sample) {
    findings.add(finding("read/header-only", {}, { file: target.file }));
    return undefined;
  }
  const [draft] = draftTogether([{ file: target.file, name: target.name, sample }]);
  const { yaml, questions } = draftTarget(target.name, draft!.yaml, replies);
  const path = `${target.name}.yaml`;
  return { named: path, path, text: yaml, questions };
}

const schemaLine = (name: string, depth: string): string =>
  `# yaml-language-server: $schema=${depth}schemas/${name}.schema.json\n`;

/** Rounds in which needed fields are looked for: what one gives, another may need. */
const maxRounds = 4;

class Proposal {
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

  /** The fields that two files give, once for each pair of files. */
  #twice(): { readonly field: string; readonly paths: readonly string[] }[] {
    const byFiles = new Map<string, { field: string; paths: string[] }>();
    const given = new Map<string, string[]>();
    for (const { path, draft } of this.sources)
      for (const { binding } of draft.lines) {
        const field = fieldGiven(binding);
        if (field !== undefined) given.set(field, [...(given.get(field) ?? []), path]);
      }
    for (const [field, paths] of given)
      if (new Set(paths).size > 1) byFiles.set(paths.join("\n"), { field, paths: [...new Set(paths)] });
    return [...byFiles.values()];
  }

  /** The file whose values count: a list that says more of articles is newer, as a rule, than the file that gives them. */
  #whichCounts({ field, paths }: { readonly field: string; readonly paths: readonly string[] }): string {
    const asks = `${paths.join(" and ")} both give ${field}. Which file counts?`;
    const isList = (path: string) => this.sources.some((one) => one.path === path && "found by" in one.draft.rows);
    return this.#ask(`file of ${field}`, asks, paths.find(isList) ?? paths[0]!, paths);
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

/** The field that a column gives, without what only tells records apart. */
function fieldGiven(binding: unknown): string | undefined {
  const field = typeof binding === "string" ? binding : (binding as { field?: string } | undefined)?.field;
  return field === undefined || /\.(key|code|id)$|^[a-z]+\.each$/.test(field) ? undefined : field;
}

async function* inBytes(text: string): AsyncGenerator<Uint8Array> {
  yield await Promise.resolve(new TextEncoder().encode(text));
}

/** The languages of the texts that are bound: that of the files first, then the others. */
function languagesOf(sources: readonly NewSource[]): string[] {
  const bound = sources.filter(({ layout }) => layout !== undefined);
  const first = bound[0]?.draft.language ?? "en";
  const texts = bound.flatMap(({ draft }) =>
    draft.lines.flatMap(({ binding }) => [
      ...JSON.stringify(binding ?? "").matchAll(/\.(?:name|description)@([a-z-]+)/g),
    ]),
  );
  return [...new Set([first, ...texts.map(([, lang]) => lang!)])];
}

/** By the signs in cells of prices. */
function currencyOf(sources: readonly NewSource[]): string | undefined {
  const known: Readonly<Record<string, string>> = { "€": "EUR", "£": "GBP", $: "USD", zł: "PLN" };
  for (const { draft } of sources)
    for (const { binding, header } of draft.lines) {
      const sign = /"sign":"([^"]+)"/.exec(JSON.stringify(binding ?? ""))?.[1];
      const code =
        sign === undefined ? /\b(EUR|GBP|USD|CHF|PLN|SEK|DKK|CZK)\b/i.exec(header)?.[1] : (known[sign] ?? sign);
      if (code !== undefined && /^[A-Z]{3}$/i.test(code)) return code.toUpperCase();
    }
  return undefined;
}

/** The setting of an account that fits the languages of the files best: the first of them first, and none that they lack. */
function languageSetting(
  choices: Target["languageSettings"],
  languages: readonly string[],
): Readonly<Record<string, string>> | undefined {
  const fitting = choices
    .filter((one) => one.languages[0] === languages[0] && one.languages.every((lang) => languages.includes(lang)))
    .sort((a, b) => b.languages.length - a.languages.length);
  return fitting[0] && { [fitting[0].setting]: fitting[0].choice };
}

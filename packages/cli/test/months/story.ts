/** Three months of a made-up range on one stand-in: import, changes, changes again; and what is there in the end. */

import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import {
  build,
  collect,
  Ledger,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
  rehearse,
  valueOf,
  type OpenedTarget,
} from "zest-tier";
import { folderSink, nodeFiles, nodePorts } from "zest-tier/node";
import { deliver, readBack } from "#src/deliver.js";
import { exportOf } from "#src/platform.js";
import { memoryFiles } from "../generate.js";
import { differencesOn } from "../on-platform.js";
import { filesOfRange, firstRange, nextRange, type Range } from "./range.js";

/** What a month came to. */
export interface MonthlyFigures {
  readonly on: string;
  readonly month: number;
  readonly products: number;
  readonly rounds: number;
  readonly files: number;
  readonly rows: number;
  /** What is otherwise than intended in the end, what the rehearsal did not foresee, and what a further build would write. */
  readonly differences: readonly string[];
  readonly seconds: number;
}

const mostRounds = 12;
/** What each stand-in carries besides English and German. */
const carried: Readonly<Record<string, readonly string[]>> = { saltmarsh: ["en", "de", "fr", "ja"] };

/** @param count of products. */
export async function* monthsOn(name: StandInName, seed: number, count: number): AsyncGenerator<MonthlyFigures> {
  const standIn = await startStandIn(name);
  const folder = await mkdtemp(join(tmpdir(), "zest-months-"));
  try {
    let ledger = new Ledger();
    let range = firstRange(seed, count);
    for (let month = 1; month <= 3; month++) {
      const story = new Story(name, standIn, join(folder, String(month)));
      const played = await story.month(range, ledger, month > 1);
      ledger = played.ledger;
      yield played.month;
      // Somebody else changes titles on the platform; the sources do not know of it.
      if (month < 3) await story.othersEdit(range, month);
      range = nextRange(range);
    }
  } finally {
    await standIn.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

class Story {
  constructor(
    readonly name: StandInName,
    readonly standIn: StandIn,
    readonly folder: string,
  ) {}

  /** Brings what a month's range says onto the platform. @param isLater whether an export is compared with. */
  async month(
    range: Range,
    known: Ledger,
    isLater: boolean,
  ): Promise<{ readonly month: MonthlyFigures; readonly ledger: Ledger }> {
    const started = performance.now();
    // Tollgate moves codes only in a file that is the whole range. It is sent once.
    const isWhole = this.name === "tollgate" && range.operations.length > 0;
    let opened = await this.open(range, known, isLater, isWhole);
    const differences: string[] = [];
    let [rounds, files, rows] = [0, 0, 0];
    for (; rounds < mostRounds; rounds++) {
      const planned = valueOf(await planUpload(opened, this.choices));
      if (!planned.plan.steps.some(({ is }) => is === "upload")) break;
      const round = await this.round(opened, rounds);
      // Each round goes from what is there after the one before.
      opened = isLater ? await this.open(range, round.opened.ledger, true) : round.opened;
      files += round.files;
      rows += round.rows;
      differences.push(...round.surprises);
    }
    const after = await this.open(range, opened.ledger, true);
    const changes = after.compared!.changes;
    const left = await differencesOn(this.standIn.url, after.target, changes.goal, changes.before);
    differences.push(...left.map(({ kind, key, field }) => `${kind} ${key} ${field ?? ""} is otherwise`));
    const again = valueOf(await planUpload(after, this.choices)).plan.steps;
    differences.push(
      ...again.flatMap((step) => (step.is === "upload" ? [`${step.slot.name} would be written again`] : [])),
    );
    const seconds = Math.round((performance.now() - started) / 100) / 10;
    const { month, products } = range;
    const figures = { on: this.name, month, products: products.length, rounds, files, rows, differences, seconds };
    return { month: figures, ledger: opened.ledger };
  }

  private readonly choices = { despite: new Set(["change/would-delete"]), holdBack: true };

  private async open(range: Range, ledger: Ledger, isLater: boolean, isWholeRange = false): Promise<OpenedTarget> {
    const texts = filesOfRange(range, carried[this.name] ?? ["en", "de"]);
    const bytes = Object.entries(texts).map(([name, text]) => [name, new TextEncoder().encode(text)] as const);
    const ports = { ...nodePorts(this.folder), files: memoryFiles(Object.fromEntries(bytes)) };
    const sources = valueOf(await readSourcesOf(valueOf(await openProject(ports))));
    const first = valueOf(await openTarget(sources, { target: this.name, ledger }));
    if (!isLater) return first;
    const given = [exportOf(await readBack(this.standIn.url, first.target))];
    return valueOf(await openTarget(sources, { target: this.name, ledger, export: { given, isWholeRange } }));
  }

  private async round(opened: OpenedTarget, number: number) {
    const [folder, answers] = [join(this.folder, `upload-${number}`), join(this.folder, `answers-${number}`)];
    const planned = valueOf(await planUpload(opened, this.choices));
    const upload = valueOf(await build(opened, { ...this.choices, sink: valueOf(await folderSink(folder, "months")) }));
    const verdict = valueOf(await rehearse(opened, upload, { ...this.choices, files: nodeFiles(folder) }));
    const surprises = verdict.rebuilt ? [] : [`round ${number} was not rebuilt in the rehearsal`];
    const sent = await deliver(this.standIn.url, opened.target, upload.plan, folder, answers);
    // Later rounds have files of the same names.
    const foreseen = new Map<string, string>();
    for (const { name, rows } of verdict.files)
      for (const { line, outcome } of rows)
        if (!foreseen.has(`${name}:${line}`)) foreseen.set(`${name}:${line}`, outcome);
    for (const { name, rows, refused } of sent) {
      if (refused !== null) surprises.push(`${name} was refused: ${refused}`);
      for (const { outcome, line } of rows)
        if (foreseen.get(`${name}:${line}`) !== outcome)
          surprises.push(`${name}:${line} came out ${outcome}, not ${foreseen.get(`${name}:${line}`)}`);
    }
    const collected = valueOf(
      await collect(opened, planned, { upload: nodeFiles(folder), uploadName: folder, reports: nodeFiles(answers) }),
    );
    const rows = sent.reduce((sum, file) => sum + file.rows.length, 0);
    return { opened: collected.opened, files: sent.length, rows, surprises };
  }

  /** Another hand edits some products: their German titles, or their stock where the tills sell them. */
  async othersEdit({ products }: Range, month: number): Promise<void> {
    const own = products.filter((_, n) => n % 97 === month);
    await edits[this.name]!(this.standIn.url, own, `Von anderen ${month}`);
  }
}

type Sold = Range["products"];

const edits: Readonly<Record<string, (url: string, products: Sold, title: string) => Promise<void>>> = {
  async pennywort(url, products, title) {
    const rows = products.map(({ key, versions: [first] }) => `${key};${first!.code};${title}`);
    await posted(`${url}/imports/by-hand.csv`, `${["Item;Code;Title de", ...rows].join("\r\n")}\r\n`);
  },
  async saltmarsh(url, products, title) {
    const [, ...goods] = (await (await fetch(`${url}/exports/goods`)).text()).split("\n");
    const ids = new Map(goods.map((line) => line.split("\t")).map(([id, key]) => [key, id]));
    const rows = products.map(({ key }) => `${ids.get(key)}\t${title}\n`);
    await posted(`${url}/imports/words/de`, `Id\tTitle\n${rows.join("")}`);
  },
  async tollgate(url, products) {
    for (const { versions } of products)
      await posted(`${url}/tills`, JSON.stringify({ code: versions[0]!.code, place: "Barn", count: 1 }));
  },
};

/** @throws Error where the stand-in does not take it. */
async function posted(url: string, body: string): Promise<void> {
  const response = await fetch(url, { method: "POST", body });
  const text = await response.text();
  if (!response.ok || text.includes('"outcome":"refused"') || text.includes('"written":false'))
    throw new Error(`an edit by hand was not taken: ${text.slice(0, 500)}`);
}

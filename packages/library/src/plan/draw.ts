/** A plan as a diagram (SVG): a column for each round between two collections of ids, a line from each upload to those that need it. */

import { escaped } from "../html.js";
import { kindPhrase, phrase, say, type Language } from "../phrases/phrase.js";
import type { Plan, Step } from "./plan.js";
import { greatest } from "../lists.js";

const box = { width: 218, height: 46, gapX: 92, gapY: 14 };
const margin = 24;
const top = 92;

/** A plan laid out for drawing: boxes in columns, bars where ids are collected, lines to what waits. Units are pixels. */
export interface PlanDiagram {
  readonly width: number;
  readonly height: number;
  readonly box: { readonly width: number; readonly height: number };
  readonly boxes: readonly PlanBox[];
  readonly bars: readonly { readonly x: number; readonly y1: number; readonly y2: number; readonly step: number }[];
  /** Steps that others are needed by. What follows from other lines has none. */
  readonly edges: readonly PlanEdge[];
}

/** A step in the picture of a plan; in pixels. */
export interface PlanBox {
  readonly step: Step;
  readonly x: number;
  readonly y: number;
  /** `84 products, 12 categories`. */
  readonly detail: string;
}

/** What has to come before what, in the picture of a plan; in pixels. */
export interface PlanEdge {
  readonly from: number;
  readonly to: number;
  /** Whether ids have to be collected in between. */
  readonly withIds: boolean;
  /** The `d` of an SVG path. */
  readonly path: string;
}

/** Where the boxes and arrows of a plan's picture stand, in pixels. */
export function planDiagram(plan: Plan, language: Language = "en"): PlanDiagram {
  const columns: Step[][] = [[]];
  const collections: number[] = [];
  for (const step of plan.steps) {
    if (step.is === "collect") {
      columns.push([]);
      collections.push(step.number);
    } else columns[columns.length - 1]!.push(step);
  }
  const boxes = columns.flatMap((steps, column) =>
    steps.map((step, row) => ({
      step,
      x: margin + column * (box.width + box.gapX),
      y: top + row * (box.height + box.gapY),
      detail: detailOf(step, language),
    })),
  );
  const most = greatest(
    columns.map((steps) => steps.length),
    1,
  );
  const height = top + most * (box.height + box.gapY) + margin;
  return {
    width: margin * 2 + columns.length * box.width + (columns.length - 1) * box.gapX,
    height,
    box,
    boxes,
    bars: collections.map((step, at) => ({
      x: margin + (at + 1) * (box.width + box.gapX) - box.gapX / 2,
      y1: top - 18,
      y2: height - margin,
      step,
    })),
    edges: edgesOf(plan, new Map(boxes.map((one) => [one.step.number, one]))),
  };
}

/** A plan as an SVG picture. */
export function drawPlan(plan: Plan, title: string, language: Language = "en"): string {
  const { width, height, boxes, bars, edges } = planDiagram(plan, language);
  const { collections, uploads, postponed } = plan.cost;
  const caption = say(
    phrase("uploads: {0}, collections of ids: {1}, links postponed: {2}", uploads, collections, postponed),
    language,
  );
  const legend = say(
    phrase(
      "A line leads from what has to exist first. Brown lines wait for its ids. Lines that follow from others are left out.",
    ),
    language,
  );
  const barLines = bars.map(
    ({ x, y1, y2 }, at) =>
      `<line class="bar" x1="${x}" x2="${x}" y1="${y1}" y2="${y2}"/><text class="ids" x="${x}" y="${y1 - 6}" text-anchor="middle">ids ${at + 1}</text>`,
  );
  const edgeLines = edges.map(({ path, withIds }) => `<path class="edge${withIds ? " id" : ""}" d="${path}"/>`);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img" aria-label="${escaped(`${title}: ${caption}`)}">
<style>
svg { background: #fff; font: 13px system-ui, "Noto Sans", "DejaVu Sans", sans-serif; }
.title { font-size: 18px; font-weight: 600; fill: #1d2321; } .caption { fill: #4a5551; }
.box { fill: #eef4f1; stroke: #2f6b52; } .box.other { fill: #f6f6f4; stroke: #8a918d; }
.name { fill: #16211c; font-weight: 600; } .detail { fill: #4a5551; font-size: 11.5px; }
.edge { fill: none; stroke: #7d9a8c; stroke-width: 1.2; } .edge.id { stroke: #9a5b00; } .bar { stroke: #9a5b00; stroke-dasharray: 5 4; } .ids { fill: #7a4800; }
</style>
<text class="title" x="${margin}" y="26">${escaped(title)}</text><text class="caption" x="${margin}" y="44">${escaped(caption)}. ${escaped(legend)}</text>
${[...barLines, ...edgeLines, ...boxes.map((one) => boxOf(one, language))].join("\n")}
</svg>
`;
}

function boxOf({ step, x, y, detail }: PlanBox, language: Language): string {
  const isUpload = step.is === "upload";
  return `<g><rect class="box${isUpload ? "" : " other"}" x="${x}" y="${y}" width="${box.width}" height="${box.height}" rx="5"/><text class="name" x="${x + 10}" y="${y + 19}">${escaped(cut(`${step.number}. ${say(step.title, language).replace(/^Upload | hochladen$/, "")}`, 30))}</text><text class="detail" x="${x + 10}" y="${y + 36}">${escaped(cut(detail, 33))}</text><title>${escaped(say(step.why, language))}</title></g>`;
}

function detailOf(step: Step, language: Language): string {
  if (step.is === "upload") {
    const counts = new Map<string, number>();
    for (const { blocks } of step.files)
      for (const { kind, records } of blocks) counts.set(kind, (counts.get(kind) ?? 0) + records.length);
    return [...counts].map(([kind, count]) => `${count} ${say(kindPhrase(kind, count), language)}`).join(", ");
  }
  if (step.is === "pictures") return `${step.files.length} ${say(kindPhrase("picture", step.files.length), language)}`;
  return step.is === "lists" ? step.lists.map(({ name, entries }) => `${name} ${entries.length}`).join(", ") : "";
}

function edgesOf(plan: Plan, placed: ReadonlyMap<number, PlanBox>): PlanEdge[] {
  const before = new Map<number, ReadonlySet<number>>();
  return plan.steps.flatMap((step) => {
    if (step.is !== "upload") return [];
    const own = step.after.map((one) => one.step);
    const over = new Set(own.flatMap((one) => [...(before.get(one) ?? [])]));
    before.set(step.number, new Set([...own, ...over]));
    return step.after
      .filter((one) => !over.has(one.step))
      .flatMap(({ step: from, withIds }) => {
        const [a, b] = [placed.get(from), placed.get(step.number)];
        if (!a || !b) return [];
        const [y1, y2] = [a.y + box.height / 2, b.y + box.height / 2];
        if (a.x === b.x) {
          const x = a.x + box.width;
          const path = `M${x} ${y1} C${x + 30} ${y1} ${x + 30} ${y2} ${x} ${y2}`;
          return [{ from, to: step.number, withIds: false, path }];
        }
        const [x1, x2] = [a.x + box.width, b.x];
        const bend = Math.min(60, (x2 - x1) / 2);
        const path = `M${x1} ${y1} C${x1 + bend} ${y1} ${x2 - bend} ${y2} ${x2} ${y2}`;
        return [{ from, to: step.number, withIds, path }];
      });
  });
}

const cut = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

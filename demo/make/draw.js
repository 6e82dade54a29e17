/**
 * Draws the demo's pictures: flat objects in the palette, 320 by 240 units, three pixels to a unit.
 *
 * `picture("smoker-detail.png")` is the PNG. A name may end in `-detail` (the same object, closer) or in a colour.
 */

import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { initWasm, Resvg } from "@resvg/resvg-wasm";

const wood = "#d39b5b", bark = "#a86f36", grain = "#8a5726", pale = "#ecd2a4";
const pine = "#17594a", leaf = "#5f9a7e", zest = "#f0b429", honey = "#d98a12", amber = "#f6cf73";
const ink = "#1d2621", steel = "#b7c1bd", iron = "#7c8883", shine = "#e4eae7", white = "#fffdf8", linen = "#e9e3d2", clay = "#b5573c", sky = "#4d7ea8", wax = "#f3d98b";
const colours = { blue: sky, red: clay, yellow: zest, green: leaf, white };
const grounds = ["#e2efe9", "#fdf1cf", "#f3e9da", "#e4edf7", "#efe9f1"];

const box = (x, y, w, h, fill, rx = 2) => `<rect x="${x}" y="${y}" width="${w}" height="${h}" rx="${rx}" fill="${fill}"/>`;
const disc = (x, y, r, fill) => `<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}"/>`;
const oval = (x, y, rx, ry, fill) => `<ellipse cx="${x}" cy="${y}" rx="${rx}" ry="${ry}" fill="${fill}"/>`;
const shape = (d, fill) => `<path d="${d}" fill="${fill}"/>`;
const stroke = (d, colour, width = 4) => `<path d="${d}" fill="none" stroke="${colour}" stroke-width="${width}" stroke-linecap="round" stroke-linejoin="round"/>`;
const turned = (angle, inner, x = 160, y = 120) => `<g transform="rotate(${angle} ${x} ${y})">${inner}</g>`;
const scaled = (factor, inner, x = 160, y = 190) => `<g transform="translate(${x} ${y}) scale(${factor}) translate(${-x} ${-y})">${inner}</g>`;
const moved = (x, y, inner) => `<g transform="translate(${x} ${y})">${inner}</g>`;
const each = (count, draw) => Array.from({ length: count }, (_, at) => draw(at)).join("");

const hexagon = (x, y, r) => `M${[0, 1, 2, 3, 4, 5].map((at) => `${(x + r * Math.sin((at * Math.PI) / 3)).toFixed(1)} ${(y + r * Math.cos((at * Math.PI) / 3)).toFixed(1)}`).join("L")}Z`;
const comb = (x, y, columns, rows, r, fill) => each(rows, (row) => each(columns, (column) => shape(hexagon(x + (column + (row % 2) / 2) * r * 1.9, y + row * r * 1.65, r * 0.9), fill)));
const bee = (x, y, size) => moved(x, y, `<g transform="scale(${size})">${oval(-4, -9, 5, 9, "#ffffffcc")}${oval(5, -9, 5, 9, "#ffffffcc")}${oval(0, 0, 12, 8, zest)}${box(-4, -7.5, 3.5, 15, ink, 1)}${box(3, -7, 3.5, 14, ink, 1)}${disc(-11, 0, 5, ink)}</g>`);

/** A box of a hive, with its hand hold. */
const storey = (y, height, fill, x = 105, width = 110) => box(x, y, width, height, fill) + box(x, y + height - 5, width, 5, grain, 0) + box(x + width / 2 - 16, y + height / 2 - 5, 32, 8, grain, 4);
const legs = (y = 190) => box(112, y, 12, 16, bark) + box(196, y, 12, 16, bark) + box(98, y - 4, 124, 8, bark);
const gable = (y, fill) => shape(`M92 ${y}L160 ${y - 38}L228 ${y}Z`, fill) + box(96, y - 2, 128, 9, grain);
const lid = (y, fill) => box(97, y, 126, 16, fill) + box(97, y + 12, 126, 4, grain, 0);
const hive = (fill, top, storeys) => legs() + storeys.map(([y, height]) => storey(y, height, fill)).join("") + box(138, 178, 44, 7, ink, 3) + top;
const frame = (height, inner) => box(72, 62, 176, 12, wood) + box(84, 72, 9, height, wood) + box(227, 72, 9, height, wood) + box(84, 66 + height, 152, 9, bark) + inner(93, 74, 134, height - 8);
const sheet = (x, y, width, height, fill = wax) => box(x, y, width, height, fill, 0) + comb(x + 9, y + 9, Math.floor(width / 16.5), Math.floor((height - 4) / 14.5), 8, "#e3bd5d");
const tray = (inner, fill = wood) => box(80, 70, 160, 112, fill, 4) + inner;
const jar = (body, fill, cap = zest) => body(fill) + box(124, 56, 72, 20, cap, 4) + box(124, 70, 72, 6, "#00000022", 0);
const label = (fill, x = 128, y = 112, width = 64, height = 46) => box(x, y, width, height, fill, 4) + shape(hexagon(x + width / 2, y + height / 2, 15), zest) + stroke(hexagon(x + width / 2, y + height / 2, 15), honey, 2);
const drum = (fill, y = 66, height = 112) => box(104, y, 112, height, fill, 6) + oval(160, y, 56, 13, shine) + box(116, y + 14, 14, height - 26, shine, 7) + box(104, y + height - 26, 112, 6, iron, 0);
const tap = (y) => box(214, y, 22, 10, zest, 3) + box(228, y - 6, 8, 26, honey, 3);
const spinner = (fill, cages) => box(114, 178, 9, 30, iron) + box(197, 178, 9, 30, iron) + drum(fill) + tap(156) + box(155, 34, 10, 34, iron) + box(112, 34, 96, 9, iron, 4) + disc(208, 30, 9, clay) + each(cages, (at) => box(160 - cages * 7 + at * 14, 60, 9, 13, zest, 2));
const jacket = (fill, length) => shape(`M126 92L82 112L72 172L96 176L104 146L104 ${length}L216 ${length}L216 146L224 176L248 172L238 112L194 92Z`, fill) + stroke(`M160 94L160 ${length - 4}`, iron, 3) + disc(160, 66, 34, linen) + oval(160, 70, 24, 22, ink) + comb(143, 58, 4, 3, 5, "#3c4741") + box(108, 44, 104, 10, fill, 5);
const glove = (fill, cuff) => shape("M128 88C128 76 142 76 142 88L142 76C142 64 157 64 157 76L157 72C157 60 172 60 172 72L172 78C172 66 187 66 187 78L187 122L196 108C204 98 216 106 210 118L190 156L128 156Z", fill) + box(124, 152, 70, cuff, linen, 4) + box(124, 152, 70, 6, "#00000022", 0);
const gloves = (fill, cuff) => moved(-52, 4, turned(-8, glove(fill, cuff))) + moved(48, 4, turned(8, glove(fill, cuff)));
const book = (cover, inner) => box(104, 46, 118, 154, grain, 5) + box(110, 44, 112, 150, white, 3) + box(100, 40, 116, 152, cover, 5) + box(100, 40, 12, 152, "#00000022", 3) + inner;
const handle = (fill, head) => turned(35, box(152, 92, 16, 110, fill, 7) + box(156, 96, 3, 100, "#ffffff55", 1) + head);
const strap = (fill) => stroke("M90 150C70 90 120 60 160 60C200 60 250 90 230 150C220 180 100 180 90 150Z", fill, 17) + stroke("M90 150C70 90 120 60 160 60C200 60 250 90 230 150C220 180 100 180 90 150Z", "#ffffff55", 2) + box(136, 152, 48, 38, steel, 5) + box(146, 162, 28, 18, iron, 3);
const smoker = box(108, 94, 66, 96, steel, 6) + box(108, 110, 66, 5, iron, 0) + box(108, 172, 66, 5, iron, 0) + shape("M108 94C112 70 138 62 150 50L168 64C172 76 174 84 174 94Z", iron) + box(180, 98, 18, 88, bark, 3) + shape("M198 104L226 92L226 192L198 180Z", clay) + each(4, (at) => stroke(`M${202 + at * 6} ${104 - at * 2}L${202 + at * 6} ${180 + at * 2}`, "#8d3f2a", 2)) + box(224, 90, 9, 104, bark, 3) + disc(140, 36, 12, "#ffffffbb") + disc(120, 24, 9, "#ffffff88");
const cage = (columns) => box(104, 84, 112, 76, wood, 4) + box(114, 94, 92, 56, linen, 2) + each(columns, (at) => stroke(`M${120 + (at * 82) / (columns - 1)} 96L${120 + (at * 82) / (columns - 1)} 148`, iron, 2)) + bee(160, 124, 1.2);
const bars = (y) => box(80, y, 160, 12, wood) + each(8, (at) => shape(`M${90 + at * 18} ${y + 12}L${103 + at * 18} ${y + 12}L${101 + at * 18} ${y + 28}L${92 + at * 18} ${y + 28}Z`, at % 2 ? zest : honey));
const skep = (fill) => shape("M100 190C96 90 130 56 160 56C190 56 224 90 220 190Z", fill) + each(5, (at) => stroke(`M${112 - at * 1 + (4 - at) * 4} ${82 + at * 24}C140 ${88 + at * 24} 180 ${88 + at * 24} ${208 + at * 1 - (4 - at) * 4} ${82 + at * 24}`, honey, 3));
const melter = (fill, top) => drum(fill, 86, 100) + box(98, 74, 124, 16, top, 6) + box(150, 62, 20, 12, iron, 4) + tap(164) + stroke("M130 54C124 44 136 38 130 28M160 50C154 40 166 34 160 24M190 54C184 44 196 38 190 28", "#ffffffcc", 5);
const bottle = (fill) => box(146, 40, 28, 20, pine, 3) + shape("M148 58L172 58L172 78C192 86 198 96 198 112L198 190C198 196 194 198 190 198L130 198C126 198 122 196 122 190L122 112C122 96 128 86 148 78Z", fill) + label(white, 128, 120);

const objects = {
  "orchard-hive": hive(wood, gable(76, pine), [[74, 34], [108, 34], [142, 46]]),
  "meadow-hive": hive(leaf, lid(62, steel), [[76, 34], [110, 34], [144, 46]]),
  "hillside-hive": hive(linen, lid(44, zest), [[58, 42], [100, 42], [142, 46]]),
  "glass-hive": legs() + box(105, 70, 110, 118, wood) + box(115, 80, 90, 98, "#cfe3ea") + sheet(120, 90, 80, 78) + lid(56, pine) + bee(150, 120, 0.9) + bee(182, 146, 0.8),
  "mini-mating": scaled(0.8, hive(sky, lid(96, steel), [[110, 40], [148, 40]])),
  "brood-box": storey(76, 112, wood, 84, 152),
  "super-box": storey(104, 72, wood, 84, 152) + box(84, 100, 152, 6, pale),
  "flat-roof": box(72, 104, 176, 44, steel, 4) + box(72, 136, 176, 12, iron, 2) + box(84, 112, 120, 5, shine),
  "gable-roof": shape("M62 150L160 76L258 150Z", pine) + shape("M62 150L160 76L172 84L90 150Z", leaf) + box(78, 146, 164, 24, wood) + disc(160, 158, 6, grain),
  "crown-board": tray(box(90, 80, 140, 92, pale) + oval(160, 126, 26, 14, ink)),
  "mesh-floor": tray(box(92, 82, 136, 88, shine) + each(11, (at) => stroke(`M${98 + at * 12.4} 82L${98 + at * 12.4} 170`, iron, 1.5)) + each(7, (at) => stroke(`M92 ${90 + at * 12}L228 ${90 + at * 12}`, iron, 1.5))),
  "queen-excluder": tray(each(15, (at) => box(92 + at * 9.4, 82, 4, 88, steel, 2)) + box(92, 122, 138, 8, wood), bark),
  "hive-stand": box(76, 98, 168, 16, wood) + box(76, 110, 168, 5, grain, 0) + shape("M90 114L108 114L98 194L82 194Z", bark) + shape("M212 114L230 114L238 194L222 194Z", bark) + box(98, 148, 124, 10, bark),
  "mite-board": tray(box(90, 80, 140, 92, white) + each(4, (at) => stroke(`M90 ${98 + at * 18}L230 ${98 + at * 18}`, steel, 1.5)) + each(12, (at) => disc(100 + ((at * 47) % 120), 88 + ((at * 31) % 76), 2.5, clay))),
  "mite-drawer": box(74, 84, 172, 36, wood) + box(86, 112, 148, 70, white) + box(86, 170, 148, 14, bark) + disc(160, 177, 6, zest) + each(10, (at) => disc(100 + ((at * 53) % 120), 124 + ((at * 23) % 40), 2.5, clay)),
  "frame-brood": frame(110, (x, y, w, h) => stroke(`M${x} ${y + h * 0.35}L${x + w} ${y + h * 0.35}M${x} ${y + h * 0.7}L${x + w} ${y + h * 0.7}`, iron, 1.5)),
  "frame-deep": frame(126, (x, y, w, h) => stroke(`M${x} ${y + h * 0.25}L${x + w} ${y + h * 0.25}M${x} ${y + h * 0.5}L${x + w} ${y + h * 0.5}M${x} ${y + h * 0.75}L${x + w} ${y + h * 0.75}`, iron, 1.5)),
  "frame-shallow": frame(72, (x, y, w, h) => stroke(`M${x} ${y + h / 2}L${x + w} ${y + h / 2}`, iron, 1.5)),
  "frame-feeder": frame(110, (x, y, w, h) => box(x, y, w, h, linen) + box(x, y + 30, w, h - 30, amber) + box(x + 8, y + 8, w - 16, 8, iron, 4)),
  "frame-grip": stroke("M120 190L150 112L128 66M200 190L170 112L192 66", iron, 11) + disc(160, 122, 9, zest) + box(104, 182, 26, 20, pine, 8) + box(190, 182, 26, 20, pine, 8),
  "frame-jig": box(78, 150, 164, 20, bark) + each(7, (at) => box(88 + at * 22, 74, 10, 80, wood)) + box(78, 100, 164, 12, pale),
  "frame-nails": each(9, (at) => turned(at * 40 + 10, box(157, 52, 6, 54, iron, 1) + box(151, 48, 18, 6, steel, 2))) + disc(160, 120, 16, zest),
  "wax-brood": moved(-8, -8, box(86, 64, 150, 112, honey, 0)) + sheet(86, 64, 150, 112),
  "wax-deep": moved(-8, -8, box(82, 56, 158, 132, honey, 0)) + sheet(82, 56, 158, 132),
  "wax-super": moved(-8, -8, box(82, 84, 158, 76, honey, 0)) + sheet(82, 84, 158, 76),
  "hex-jar": jar((fill) => shape("M130 76L190 76L206 94L206 184L190 200L130 200L114 184L114 94Z", fill) + box(130, 76, 14, 124, "#ffffff44", 0), zest, pine) + label(white),
  "round-jar": jar((fill) => box(112, 74, 96, 126, fill, 24) + box(122, 92, 10, 90, "#ffffff55", 5), honey, zest) + label(linen),
  "jar-lids": each(3, (at) => moved(0, -at * 26, box(100, 158, 120, 24, [zest, steel, pine][at], 6) + oval(160, 158, 60, 13, [amber, shine, leaf][at]))),
  "jar-label": box(92, 66, 136, 112, white, 8) + stroke("M102 76L218 76L218 168L102 168Z", honey, 2) + shape(hexagon(160, 114, 28), zest) + bee(160, 116, 1.1) + box(124, 152, 72, 6, iron, 3),
  "honey-bucket": shape("M104 78L216 78L206 196L114 196Z", white) + oval(160, 78, 56, 12, linen) + stroke("M104 84C90 20 230 20 216 84", iron, 4) + shape("M112 130L208 130L204 172L116 172Z", zest),
  "settling-tank": drum(steel, 58, 130) + tap(166) + box(112, 186, 12, 20, iron) + box(196, 186, 12, 20, iron),
  "twin-sieve": shape("M86 92L234 92L200 148L120 148Z", steel) + oval(160, 92, 74, 16, shine) + each(9, (at) => stroke(`M${104 + at * 14} 84L${104 + at * 14} 100`, iron, 1.5)) + stroke("M234 92L266 86M86 92L54 86", iron, 8) + shape("M152 148L168 148L164 196L156 196Z", zest),
  syrup: bottle(amber),
  fondant: box(86, 84, 148, 96, white, 10) + box(86, 84, 148, 26, pine, 10) + box(100, 122, 120, 44, linen, 4) + bee(160, 144, 1.5),
  "sugar-shaker": shape("M122 96L198 96L206 198L114 198Z", steel) + shape("M122 96C122 56 198 56 198 96Z", iron) + each(9, (at) => disc(136 + (at % 5) * 12, 88 - Math.floor(at / 5) * 11, 2.5, shine)) + box(126, 108, 10, 78, shine, 5),
  "pail-feeder": moved(0, 10, drum(white, 78, 90)) + stroke("M104 84C96 30 224 30 216 84", iron, 4) + shape(hexagon(160, 138, 22), amber),
  "stirring-rod": stroke("M214 44L130 150", steel, 8) + stroke("M98 150C94 184 130 196 140 172C150 150 116 144 118 162", iron, 7) + disc(218, 40, 12, clay),
  "full-suit": scaled(0.94, jacket(white, 160) + shape("M104 156L216 156L212 218L172 218L160 180L148 218L108 218Z", white) + box(104, 152, 112, 5, linen, 0)),
  "half-jacket": jacket(zest, 178) + box(104, 168, 112, 10, honey, 3),
  "child-suit": scaled(0.8, jacket(sky, 160) + shape("M104 156L216 156L212 214L172 214L160 182L148 214L108 214Z", sky) + box(120, 128, 24, 22, "#ffffff44", 3)),
  "long-gloves": gloves(zest, 46),
  "thin-gloves": gloves("#9cc4d8", 18),
  "round-veil": oval(160, 84, 84, 18, linen) + box(122, 46, 76, 34, linen, 14) + box(122, 70, 76, 8, pine, 0) + shape("M96 90L224 90L214 190L106 190Z", "#1d262188") + comb(106, 104, 9, 5, 7, "#1d262155") + box(102, 184, 116, 10, linen, 4),
  "square-veil": box(92, 60, 136, 14, linen, 5) + box(118, 42, 84, 24, linen, 8) + shape("M100 74L220 74L220 184L100 184Z", "#1d262188") + comb(106, 86, 8, 6, 7, "#1d262155") + box(94, 180, 132, 12, linen, 4),
  smoker,
  "smoker-bellows": shape("M112 68L200 44L200 196L112 172Z", clay) + each(5, (at) => stroke(`M${122 + at * 16} ${66 - at * 4}L${122 + at * 16} ${174 + at * 4}`, "#8d3f2a", 3)) + box(198, 40, 12, 160, bark, 4) + box(102, 62, 12, 116, bark, 4),
  "smoker-fuel": each(5, (at) => turned(-20 + at * 10, box(92, 92 + at * 16, 136, 16, at % 2 ? bark : wood, 8) + oval(228, 100 + at * 16, 5, 8, pale))) + box(146, 82, 28, 104, zest, 4),
  "hive-tool": handle(iron, shape("M148 96L172 96L178 48L142 48Z", steel) + box(140, 42, 40, 8, shine, 2)),
  "j-tool": handle(iron, stroke("M160 92L160 56C160 34 188 34 188 54L188 62", steel, 13)),
  "uncapping-fork": handle(pine, box(132, 78, 56, 14, steel, 3) + each(8, (at) => box(134 + at * 7, 34, 3, 48, iron, 1))),
  "bee-brush": turned(-20, box(70, 96, 96, 16, wood, 8) + box(150, 90, 106, 18, bark, 4) + each(18, (at) => stroke(`M${154 + at * 5.7} 108L${152 + at * 5.9} 150`, linen, 4))),
  "grafting-tool": handle(pine, box(157, 46, 6, 50, steel, 3) + stroke("M160 50C160 38 170 34 174 40", steel, 4)),
  "cell-bar": bars(62) + moved(0, 46, bars(62)) + moved(0, 92, bars(62)),
  "cell-cups": each(12, (at) => moved((at % 4) * 42, Math.floor(at / 4) * 46, shape("M82 62L114 62L108 92L88 92Z", at % 2 ? zest : honey) + oval(98, 62, 16, 5, amber))),
  "roller-cage": stroke("M108 120L212 120", iron, 3) + box(112, 86, 96, 68, "#ffffff88", 30) + each(7, (at) => stroke(`M${120 + at * 13.5} 88L${120 + at * 13.5} 152`, iron, 2)) + disc(110, 120, 16, pine) + disc(210, 120, 16, pine) + bee(160, 122, 1.1),
  "travel-cage": cage(8),
  "queen-catcher": stroke("M112 150C112 92 208 92 208 150", zest, 7) + shape("M112 150L208 150L196 178L124 178Z", amber) + each(6, (at) => stroke(`M${122 + at * 15} 112L${126 + at * 14} 150`, honey, 3)) + stroke("M160 106L160 66M160 66L140 48M160 66L180 48", zest, 7) + bee(160, 146, 0.9),
  "marking-kit": box(96, 96, 58, 86, "#cfe3ea", 8) + box(92, 84, 66, 18, sky, 5) + bee(125, 144, 1.1) + turned(18, box(190, 66, 20, 96, white, 4) + box(190, 66, 20, 30, clay, 4) + shape("M192 162L208 162L200 182Z", ink), 200, 120),
  refractometer: turned(-20, box(72, 104, 118, 32, iron, 8) + box(186, 98, 58, 44, ink, 10) + disc(246, 120, 20, sky) + box(92, 92, 50, 14, shine, 4) + box(150, 108, 24, 24, zest, 4)),
  "hive-scale": box(74, 148, 172, 34, iron, 6) + box(74, 142, 172, 12, steel, 4) + box(122, 156, 76, 20, ink, 4) + box(132, 161, 8, 10, leaf, 1) + box(146, 161, 8, 10, leaf, 1) + box(160, 161, 8, 10, leaf, 1) + box(174, 161, 14, 10, leaf, 1) + storey(82, 60, wood),
  "hive-strap": strap(clay),
  "seal-strip": each(4, (at) => `<circle cx="160" cy="122" r="${22 + at * 14}" fill="none" stroke="${at % 2 ? iron : ink}" stroke-width="11"/>`) + box(160, 178, 78, 11, ink, 3),
  "spinner-two": scaled(0.86, spinner(steel, 2)),
  "spinner-four": spinner(steel, 4),
  "spinner-nine": scaled(1.05, spinner(shine, 9) + box(126, 112, 68, 34, pine, 6) + disc(142, 129, 8, zest) + box(156, 124, 30, 10, linen, 4)),
  "honey-pump": box(76, 168, 168, 18, iron, 4) + box(88, 104, 74, 66, pine, 8) + disc(200, 136, 36, steel) + disc(200, 136, 20, iron) + stroke("M200 100L200 54L250 54", zest, 13) + each(4, (at) => box(98, 114 + at * 12, 54, 5, leaf, 2)),
  "steam-melter": melter(steel, iron),
  "wax-melter": shape("M78 96L242 70L242 176L78 188Z", wood) + shape("M90 106L230 84L230 150L90 162Z", "#cfe3ea") + shape("M120 128L200 116L208 140L116 152Z", zest) + box(84, 184, 14, 22, bark) + box(222, 172, 14, 34, bark),
  "uncapping-bath": shape("M70 92L250 92L234 172L86 172Z", steel) + box(64, 84, 192, 12, shine, 5) + box(120, 60, 80, 26, wood) + box(98, 172, 12, 34, iron) + box(210, 172, 12, 34, iron) + shape("M92 124L228 124L220 160L100 160Z", amber),
  "first-book": book(sky, shape("M112 150C130 132 190 132 206 150L206 178L112 178Z", bark) + oval(206, 164, 8, 14, pale) + disc(160, 100, 32, zest) + disc(150, 94, 4, ink) + disc(170, 94, 4, ink) + stroke("M148 108C154 116 166 116 172 108", ink, 3) + stroke("M148 72L142 60M172 72L178 60", ink, 3)),
  "first-year": book(pine, each(12, (at) => shape(hexagon(132 + (at % 3) * 28, 72 + Math.floor(at / 3) * 29, 13), at === 4 ? zest : leaf))),
  "hive-diary": book(clay, box(128, 66, 76, 40, linen, 4) + box(138, 78, 56, 5, iron, 2) + box(138, 90, 40, 5, iron, 2) + box(196, 40, 9, 166, zest, 0)),
  "candle-cone": shape("M160 62L206 192L114 192Z", amber) + each(4, (at) => stroke(`M${150 - at * 10} ${92 + at * 28}L${172 + at * 10} ${100 + at * 28}`, honey, 3)) + stroke("M160 64L160 50", ink, 3) + shape("M160 26C172 42 166 52 160 52C154 52 148 42 160 26Z", zest),
  "candle-skep": skep(amber) + stroke("M160 56L160 44", ink, 3) + shape("M160 20C172 36 166 46 160 46C154 46 148 36 160 20Z", zest) + oval(160, 176, 16, 14, honey),
  wick: each(5, (at) => oval(160, 90 + at * 18, 56, 15, at % 2 ? linen : white)) + box(104, 66, 112, 14, wood, 6) + box(104, 168, 112, 14, wood, 6) + stroke("M214 110C250 120 226 170 256 186", white, 5),
};

/** The same object in a colour of its own. */
const coloured = {
  "hive-strap": strap,
  "hive-tool": (fill) => handle(fill, shape("M148 96L172 96L178 48L142 48Z", steel) + box(140, 42, 40, 8, shine, 2)),
  "jar-label": (fill) => box(92, 66, 136, 112, fill, 8) + stroke("M102 76L218 76L218 168L102 168Z", fill === white ? honey : white, 2) + shape(hexagon(160, 114, 28), fill === zest ? white : amber) + bee(160, 116, 1.1) + box(124, 152, 72, 6, fill === white ? iron : white, 3),
};

function drawing(name) {
  const [, whole, detail] = /^(.*?)(-detail)?\.png$/.exec(name);
  const [, key, colour] = /^(.*)-(blue|red|yellow|green|white)$/.exec(whole) ?? [undefined, whole];
  const inner = coloured[key] && colour ? coloured[key](colours[colour]) : objects[whole];
  if (inner === undefined) throw new Error(`There is no drawing for ${name}: add one to demo/make/draw.js.`);
  const ground = grounds[[...key].reduce((sum, char) => sum + char.charCodeAt(0), 0) % grounds.length];
  const view = detail ? "100 60 160 120" : "28 11 264 198";
  return `<svg xmlns="http://www.w3.org/2000/svg" width="960" height="720" viewBox="${view}">${box(0, 0, 320, 240, ground, 0)}${oval(160, 206, 92, 9, "#1d262118")}${inner}</svg>`;
}

await initWasm(readFileSync(createRequire(import.meta.url).resolve("@resvg/resvg-wasm/index_bg.wasm")));

/** @returns the bytes of a PNG. Throws where no drawing has the name. */
export const picture = (name) => new Resvg(drawing(name), { font: { loadSystemFonts: false } }).render().asPng();

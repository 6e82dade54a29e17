/** Making a project of the files that came: what is written, what is asked, what is refused, and how far a newcomer comes. */

import assert from "node:assert/strict";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, test } from "node:test";
import { main } from "#src/main.js";
import { journey } from "./supplies/newcomer.js";

const folders: string[] = [];
after(() => folders.forEach((one) => rmSync(one, { recursive: true, force: true })));

const range = `Modell;Art.-Nr.;Bezeichnung;Farbe;Preis;Bestand;Bild
lat;lat-1;Laterne klein;Rot;12,50;4;lat.png
lat;lat-2;Laterne klein;Weiß;13,50;2;lat.png
kor;kor;Korb geflochten;;8,90;7;kor.png
dec;dec-1;Decke gestreift;Rot;30,00;1;dec.png
dec;dec-2;Decke gestreift;Weiß;30,00;5;dec.png
`;

function folderWith(files: Readonly<Record<string, string>>): string {
  const folder = mkdtempSync(join(tmpdir(), "zest-new-"));
  folders.push(folder);
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(join(folder, name, ".."), { recursive: true });
    writeFileSync(join(folder, name), text);
  }
  return folder;
}

async function type(cwd: string, words: readonly string[], replies?: readonly string[]) {
  let [out, err] = ["", ""];
  const asked: string[] = [];
  const left = [...(replies ?? [])];
  const ask = (question: string) => {
    asked.push(question);
    return Promise.resolve(left.shift() ?? "");
  };
  const code = await main(words, {
    out: (text) => void (out += text),
    err: (text) => void (err += text),
    cwd,
    colour: false,
    width: 120,
    height: 60,
    watched: false,
    ...(replies ? { ask } : {}),
    stopped: () => Promise.resolve(),
  });
  return { code, out, err, asked };
}

test("a project has the files, their layouts with the lines for editors, and what the platform needs", async () => {
  const folder = folderWith({
    "range.csv": range,
    "more/range.csv": "Art.-Nr.;Gewicht kg\nlat-1;1,2\nlat-2;1,3\nkor;0,4\n",
  });
  const made = await type(folder, ["new", "shop", "range.csv", "more/range.csv", "--for", "saltmarsh", "--yes"]);
  assert.equal(made.code, 0, made.err);
  const at = (path: string) => readFileSync(join(folder, "shop", path), "utf8");
  assert.deepEqual(readdirSync(join(folder, "shop")).sort(), ["layouts", "project.yaml", "schemas", "sources"]);
  assert.equal(at("sources/range.csv"), range);
  assert.match(at("sources/range-2.csv"), /Gewicht/);
  assert.match(
    at("layouts/range.yaml"),
    /^# yaml-language-server: \$schema=\.\.\/schemas\/layout\.schema\.json\nlayout: range/,
  );
  assert.match(at("layouts/range-2.yaml"), /found by: \{ column: Art\.-Nr\., names: code \}/);
  assert.match(at("project.yaml"), /gaps: \{ en: \{ copy: "" \} \}/);
  assert.match(at("project.yaml"), /\{ field: variant\.stock\.location, constant: Main \} # saltmarsh requires/);
  assert.match(
    made.out,
    /Derived in project\.yaml\n[^]*Assumed[^]*stock place +Main[^]*Next\n {2}1 {2}write the files: zest-tier build shop/,
  );
  assert.equal((await type(folder, ["build", "shop"])).code, 0);
  assert.match((await type(folder, ["rehearse", "shop"])).out, /Rebuilt as intended/);
});

test("on a terminal it asks, with what is assumed; a reply that cannot be given is asked again", async () => {
  const folder = folderWith({ "range.csv": range });
  const made = await type(
    folder,
    ["new", "shop", "range.csv", "--for", "saltmarsh"],
    ["maybe", "later", "CHF", "", "Shed"],
  );
  assert.match(
    made.asked.join("\n"),
    /pictures.*later \| now \[later\][^]*pictures.*later \| now \[later\][^]*currency.*\[EUR\][^]*stock.*\[Main\]/,
  );
  const project = readFileSync(join(folder, "shop/project.yaml"), "utf8");
  assert.match(project, /currency: CHF/);
  assert.match(project, /stock\.location, constant: Shed/);
  assert.doesNotMatch(made.out, /Assumed/);
});

test("replies are given as options; a question or a reply that there is not is refused, and nothing is written", async () => {
  const folder = folderWith({ "range.csv": range });
  const words = ["new", "shop", "range.csv", "--for", "pennywort", "--reply"];
  assert.match(
    (await type(folder, [...words, "colour=red"])).err,
    /there is no question "colour"\n→ The questions are pictures, currency/,
  );
  assert.match((await type(folder, [...words, "pictures=soon"])).err, /"soon" is not a reply to pictures/);
  assert.match((await type(folder, [...words, "pictures"])).err, /has no "="/);
  assert.deepEqual(readdirSync(folder), ["range.csv"]);
  const made = await type(folder, [...words, "currency=CHF", "--format", "json"]);
  const told = JSON.parse(made.out) as { ok: boolean; questions: { name: string; answer?: string }[]; next: string[] };
  assert.equal(told.ok, true);
  assert.equal(told.questions.find(({ name }) => name === "currency")?.answer, "CHF");
  assert.deepEqual(told.next, [
    "write the files: zest-tier build shop",
    "rehearse the upload: zest-tier rehearse shop",
  ]);
});

test("pictures come along, and are uploaded", async () => {
  const folder = folderWith({
    "range.csv": range,
    "shots/lat.png": "1",
    "shots/kor.png": "2",
    "shots/notes.txt": "",
    "dec.png": "3",
  });
  const made = await type(folder, ["new", "shop", "range.csv", "shots", "dec.png", "--for", "pennywort", "--yes"]);
  assert.equal(made.code, 0, made.err);
  assert.deepEqual(readdirSync(join(folder, "shop/pictures")).sort(), ["dec.png", "kor.png", "lat.png"]);
  assert.match(readFileSync(join(folder, "shop/project.yaml"), "utf8"), /^pictures: pictures$/m);
  assert.match(readFileSync(join(folder, "shop/layouts/range.yaml"), "utf8"), /Bild: product\.pictures\(main\)\.file/);
});

test("a platform's own sample becomes a target, whose questions are asked too", async () => {
  const sample = "Ware;Nummer;Titel;Preis\na;a-1;Beispiel;1,00\na;a-2;Beispiel;1,20\nb;b-1;Anderes;2,00\n";
  const folder = folderWith({ "range.csv": range, "harbour.csv": sample });
  const made = await type(folder, [
    "new",
    "shop",
    "range.csv",
    "--for",
    "harbour.csv",
    "--yes",
    "--reply",
    "blank=clear",
  ]);
  assert.match(made.out, /Project shop for harbour/);
  assert.match(readFileSync(join(folder, "shop/harbour.yaml"), "utf8"), /^target: harbour$/m);
  assert.match(readFileSync(join(folder, "shop/project.yaml"), "utf8"), /target: harbour\.yaml/);
  assert.match((await type(folder, ["check", "shop"])).out, /for harbour/);
});

test("nothing is overwritten, and what no project can be made of is reported before anything is written", async () => {
  const folder = folderWith({
    "range.csv": range,
    "shop/kept.txt": "mine",
    "next.part/kept.txt": "mine",
    "empty.csv": "",
    "lat.png": "1",
  });
  const refused = async (...words: readonly string[]) => (await type(folder, ["new", ...words])).err;
  assert.match(
    await refused("shop", "range.csv", "--for", "pennywort"),
    /shop already exists\n→ Name a folder .* Nothing is overwritten/,
  );
  assert.match(await refused("a/b/c", "range.csv", "--for", "pennywort"), /there is no folder/);
  assert.match(await refused("new", "none.csv", "--for", "pennywort"), /there is no file none\.csv/);
  assert.match(await refused("new", "range.csv"), /for which platform is not known\n→ Add --for with pennywort/);
  assert.match(await refused("new", "range.csv", "--for", "harbour"), /there is no platform or file harbour/);
  assert.match(await refused("new", "lat.png", "--for", "pennywort"), /there are pictures alone/);
  const empty = await type(folder, ["new", "new", "empty.csv", "--for", "pennywort"]);
  assert.equal(empty.code, 1);
  assert.equal(existsSync(join(folder, "new")), false);
  assert.equal((await type(folder, ["new", "next", "range.csv", "--for", "pennywort", "--yes"])).code, 0);
  for (const kept of ["shop", "next.part"]) assert.equal(readFileSync(join(folder, kept, "kept.txt"), "utf8"), "mine");
  assert.deepEqual(readdirSync(folder).sort(), ["empty.csv", "lat.png", "next", "next.part", "range.csv", "shop"]);
});

test("of newcomers who type what is printed most come to a rehearsed upload", async () => {
  let reached = 0;
  for (const number of [0, 1, 2, 3])
    for (const platform of ["pennywort", "saltmarsh"])
      if ((await journey("ci", number, platform)).isRehearsed) reached++;
  assert.ok(reached >= 6, `${reached} of 8`);
});

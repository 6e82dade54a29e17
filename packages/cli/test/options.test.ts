/** Options: each one that a command declares is looked up by it, and one without effect is refused. */

import assert from "node:assert/strict";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { test } from "node:test";
import { commands, main } from "#src/main.js";

const source = fileURLToPath(new URL("../../src/", import.meta.url));
const namesRead = (text: string): string[] =>
  [...text.matchAll(/(?:Option\(given, |options\[)"([A-Za-z-]+)"/g)].map((match) => match[1]!);
const camel = (name: string): string => name.replace(/-([a-z])/g, (_, letter: string) => letter.toUpperCase());

test("each declared option is looked up under its name, and no other name is", () => {
  const files = readdirSync(source, { recursive: true, encoding: "utf8" }).filter((file) => file.endsWith(".ts"));
  const read = new Set(files.flatMap((file) => namesRead(readFileSync(join(source, file), "utf8"))));
  const optionsOf = (command: (typeof commands)[number]) =>
    // `--no-rehearsal` is looked up as the rehearsal that is not wanted.
    command.options.map(({ flags }) => camel(/--(?:no-)?([a-z-]+)/.exec(flags)![1]!));
  const declared = new Set(commands.flatMap(optionsOf));
  assert.deepEqual([...read].sort(), [...declared].sort());
  assert.ok(declared.size > 20);
  for (const command of commands) {
    const own = readFileSync(join(source, "run", `${command.name}.ts`), "utf8");
    assert.deepEqual(
      namesRead(own).filter((name) => !optionsOf(command).includes(name)),
      [],
      command.name,
    );
  }
});

test("an option that had no effect is refused", async () => {
  let err = "";
  const io = {
    out: () => undefined,
    err: (text: string) => void (err += text),
    cwd: fileURLToPath(new URL("../../../../demo/clean/", import.meta.url)),
    colour: false,
    width: 120,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  };
  assert.equal(await main(["plan", "--left-out", "--svg", "plan.svg"], io), 2);
  assert.match(err, /--svg had no effect together with these options/);
});

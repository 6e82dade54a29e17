import { supplyOf } from "./packages/cli/dist/test/supplies/supplies.js";
import { writeFileSync } from "node:fs";
const [,,seed,n,to]=process.argv;
const { files, tongue } = supplyOf(seed, Number(n));
for (const f of files) { writeFileSync(`${to}/${f.name}`, f.bytes); }
console.log(tongue, files.map(f=>f.name+":"+f.kind).join(" "));

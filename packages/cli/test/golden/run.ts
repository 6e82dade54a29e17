import { runGolden } from "./golden.js";

process.exitCode = await runGolden(process.argv.slice(2));

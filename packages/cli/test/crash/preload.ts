/** Loaded before the command line, in a process of its own: what the environment says happens at one call of the file system. */

import { inject, type Fault } from "./inject.js";

const { CRASH_FOLDER: folder, CRASH_FAULT: fault, CRASH_AT: at } = process.env;
if (folder !== undefined) inject(folder, fault as Fault, Number(at));

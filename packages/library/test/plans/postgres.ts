/** A PostgreSQL server of its own in a temporary folder, from Debian's package. It listens on a socket in that folder alone. */

import { execFileSync } from "node:child_process";
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const versions = "/usr/lib/postgresql";

export interface Database {
  /** Runs statements, each by itself. @throws Error with the message of the server where one fails. */
  readonly run: (sql: string) => string;
  readonly stop: () => void;
}

/** @throws Error where the server is not installed. */
export function startDatabase(): Database {
  const [version] = existsSync(versions) ? readdirSync(versions).sort().reverse() : [];
  const programs = version === undefined ? "" : join(versions, version, "bin");
  if (!existsSync(join(programs, "initdb"))) throw new Error("there is no PostgreSQL: apt-get install postgresql");
  const folder = mkdtempSync(join(tmpdir(), "plans-"));
  // The server does not run as root.
  const id = (flag: string) => Number(execFileSync("id", [flag, "postgres"]).toString());
  const user = process.getuid?.() === 0 ? { uid: id("-u"), gid: id("-g") } : {};
  if (user.uid !== undefined) chownSync(folder, user.uid, user.gid);
  const options = { ...user, cwd: folder };
  const call = (program: string, args: readonly string[], input = ""): string =>
    execFileSync(join(programs, program), args, { ...options, input, maxBuffer: 1 << 28 }).toString();
  const data = join(folder, "data");
  call("initdb", ["-D", data, "-A", "trust", "--no-sync"]);
  const settings = `-k ${folder} -c listen_addresses= -c fsync=off`;
  execFileSync(join(programs, "pg_ctl"), ["-D", data, "-o", settings, "-l", join(folder, "log"), "-w", "start"], {
    ...options,
    stdio: "ignore",
  });
  return {
    run: (sql) => call("psql", ["-h", folder, "-d", "postgres", "-v", "ON_ERROR_STOP=1", "-q", "-A", "-t"], sql),
    stop() {
      call("pg_ctl", ["-D", data, "-m", "immediate", "stop"]);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

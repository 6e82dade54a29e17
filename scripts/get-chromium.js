/** Sees to it that Chromium is there for the tests of pages: Debian's package, unless one is on the path already. */

import { execFileSync } from "node:child_process";
import { getuid } from "node:process";

const packages = ["chromium", "fonts-liberation", "fonts-noto-core", "fonts-noto-cjk"];

function has(command) {
  try {
    execFileSync("sh", ["-c", `command -v ${command}`], { stdio: "ignore" });
    return true;
  } catch {
    return false;
  }
}

if (!has("chromium")) {
  const asRoot = (...words) => {
    const line = getuid() === 0 ? words : ["sudo", ...words];
    execFileSync(line[0], line.slice(1), {
      stdio: "inherit",
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    });
  };
  console.log(`Chromium is not there yet: installing ${packages.join(", ")}`);
  asRoot("apt-get", "update", "-qq");
  asRoot("apt-get", "install", "-y", "-qq", "--no-install-recommends", ...packages);
}

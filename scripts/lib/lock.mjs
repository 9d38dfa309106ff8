import { spawn } from "node:child_process";
import { join } from "node:path";
import { ensureLocal, LOCAL, say } from "./shell.mjs";

/**
 * Does something while no other command of this checkout does: two starts at once would build, prepare and number the
 * same things. The kernel holds the lock for a helper that ends with this process, however that ends, so that none is
 * ever left behind.
 */
export const underLock = async (act) => {
  ensureLocal();
  const helper = spawn("flock", ["--exclusive", join(LOCAL, "lock"), "sh", "-c", "echo held; exec cat >/dev/null"], {
    stdio: ["pipe", "pipe", "inherit"],
  });
  const waiting = setTimeout(
    () => say("Another command of this checkout is at work; waiting until it is done …"),
    1000,
  );
  try {
    await new Promise((resolve, reject) => {
      helper.stdout.once("data", resolve);
      helper.once("error", (error) =>
        reject(
          new Error(
            `Could not take the lock of this checkout: ${error.message}. The program flock (Debian's util-linux) is needed.`,
          ),
        ),
      );
      helper.once("close", (code) =>
        reject(
          new Error(
            `Could not take the lock ${join(LOCAL, "lock")} (flock ended with ${code}). Is the checkout read-only or the disk full?`,
          ),
        ),
      );
    });
  } finally {
    clearTimeout(waiting);
  }
  helper.removeAllListeners("close");
  try {
    return await act();
  } finally {
    helper.stdin.end();
  }
};

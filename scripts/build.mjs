import { ensureBuild } from "./lib/build.mjs";
import { underLock } from "./lib/lock.mjs";
import { main } from "./lib/shell.mjs";

/** Builds what `npm run start` serves, unless it is there. */
main(() => underLock(ensureBuild));

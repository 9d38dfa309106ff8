import { spawn } from "node:child_process";
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from "node:fs";
import { createServer } from "node:net";
import { dirname, join } from "node:path";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import {
  ask,
  clearAway,
  copyOf,
  dataOf,
  inCheckout,
  killed,
  makeCheckout,
  noteMoved,
  pidOf,
  start,
  stop,
} from "../testing/checkouts.mjs";
import { whenReady } from "./cluster.mjs";
import { gone, isAlive } from "./process.mjs";
import { isRoot, pause, run } from "./shell.mjs";

const LONG = 90_000;
const START =
  'import { underLock } from "./scripts/lib/lock.mjs"; import { startPostgres } from "./scripts/lib/cluster.mjs"; await underLock(startPostgres);';
const words = (checkout) =>
  ask(checkout, "select word from kept order by word").then((rows) => rows.map((row) => row.word));
const keep = (checkout, word) => ask(checkout, `insert into kept values ('${word}')`);
const withData = async (settings) => {
  const checkout = makeCheckout(settings);
  await ask(checkout, "create table kept as select 'before' as word");
  return checkout;
};
const trouble = (checkout) =>
  start(checkout).then(
    () => "none",
    (error) => error.message,
  );

afterAll(clearAway, LONG);

describe("the cluster of a checkout", () => {
  let checkout;
  beforeAll(async () => {
    checkout = await withData();
  }, LONG);

  it(
    "is found running, not started twice",
    async () => {
      const before = pidOf(dataOf(checkout));
      expect(await words(checkout)).toEqual(["before"]);
      expect(pidOf(dataOf(checkout))).toBe(before);
    },
    LONG,
  );

  it(
    "listens on loopback and asks for its password",
    async () => {
      const { port } = await start(checkout);
      expect(await ask(checkout, "show listen_addresses")).toEqual([{ listen_addresses: "127.0.0.1" }]);
      const without = await inCheckout(
        checkout,
        `import pg from "pg"; const client = new pg.Client({ host: "127.0.0.1", port: ${port}, user: "wandel", password: "wrong", database: "postgres" }); console.log(await client.connect().then(() => "in", (error) => error.code));`,
      );
      expect(without).toBe("28P01");
    },
    LONG,
  );

  it(
    "lets the application own its tables and nothing else",
    async () => {
      expect(
        await ask(
          checkout,
          "select current_user as who, rolsuper, rolcreatedb, rolcreaterole, rolreplication from pg_roles where rolname = current_user",
        ),
      ).toEqual([
        { who: "wandel_app", rolsuper: false, rolcreatedb: false, rolcreaterole: false, rolreplication: false },
      ]);
      expect(await ask(checkout, "select tableowner from pg_tables where tablename = 'kept'")).toEqual([
        { tableowner: "wandel_app" },
      ]);
      expect(
        await ask(
          checkout,
          "select has_database_privilege('postgres', 'connect') as postgres, has_database_privilege('template1', 'create') as template",
        ),
      ).toEqual([{ postgres: false, template: false }]);
      await expect(ask(checkout, "create role intruder")).rejects.toThrow("permission denied");
    },
    LONG,
  );

  it(
    "comes back with its data after a kill",
    async () => {
      await keep(checkout, "after");
      await killed(pidOf(dataOf(checkout)));
      expect(await words(checkout)).toEqual(["after", "before"]);
    },
    LONG,
  );

  it(
    "comes back when its note names a process that is another by now, and leaves that alone",
    async () => {
      await killed(pidOf(dataOf(checkout)));
      const other = spawn("sleep", ["60"]);
      const file = join(dataOf(checkout), "postmaster.pid");
      writeFileSync(file, [String(other.pid), ...readFileSync(file, "utf8").split("\n").slice(1)].join("\n"));
      expect(await words(checkout)).toEqual(["after", "before"]);
      expect(isAlive(other.pid)).toBe(true);
      other.kill();
    },
    LONG,
  );

  it(
    "goes on when its note is altered while it runs: nobody starts a second one on its data",
    async () => {
      const file = join(dataOf(checkout), "postmaster.pid");
      const [own, ...rest] = readFileSync(file, "utf8").split("\n");
      const other = spawn("sleep", ["60"]);
      for (const spoilt of [[String(other.pid), ...rest].join("\n"), "", "nonsense"]) {
        writeFileSync(file, spoilt);
        expect(await words(checkout)).toEqual(["after", "before"]);
        expect(isAlive(Number(own))).toBe(true);
      }
      expect(await stop(checkout)).toBe("true");
      expect([await gone(Number(own), 5000), isAlive(other.pid)]).toEqual([true, true]);
      other.kill();
      expect(await words(checkout)).toEqual(["after", "before"]);
    },
    LONG,
  );

  it.each([
    ["empty", (file) => writeFileSync(file, "")],
    ["damaged", (file) => writeFileSync(file, '{"dir":')],
    ["missing", (file) => rmSync(file)],
  ])(
    "goes on with its data when the notes of the checkout are %s",
    async (_how, spoil) => {
      const dir = dataOf(checkout);
      spoil(join(checkout, ".wandel/postgres.json"));
      if (dir.startsWith("/var/lib")) await stop(checkout);
      expect(await words(checkout)).toEqual(["after", "before"]);
      expect(dataOf(checkout)).toBe(dir);
    },
    LONG,
  );

  it(
    "sets a lost password anew without touching the data",
    async () => {
      rmSync(join(dataOf(checkout), "wandel.json"));
      expect(await words(checkout)).toEqual(["after", "before"]);
      const card = join(dataOf(checkout), "wandel.json");
      writeFileSync(card, JSON.stringify({ ...JSON.parse(readFileSync(card, "utf8")), password: "of another" }));
      await stop(checkout);
      expect(await words(checkout)).toEqual(["after", "before"]);
    },
    LONG,
  );

  it(
    "takes another port when its own is used by another program",
    async () => {
      const { port } = await start(checkout);
      await stop(checkout);
      const holder = createServer().listen(port, "127.0.0.1");
      await pause(100);
      const again = await start(checkout);
      expect(again.port).not.toBe(port);
      expect(await words(checkout)).toEqual(["after", "before"]);
      holder.close();
    },
    LONG,
  );

  it(
    "is put aside whole, and nothing is deleted, when a person begins afresh",
    async () => {
      const dir = dataOf(checkout);
      const said = await run(
        process.execPath,
        ["--input-type=module", "-e", 'import { putAside } from "./scripts/lib/postgres.mjs"; await putAside();'],
        {
          cwd: checkout,
          quiet: true,
        },
      );
      const [aside] = readdirSync(dirname(dir)).filter((name) => /^postgres-\d{4}-\d\d-\d\d-\d{4}$/.test(name));
      expect(said.output).toContain(join(dirname(dir), aside));
      expect(await ask(checkout, "select to_regclass('kept') as there")).toEqual([{ there: null }]);
      await stop(checkout);
      renameSync(dir, `${dir}-new`);
      renameSync(join(dirname(dir), aside), dir);
      expect(await words(checkout)).toEqual(["after", "before"]);
    },
    LONG,
  );
});

describe("a folder that is not as expected stops the start with what was found, and stays as it was", () => {
  let checkout;
  let dir;
  beforeAll(async () => {
    checkout = await withData({ open: true });
    dir = dataOf(checkout);
    await stop(checkout);
  }, LONG);
  afterEach(async () => {
    expect(await words(checkout)).toEqual(["before"]);
    await stop(checkout);
  }, LONG);

  it(
    "without PG_VERSION",
    async () => {
      const file = join(dir, "PG_VERSION");
      renameSync(file, `${file}.away`);
      const before = readdirSync(dir);
      expect(await trouble(checkout)).toMatch(
        /no whole PostgreSQL data folder.*PG_VERSION.*Nothing was changed.*--fresh/s,
      );
      expect(readdirSync(dir)).toEqual(before);
      renameSync(`${file}.away`, file);
    },
    LONG,
  );

  it(
    "a file in its place",
    async () => {
      renameSync(dir, `${dir}.away`);
      writeFileSync(dir, "nobody knows why");
      expect(await trouble(checkout)).toMatch(/lies a file of 16 bytes.*Nothing was changed.*Move it away/s);
      expect(readFileSync(dir, "utf8")).toBe("nobody knows why");
      rmSync(dir);
      renameSync(`${dir}.away`, dir);
    },
    LONG,
  );

  it(
    "made by another major version",
    async () => {
      const file = join(dir, "PG_VERSION");
      const version = readFileSync(file, "utf8");
      writeFileSync(file, "11\n");
      expect(await trouble(checkout)).toMatch(
        /made by PostgreSQL 11.*not installed.*Nothing was changed.*postgresql-11/s,
      );
      writeFileSync(file, version);
    },
    LONG,
  );

  it(
    "with a damaged control file",
    async () => {
      const file = join(dir, "global/pg_control");
      const whole = readFileSync(file);
      truncateSync(file, 100);
      expect(await trouble(checkout)).toMatch(/can't start on the data in .*Nothing was changed.*--fresh/s);
      writeFileSync(file, whole);
    },
    LONG,
  );
});

describe("a checkout in another place", () => {
  it.each([true, false])(
    "moved, it goes on with its data (in the checkout: %s)",
    async (open) => {
      const checkout = await withData({ open });
      const moved = `${checkout}-moved`;
      renameSync(checkout, moved);
      noteMoved(moved);
      expect(await words(moved)).toEqual(["before"]);
      await stop(moved);
      expect(await words(moved)).toEqual(["before"]);
    },
    LONG,
  );

  it.runIf(isRoot)(
    "moved, with the note of where its data lie emptied, it finds them by what is written there, and says so",
    async () => {
      const checkout = await withData();
      const dir = dataOf(checkout);
      await stop(checkout);
      const moved = `${checkout}-moved`;
      renameSync(checkout, moved);
      noteMoved(moved);
      writeFileSync(join(moved, ".wandel/postgres.json"), "");
      const said = await run(process.execPath, ["--input-type=module", "-e", START], {
        cwd: moved,
        quiet: true,
        env: { DATABASE_URL: "" },
      });
      expect(said.output).toContain(`found in ${dir}`);
      expect(await words(moved)).toEqual(["before"]);
      expect(dataOf(moved)).toBe(dir);
    },
    LONG,
  );

  it.runIf(isRoot)(
    "whose note was lost and whose data are not proven its own, it says which there are before it begins anew",
    async () => {
      const checkout = await withData();
      const dir = dataOf(checkout);
      await stop(checkout);
      const card = JSON.parse(readFileSync(join(dir, "wandel.json"), "utf8"));
      writeFileSync(join(dir, "wandel.json"), JSON.stringify({ ...card, place: "0:0" }));
      const moved = `${checkout}-moved`;
      renameSync(checkout, moved);
      noteMoved(moved);
      writeFileSync(join(moved, ".wandel/postgres.json"), "");
      const said = await run(process.execPath, ["--input-type=module", "-e", START], {
        cwd: moved,
        quiet: true,
        env: { DATABASE_URL: "" },
      });
      expect(said.output).toContain(`${dir} (of ${checkout}, which is gone)`);
      await stop(moved);
      const own = dataOf(moved);
      writeFileSync(join(moved, ".wandel/postgres.json"), JSON.stringify({ dir }));
      expect(await words(moved)).toEqual(["before"]);
      rmSync(dirname(own), { recursive: true, force: true });
    },
    LONG,
  );

  it(
    "copied while it runs, the copy gets a server and a port of its own, with the data as they were; the original goes on",
    async () => {
      const original = await withData({ open: true });
      await ask(original, "checkpoint").catch(() => {});
      const copy = await copyOf(original);
      const [own, theirs] = [await start(copy), await start(original)];
      expect(own.port).not.toBe(theirs.port);
      expect(own.dir).not.toBe(theirs.dir);
      await keep(copy, "copy");
      await keep(original, "original");
      expect([await words(copy), await words(original)]).toEqual([
        ["before", "copy"],
        ["before", "original"],
      ]);
      expect(await stop(copy)).toBe("true");
      expect(await words(original)).toEqual(["before", "original"]);
    },
    LONG,
  );

  it.runIf(isRoot)(
    "copied by root without its owner, the copy is given to the database's user and starts with the data as they were",
    async () => {
      const original = await withData({ open: true });
      await stop(original);
      const copy = await copyOf(original);
      expect((await run("chown", ["-R", "0:0", copy], { quiet: true })).code).toBe(0);
      expect(await words(copy)).toEqual(["before"]);
      await keep(copy, "copy");
      expect(await words(original)).toEqual(["before"]);
    },
    LONG,
  );

  it.runIf(isRoot)(
    "copied with its data elsewhere, the copy begins with a database of its own and leaves the original's",
    async () => {
      const original = await withData();
      const copy = await copyOf(original);
      expect(dataOf(original)).toContain("/var/lib/wandel/");
      expect(await ask(copy, "select to_regclass('kept') as there")).toEqual([{ there: null }]);
      expect(await words(original)).toEqual(["before"]);
    },
    LONG,
  );
});

describe("what is not its own", () => {
  it(
    "another PostgreSQL is not ended, though a note in this folder names it",
    async () => {
      const [mine, other] = [await withData({ open: true }), await withData({ open: true })];
      const pid = pidOf(dataOf(other));
      await stop(mine);
      writeFileSync(join(dataOf(mine), "postmaster.pid"), readFileSync(join(dataOf(other), "postmaster.pid")));
      expect(await stop(mine)).toBe("false");
      expect(isAlive(pid)).toBe(true);
      expect(await words(mine)).toEqual(["before"]);
      expect(await words(other)).toEqual(["before"]);
    },
    LONG,
  );

  it.runIf(isRoot)(
    "a checkout that belongs to another user, or is read-only, is told",
    async () => {
      const checkout = makeCheckout({ open: true });
      const said = await inCheckout(
        checkout,
        'import { underLock } from "./scripts/lib/lock.mjs"; await underLock(() => {});',
        { uid: 65_534, gid: 65_534 },
      ).then(
        () => "none",
        (error) => error.message,
      );
      expect(said).toMatch(/Nothing can be written to .*\.wandel \(E(ACCES|ROFS)\).*Make it writable/s);
    },
    LONG,
  );
});

describe("two starts at once", () => {
  it(
    "also the first: one prepares, the other waits and finds it",
    async () => {
      const checkout = makeCheckout();
      const [a, b] = await Promise.all([start(checkout), start(checkout)]);
      expect(a).toEqual(b);
    },
    LONG,
  );

  it(
    "the lock goes with whoever held it, however that ended",
    async () => {
      const checkout = makeCheckout({ open: true });
      const holder = spawn(
        process.execPath,
        [
          "--input-type=module",
          "-e",
          'import { underLock } from "./scripts/lib/lock.mjs"; await underLock(() => new Promise(() => setInterval(() => {}, 1000)));',
        ],
        { cwd: checkout },
      );
      while (!existsSync(join(checkout, ".wandel/lock"))) await pause(50);
      await pause(500);
      await killed(holder.pid);
      expect(
        await inCheckout(
          checkout,
          'import { underLock } from "./scripts/lib/lock.mjs"; console.log(await underLock(() => "mine"));',
        ),
      ).toBe("mine");
    },
    LONG,
  );
});

describe("a disk that is full", () => {
  const canMount = async (folder) =>
    isRoot && (await run("mount", ["-t", "tmpfs", "-o", "size=70m", "tmpfs", folder], { quiet: true })).code === 0;

  it(
    "is told before anything is made on it",
    async ({ skip }) => {
      const checkout = makeCheckout({ open: true });
      const local = join(checkout, ".wandel");
      mkdirSync(local);
      if (!(await canMount(local))) skip();
      try {
        expect(await trouble(checkout)).toMatch(
          /The disk that holds .* is full: \d+ MiB are free.*Make room and start again/s,
        );
        expect(readdirSync(local).filter((name) => name.startsWith("postgres"))).toEqual([]);
      } finally {
        await run("umount", [local], { quiet: true });
      }
    },
    LONG,
  );
});

describe("a server that takes its time to come back", () => {
  it("is waited for as long as it lives, with how long it has been", async () => {
    const answers = ["ECONNREFUSED", "57P03", "57P03", "57P03", "57P03", "open"];
    const told = [];
    const ready = await whenReady({
      knock: async () => answers.shift(),
      isOver: () => false,
      progress: (_seconds, recovering) => told.push(recovering),
      pauseMs: 30,
      progressMs: 40,
    });
    expect([ready, told.length > 0, told.every(Boolean)]).toEqual(["open", true, true]);
  });

  it("one that ended is not", async () => {
    let alive = 3;
    expect(
      await whenReady({
        knock: async () => "ECONNREFUSED",
        isOver: () => --alive === 0,
        progress: () => {},
        pauseMs: 5,
      }),
    ).toBe("ended");
  });
});

import { mkdirSync, readdirSync, rmSync, statfsSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { hostileFiles, largeTemplate } from "./figures/hostile-files.mjs";
import { shapes } from "./figures/limits.mjs";
import { ms, OwnService, quantile, Writer } from "./figures/own-service.mjs";
import { screens } from "./figures/screens.mjs";
import { happened, send } from "./figures/sending.mjs";
import { ensureBuild } from "./lib/build.mjs";
import { underLock } from "./lib/lock.mjs";
import { ensurePackages } from "./lib/packages.mjs";
import { dropTestDatabases, testDatabaseUrl } from "./lib/postgres.mjs";
import { isRoot, main, pause, run, say } from "./lib/shell.mjs";
import { clearAway, dataOf, inCheckout, killed, makeCheckout, pidOf } from "./testing/checkouts.mjs";

/** The smallest sizes are for trying that each part measures what it says; the figures are those of the whole. */
const small = process.argv.includes("small");
/** Whether the figures are what is asked of them; in the smallest size only that there are some. */
const within = (...asked) => small || asked.every(Boolean);
const KILLS = small ? 2 : 30;
/** So often one writer is measured, each time beside the bare database, and so many seconds. */
const [TURNS, TURN_S, MANY_S, WARM_MS] = small ? [1, 0.3, 0.5, 300] : [7, 2, 5, 5000];
/**
 * Lines of a template as large as may be, how often it is edited, and how many edits are stored to see what they take.
 */
const [LINES, AGAIN, STORED] = small ? [400, 5, 70] : [8192, 20, 1000];
const urlOf = (checkout) =>
  inCheckout(checkout, 'import { databaseUrl } from "./scripts/lib/postgres.mjs"; console.log(await databaseUrl());');

const told = (writers) => {
  const all = new Map();
  for (const { statuses } of writers)
    for (const [status, count] of statuses) all.set(status, (all.get(status) ?? 0) + count);
  return [...all].map(([status, count]) => `${count} × ${status || "no answer"}`).join(", ");
};

/** Everyone edits until the time is over or they are stopped. */
const allEdit = async (writers, until, between = 0) =>
  Promise.all(
    writers.map(async (writer) => {
      while (until()) {
        await writer.edit();
        if (between) await pause(between);
      }
    }),
  );

/**
 * The server or its database is killed again and again while four people edit; afterwards every acknowledged edit must
 * be there.
 */
const kills = async () => {
  const checkout = makeCheckout();
  const service = await OwnService.on(await urlOf(checkout));
  const writers = [];
  for (let n = 0; n < 4; n++) writers.push(new Writer(service, await service.copyOf(), `w${n}`));
  for (let round = 0; round < KILLS; round++) {
    let on = true;
    const editing = allEdit(writers, () => on);
    await pause(150 + ((round * 137) % 700));
    if (round % 2) await service.kill();
    else await killed(pidOf(dataOf(checkout)));
    await pause(100);
    on = false;
    await editing;
    if (round % 2) await service.start();
    else {
      await urlOf(checkout);
      while (!(await service.isHealthy())) await pause(50);
    }
  }
  const lost = (await Promise.all(writers.map((writer) => writer.lost()))).flat();
  const acknowledged = writers.reduce((sum, writer) => sum + writer.acknowledged.length, 0);
  await service.kill();
  say(
    `kills: ${KILLS} (half of the server, half of its database), ${acknowledged} edits acknowledged, ${lost.length} lost; answers: ${told(writers)}`,
  );
  return acknowledged > 0 && lost.length === 0;
};

/** The same change of a template in plain SQL, for as long as it is asked: how many a second. */
const inBareSql = async (service, seconds) => {
  const { default: pg } = await import("pg");
  const { id } = await service.copyOf();
  const client = new pg.Client({ connectionString: service.databaseUrl });
  await client.connect();
  const { rows } = await client.query(
    "select document::text as text, hash from template_revisions where template_id = $1",
    [id],
  );
  const patches = JSON.stringify([{ op: "replace", path: ["note"], value: "bare" }]);
  const end = Date.now() + seconds * 1000;
  let number = 1;
  for (; Date.now() < end; number++) {
    await client.query("begin");
    await client.query("select * from templates where id = $1 for update", [id]);
    await client.query(
      "insert into template_revisions (template_id, number, document, patches, hash, commands, names, batch) values ($1, $2, $3, $4, $5, '[]', '[]', $6)",
      [id, number + 1, (number + 1) % 64 ? null : rows[0].text, patches, rows[0].hash, `bare ${number}`],
    );
    await client.query("update templates set head = $2, changed_at = now() where id = $1", [id, number + 1]);
    await client.query("commit");
  }
  await client.end();
  return (number - 1) / seconds;
};

const onOwn = async (service, count) => {
  const writers = [];
  for (let n = 0; n < count; n++) writers.push(new Writer(service, await service.copyOf(), `own${n}`));
  return writers;
};

/**
 * How fast edits are answered when nobody does anything else, beside what the database alone takes for as many
 * revisions.
 */
const load = async (service) => {
  const measured = async (writers, seconds) => {
    const before = await service.measure();
    const end = Date.now() + seconds * 1000;
    await allEdit(writers, () => Date.now() < end);
    const { cpuMs } = await service.measure();
    const saved = writers.reduce((sum, writer) => sum + writer.acknowledged.length, 0);
    if (!saved)
      throw new Error(`load: nothing was saved in ${seconds} s, so nothing was measured; answers: ${told(writers)}`);
    return {
      rate: saved / seconds,
      cpuMs: (cpuMs - before.cpuMs) / saved,
      latencies: writers.flatMap((writer) => writer.latencies),
      answers: told(writers),
    };
  };
  const sayOf = (name, { rate, cpuMs, latencies, answers }) =>
    say(
      `load: ${name}: ${rate.toFixed(0)} edits a second, median ${ms(quantile(latencies, 0.5))}, p99 ${ms(quantile(latencies, 0.99))}, ${ms(cpuMs)} of the server's processor each; answers: ${answers}`,
    );
  // A server that has just started compiles while it is measured.
  const early = Date.now() + WARM_MS;
  await allEdit(await onOwn(service, 8), () => Date.now() < early);
  // In turn, since the machine is not as fast in one second as in the next.
  const turns = [];
  for (let turn = 0; turn < TURNS; turn++) {
    const bare = await inBareSql(service, TURN_S);
    turns.push({ bare, ...(await measured(await onOwn(service, 1), TURN_S)) });
  }
  for (const turn of turns)
    sayOf(
      `one writer, beside ${turn.bare.toFixed(0)} a second in bare SQL (${(turn.rate / turn.bare).toFixed(2)})`,
      turn,
    );
  say(
    `load: one writer: median ${quantile(
      turns.map(({ rate, bare }) => rate / bare),
      0.5,
    ).toFixed(2)} of bare SQL`,
  );
  sayOf("eight on eight templates", await measured(await onOwn(service, 8), MANY_S));
  const shared = await service.copyOf();
  sayOf(
    "eight on one template",
    await measured(
      Array.from({ length: 8 }, (_, n) => new Writer(service, shared, `shared${n}`)),
      MANY_S,
    ),
  );
  return true;
};

/** Hostile files one after the other, while another person edits a template of usual size. */
const hostile = async (service) => {
  const { body: base } = await service.call("GET", "/api/templates/tidewrack-nine");
  const writer = new Writer(service, await service.copyOf(), "patient");
  for (let n = 0; n < 40; n++) await writer.edit();
  writer.latencies.length = 0;
  await service.measure();
  // Written before anyone edits: it takes this process a while.
  const files = hostileFiles(base);
  let on = true;
  let [worstLoop, worstMemory, good] = [0, 0, true];
  const editing = allEdit([writer], () => on, 20);
  for (const file of files) {
    const before = writer.latencies.length;
    const answers = [await send(service, file, true), await send(service, file, false)];
    const { loopMs, memoryMiB } = await service.measure();
    [worstLoop, worstMemory] = [Math.max(worstLoop, loopMs), Math.max(worstMemory, memoryMiB)];
    const own = writer.latencies.slice(before);
    say(
      `hostile: ${file.name.padEnd(34)} ${answers.map((answer) => `${answer.status} in ${ms(answer.ms)}`).join(", ")}; event loop held ${ms(loopMs)}, edits meanwhile at most ${ms(Math.max(0, ...own))}, memory ${memoryMiB.toFixed(0)} MiB`,
    );
    // Whatever is sent, the fault is the sender's: no answer at all, or one of 5xx, would be ours.
    for (const { status } of answers) good = good && status >= 200 && status < 500;
    for (const { body } of answers)
      if (body?.template) await service.call("DELETE", `/api/templates/${body.template.id}`);
  }
  on = false;
  await editing;
  const p99 = quantile(writer.latencies, 0.99);
  say(
    `hostile: another person's ${writer.latencies.length} edits: median ${ms(quantile(writer.latencies, 0.5))}, p99 ${ms(p99)}; event loop held at most ${ms(worstLoop)}; memory at most ${worstMemory.toFixed(0)} MiB; answers: ${told([writer])}`,
  );
  return good && within(p99 < 200, worstLoop < 50, worstMemory < 700);
};

/** A template as large as may be: opened, edited, judged and printed while another person edits a usual one. */
const large = async (service) => {
  const { body: base } = await service.call("GET", "/api/templates/tidewrack-nine");
  const { status: taken, body } = await send(service, { name: "large.json", text: largeTemplate(base, LINES) }, false);
  if (!happened("as large as may be: the import", taken, [200, 201])) return false;
  const writer = new Writer(service, await service.copyOf(), "beside");
  const own = new Writer(service, { id: body.template.id, revision: 1 }, "large");
  await service.measure();
  let on = true;
  const editing = allEdit([writer], () => on, 20);
  const edit = async () => ({ status: await own.edit(), ms: own.latencies.at(-1) });
  const acts = {
    opened: () => service.call("GET", `/api/templates/${body.template.id}`),
    "a moment later edited": async () => {
      await pause(2000);
      return edit();
    },
    "edited again": edit,
    "edited again and again": async () => {
      const before = await service.measure();
      const from = own.latencies.length;
      const statuses = [];
      for (let n = 0; n < AGAIN; n++) statuses.push(await own.edit());
      const { cpuMs } = await service.measure();
      say(
        `${LINES} lines: one edit after the other: median ${ms(quantile(own.latencies.slice(from), 0.5))}, ${ms((cpuMs - before.cpuMs) / AGAIN)} of the server's processor each, with what another person edits meanwhile`,
      );
      return {
        status: statuses.find((status) => status !== 200) ?? 200,
        ms: own.latencies.slice(from).reduce((sum, one) => sum + one, 0),
      };
    },
    read: () => service.call("GET", `/api/templates/${body.template.id}`),
    "its page": () => service.call("GET", `/templates/${body.template.id}/inputs`),
    "its page again": () => service.call("GET", `/templates/${body.template.id}/inputs`),
    judged: () => service.call("GET", `/api/templates/${body.template.id}/findings`),
    "as CSV": () => service.call("GET", `/api/templates/${body.template.id}/export?format=csv`),
    "as PDF": () => service.call("GET", `/api/templates/${body.template.id}/export?format=pdf`),
    "the library": () => service.call("GET", "/api/templates"),
  };
  let [worstLoop, worstMemory, good] = [0, 0, true];
  for (const [name, act] of Object.entries(acts)) {
    const { status, ms: took } = await act();
    const { loopMs, memoryMiB } = await service.measure();
    [worstLoop, worstMemory] = [Math.max(worstLoop, loopMs), Math.max(worstMemory, memoryMiB)];
    good = happened(`${LINES} lines: ${name}`, status) && good;
    say(
      `${LINES} lines: ${name}: ${status} in ${ms(took)}; event loop held ${ms(loopMs)}, memory ${memoryMiB.toFixed(0)} MiB`,
    );
  }
  on = false;
  await editing;
  const p99 = quantile(writer.latencies, 0.99);
  say(`${LINES} lines: edits of a usual template beside it: p99 ${ms(p99)}`);
  await service.call("DELETE", `/api/templates/${body.template.id}`);
  return good && within(p99 < 200, worstLoop < 50, worstMemory < 700);
};

/** What a thousand edits of a template of 512 lines take on the disk, beside what whole documents would. */
const stored = async (service) => {
  const { body: base } = await service.call("GET", "/api/templates/tidewrack-nine");
  const { status, body } = await send(service, { name: "stored.json", text: largeTemplate(base, 512) }, false);
  if (!happened("stored: the import", status, [200, 201])) return false;
  const { id } = body.template;
  const { body: opened } = await service.call("GET", `/api/templates/${id}`);
  const lines = Object.keys(opened.document.lines);
  let revision = opened.revision;
  for (let n = 0; n < STORED; n++) {
    const commands = [
      { kind: "set", table: "lines", values: { [lines[n % lines.length]]: { gainDb: 20 + (n % 40) } } },
    ];
    const { status: kept, body: saved } = await service.lean(
      "POST",
      `/api/templates/${id}/commands`,
      { base: revision, batch: `stored ${n}`, commands },
      20_000,
    );
    if (!happened(`stored: edit ${n}`, kept)) return false;
    revision = saved.revision;
  }
  const { default: pg } = await import("pg");
  const client = new pg.Client({ connectionString: service.databaseUrl });
  await client.connect();
  const { rows } = await client.query(
    `select sum(pg_column_size(r)) filter (where number > 1) as bytes, count(document) filter (where number > 1) as whole, max(octet_length(document::text)) as text, max(pg_column_size(document)) as one
     from template_revisions r where template_id = $1`,
    [id],
  );
  await client.end();
  const [{ bytes, whole, text, one }] = rows;
  const mib = (count) => `${(Number(count) / 1024 / 1024).toFixed(2)} MiB`;
  say(
    `stored: ${revision - 1} edits of ${lines.length} lines: ${mib(bytes)}, ${whole} whole documents among them (${text} bytes of text, ${one} as kept); a whole one for each edit: ${mib(one * STORED)}`,
  );
  await service.call("DELETE", `/api/templates/${id}`);
  return true;
};

const freeMiB = (folder) => {
  const { bavail, bsize } = statfsSync(folder);
  return (bavail * bsize) / 1024 / 1024;
};

/** The disk of the database fills while people edit, and has room again later. */
const fullDisk = async () => {
  const checkout = makeCheckout({ open: true });
  const local = join(checkout, ".wandel");
  mkdirSync(local, { mode: 0o711 });
  if (
    !isRoot ||
    (await run("mount", ["-t", "tmpfs", "-o", "size=400m,mode=0711", "tmpfs", local], { quiet: true })).code !== 0
  ) {
    say("full disk: not run: this needs root and a machine on which a small disk can be mounted");
    return true;
  }
  let service;
  try {
    service = await OwnService.on(await urlOf(checkout));
    const writers = [];
    for (let n = 0; n < 8; n++) writers.push(new Writer(service, await service.copyOf("flood-cantata"), `full${n}`));
    const fill = join(local, "filler");
    writeFileSync(fill, Buffer.alloc(Math.max(0, Math.floor(freeMiB(local) - 1)) * 1024 * 1024));
    const end = Date.now() + 15_000;
    await allEdit(writers, () => Date.now() < end);
    const slowest = Math.max(...writers.flatMap((writer) => writer.latencies));
    const before = told(writers);
    rmSync(fill);
    let [waited, back] = [0, false];
    for (; waited < 60 && !back; waited++) {
      back = (await writers[0].edit()) === 200;
      if (!back) await pause(1000);
    }
    if (!back) await urlOf(checkout);
    for (; !back && waited < 90; waited++) {
      back = (await writers[0].edit()) === 200;
      await pause(1000);
    }
    const lost = (await Promise.all(writers.map((writer) => writer.lost()))).flat();
    const acknowledged = writers.reduce((sum, writer) => sum + writer.acknowledged.length, 0);
    say(`full disk: answers while it filled and was full: ${before}; the slowest took ${ms(slowest)}`);
    say(
      `full disk: with room again edits were taken ${back ? `after ${waited} s` : "no more"}; ${acknowledged} acknowledged, ${lost.length} lost`,
    );
    return back && lost.length === 0 && !before.includes("× 500");
  } finally {
    await service?.kill();
    await inCheckout(
      checkout,
      'import { stopPostgres } from "./scripts/lib/postgres.mjs"; await stopPostgres();',
    ).catch(() => {});
    for (let tries = 0; tries < 20 && (await run("umount", [local], { quiet: true })).code !== 0; tries++)
      await pause(500);
    if (!readdirSync(local).includes("postgres")) rmSync(checkout, { recursive: true, force: true });
  }
};

/** Parts that need a server of their own, and those that one server bears one after the other. */
const ALONE = { kills, disk: fullDisk };
const SHARED = {
  load,
  stored,
  hostile,
  large,
  shapes,
  screens,
};

/**
 * What the service bears, in some minutes, on loopback and databases of its own. `npm run figures -- kills` runs a
 * part.
 */
main(async () => {
  const [only] = process.argv.slice(2).filter((word) => word !== "small");
  // What fills a disk and what is as hostile as may be has no small size.
  const wanted = (parts) =>
    Object.entries(parts).filter(([name]) =>
      only ? only === name : !small || (name !== "disk" && name !== "hostile"),
    );
  if (only && !(only in ALONE) && !(only in SHARED))
    throw new Error(
      `There is no part ${only}; there are ${[...Object.keys(ALONE), ...Object.keys(SHARED)].join(", ")}.`,
    );
  await underLock(async () => {
    await ensurePackages(["postgresql"]);
    await ensureBuild();
  });
  let good = true;
  try {
    for (const [, part] of wanted(ALONE)) good = (await part()) && good;
    const shared = wanted(SHARED);
    const service = shared.length ? await OwnService.on(await testDatabaseUrl("figures")) : null;
    try {
      for (const [, part] of shared) good = (await part(service)) && good;
    } finally {
      await service?.kill();
    }
  } finally {
    await clearAway();
    await dropTestDatabases();
  }
  say(good ? "\nAll within what is asked of it." : "\nNot all is within what is asked of it; see above.");
  process.exitCode = good ? 0 : 1;
});

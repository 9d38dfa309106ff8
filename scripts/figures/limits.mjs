import { pause, say } from "../lib/shell.mjs";
import { ms, quantile, Writer } from "./own-service.mjs";
import { happened, send } from "./sending.mjs";
import { shapesAtLimits } from "./shapes.mjs";

/** What is looked at of each large template, and how long it may take. */
const looks = (id) => ({
  "its findings": [`/api/templates/${id}/findings`],
  "its routing": [`/api/templates/${id}/flow`],
  "its delay": [`/api/templates/${id}/delay`],
  "its levels": [`/api/templates/${id}/levels`],
  "its list": [`/api/templates/${id}/export?format=csv`],
  "its PDF": [`/api/templates/${id}/export?format=pdf`],
  "its page": [`/templates/${id}/inputs`],
  "its revisions": [`/api/templates/${id}/newer?since=1`],
});

/** Somebody who has a usual template edited, listed and printed, again and again, while others do as they like. */
class Neighbour {
  constructor(service, writer) {
    Object.assign(this, { service, writer, on: true, times: { edit: [], list: [], sheet: [], library: [] } });
  }

  async turn() {
    const { service, times, writer } = this;
    const get = (path) => service.call("GET", path, undefined, { headers: { "user-agent": "the neighbour" } });
    const timed = async (into, act) => {
      const { status, ms: took } = await act();
      times[into].push(status === 200 ? took : 60_000);
    };
    await timed("edit", async () => ({ status: await writer.edit(), ms: writer.latencies.at(-1) }));
    await timed("list", () => get("/api/templates/tidewrack-nine/export?format=csv"));
    await timed("library", () => get("/api/templates"));
    await timed("sheet", () => get("/api/templates/tidewrack-nine/export?format=pdf"));
  }

  async go() {
    while (this.on) {
      await this.turn();
      await pause(20);
    }
  }

  p99() {
    return Object.fromEntries(Object.entries(this.times).map(([what, all]) => [what, quantile(all, 0.99)]));
  }
}

/**
 * Does everything with one large template: what of it happened as it should, how long each took, and the most memory.
 */
const tryOut = async (service, { name, text }) => {
  const told = [];
  let [good, most, heap] = [true, 0, ""];
  const imported = await send(service, { name: `${name}.json`, text }, false);
  if (!happened(`${name}: the import`, imported.status, [200, 201])) return { good: false, told, most };
  const { id } = imported.body.template;
  told.push(`taken in ${ms(imported.ms)}`);
  const own = new Writer(service, { id, revision: 1 }, name.replaceAll(" ", "-"));
  for (let n = 0; n < 5; n++) good = happened(`${name}: an edit`, await own.edit()) && good;
  told.push(`edits ${own.latencies.map((one) => ms(one)).join(", ")}`);
  for (const [what, [path]] of Object.entries(looks(id))) {
    const { status, ms: took } = await service.call("GET", path, undefined, { timeoutMs: 120_000 });
    // What takes too long is refused in words; anything else than an answer or that is a fault.
    good = happened(`${name}: ${what}`, status, [200, 422]) && good;
    told.push(`${what} ${status === 200 ? "" : `${status} `}${ms(took)}`);
    const { memoryMiB, heapMiB, externalMiB } = await service.measure();
    if (memoryMiB > most)
      heap = `of it ${heapMiB.toFixed(0)} heap and ${externalMiB.toFixed(0)} outside of it, in the thread that answers`;
    most = Math.max(most, memoryMiB);
  }
  told.push(heap);
  await service.call("DELETE", `/api/templates/${id}`);
  return { good, told, most };
};

/**
 * Templates at each limit: everything that can be done with them, beside somebody who does everyday things with a usual
 * one. `small` tries the measuring itself.
 */
export const shapes = async (service) => {
  const small = process.argv.includes("small");
  const alone = new Neighbour(service, new Writer(service, await service.copyOf(), "alone"));
  for (let n = 0; n < 30; n++) await alone.turn();
  alone.times = { edit: [], list: [], sheet: [], library: [] };
  for (let n = 0; n < 30; n++) await alone.turn();
  const usual = alone.p99();
  say(
    `shapes: alone, p99: an edit ${ms(usual.edit)}, a list ${ms(usual.list)}, a PDF ${ms(usual.sheet)}, the library ${ms(usual.library)}`,
  );
  let allGood = true;
  for (const shape of await shapesAtLimits({ small })) {
    const neighbour = new Neighbour(service, alone.writer);
    const going = neighbour.go();
    await service.measure();
    const { good, told, most } = await tryOut(service, shape);
    neighbour.on = false;
    await going;
    const p99 = neighbour.p99();
    const times = (what) => `${ms(p99[what])} (${(p99[what] / usual[what]).toFixed(1)})`;
    say(
      `shapes: ${shape.name} (${(shape.text.length / 1e6).toFixed(1)} MB): ${told.join(", ")}; memory ${most.toFixed(0)} MiB`,
    );
    say(
      `shapes: ${shape.name}: meanwhile beside it, p99 and how often the usual: an edit ${times("edit")}, a list ${times("list")}, a PDF ${times("sheet")}, the library ${times("library")}; ${neighbour.times.edit.length} turns`,
    );
    allGood = allGood && good && (small || (most < 900 && p99.library < 300));
  }
  return allGood;
};

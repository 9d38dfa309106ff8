import { spawn } from "node:child_process";
import { connect } from "node:net";
import { birthOf, gone } from "../lib/process.mjs";
import { serveArgs } from "../lib/server.mjs";
import { freePort, pause, ROOT } from "../lib/shell.mjs";

/**
 * A connection on which one request after the other is written as plain text and answered with a length: a client that
 * costs next to nothing.
 */
class Wire {
  constructor(port) {
    this.host = `127.0.0.1:${port}`;
    this.socket = connect(port, "127.0.0.1").setNoDelay(true);
    this.parts = [];
    this.socket.on("data", (part) => {
      this.parts.push(part);
      this.read();
    });
    for (const end of ["error", "close"]) this.socket.on(end, () => this.done?.({ status: 0, text: "" }));
  }

  read() {
    const all = this.parts.length > 1 ? Buffer.concat(this.parts) : this.parts[0];
    const from = all.indexOf("\r\n\r\n") + 4;
    if (from < 4) return;
    const head = all.toString("latin1", 0, from);
    const length = Number(/\r\ncontent-length: (\d+)/i.exec(head)?.[1] ?? 0);
    if (all.length < from + length) return;
    this.parts = [];
    if (/\r\nconnection: close/i.test(head)) this.socket.destroy();
    this.done?.({ status: Number(head.slice(9, 12)), text: all.toString("utf8", from, from + length) });
  }

  /** What is answered; the status is 0 when nothing is in time, and the connection is of no more use. */
  ask(method, path, text, timeoutMs) {
    return new Promise((resolve) => {
      const late = setTimeout(() => this.socket.destroy(), timeoutMs);
      this.done = (answer) => {
        clearTimeout(late);
        this.done = null;
        resolve(answer);
      };
      if (this.socket.destroyed) this.done({ status: 0, text: "" });
      else
        this.socket.write(
          `${method} ${path} HTTP/1.1\r\nhost: ${this.host}\r\ncontent-type: application/json\r\ncontent-length: ${Buffer.byteLength(text)}\r\n\r\n${text}`,
        );
    });
  }
}

/** A server of a run's own on a database, which may be killed and worn out. */
export class OwnService {
  constructor(databaseUrl, port) {
    this.databaseUrl = databaseUrl;
    this.port = port;
    this.url = `http://127.0.0.1:${port}`;
    this.free = [];
  }

  static async on(databaseUrl) {
    const service = new OwnService(databaseUrl, await freePort(0));
    await service.start();
    return service;
  }

  async start() {
    this.child = spawn(process.execPath, serveArgs("start", this.port, "127.0.0.1"), {
      cwd: ROOT,
      stdio: ["ignore", "ignore", "ignore", "ipc"],
      env: { ...process.env, DATABASE_URL: this.databaseUrl, WANDEL_DEMO: "1", NEXT_TELEMETRY_DISABLED: "1" },
    });
    this.birth = birthOf(this.child.pid);
    for (let tries = 0; tries < 600 && !(await this.isHealthy()); tries++) await pause(50);
  }

  async isHealthy() {
    try {
      return (await fetch(`${this.url}/api/health`, { signal: AbortSignal.timeout(2000) })).ok;
    } catch {
      return false;
    }
  }

  async kill() {
    if (birthOf(this.child.pid) !== this.birth) return;
    this.child.kill("SIGKILL");
    await gone(this.child.pid, 10_000);
  }

  /** What the server says of itself since it was last asked: the longest its event loop was held, and its memory. */
  measure() {
    return new Promise((resolve) => {
      this.child.once("message", resolve);
      this.child.send("measure");
    });
  }

  /** A request of JSON over a connection that is kept: what the sender itself costs is not what is measured. */
  async lean(method, path, body, timeoutMs) {
    const began = performance.now();
    this.free = this.free.filter(({ socket }) => !socket.destroyed);
    const wire = this.free.pop() ?? new Wire(this.port);
    const { status, text } = await wire.ask(method, path, JSON.stringify(body), timeoutMs);
    if (status) this.free.push(wire);
    return { status, body: text.startsWith("{") ? JSON.parse(text) : text, ms: performance.now() - began };
  }

  async call(method, path, body, { timeoutMs = 30_000, headers = {} } = {}) {
    const began = performance.now();
    try {
      const form = body instanceof FormData;
      const response = await fetch(`${this.url}${path}`, {
        method,
        signal: AbortSignal.timeout(timeoutMs),
        headers: { ...(body === undefined || form ? {} : { "content-type": "application/json" }), ...headers },
        ...(body === undefined ? {} : { body: form || typeof body === "string" ? body : JSON.stringify(body) }),
      });
      const text = await response.text();
      return {
        status: response.status,
        body: text.startsWith("{") ? JSON.parse(text) : text,
        ms: performance.now() - began,
      };
    } catch {
      return { status: 0, body: null, ms: performance.now() - began };
    }
  }

  async copyOf(id = "tidewrack-nine") {
    const { body } = await this.call("POST", "/api/templates", {
      copyOf: id,
      name: `Worn ${Math.random().toString(36).slice(2, 8)}`,
    });
    return { id: body.document.id, revision: body.revision };
  }
}

/** Someone who edits one template, keeps to what is answered, and notes what was acknowledged. */
export class Writer {
  constructor(service, template, name) {
    Object.assign(this, { service, template, name });
    this.base = template.revision;
    this.count = 0;
    this.acknowledged = [];
    this.latencies = [];
    this.statuses = new Map();
  }

  async edit() {
    const batch = `${this.name}-${this.count}`;
    const commands = [
      { kind: "set", table: "document", values: { [this.template.id]: { note: `${this.name} ${this.count}` } } },
    ];
    const { status, body, ms } = await this.service.lean(
      "POST",
      `/api/templates/${this.template.id}/commands`,
      { base: this.base, batch, commands },
      20_000,
    );
    this.latencies.push(ms);
    this.statuses.set(status, (this.statuses.get(status) ?? 0) + 1);
    if (status === 200) {
      this.base = body.revision;
      this.acknowledged.push({ batch, revision: body.revision });
      this.count++;
    } else if (status === 409) this.base = body.newer?.at(-1)?.revision ?? body.head ?? this.base;
    return status;
  }

  /** Acknowledged edits that are not among the revisions of the template. */
  async lost() {
    const kept = new Map();
    for (let since = 0, more = true; more; ) {
      const { body } = await this.service.call("GET", `/api/templates/${this.template.id}/newer?since=${since}`);
      for (const { batch, revision } of body.newer) kept.set(batch, revision);
      since = body.newer.at(-1)?.revision ?? since;
      more = body.more && body.newer.length > 0;
    }
    return this.acknowledged.filter(({ batch, revision }) => kept.get(batch) !== revision);
  }
}

export const quantile = (values, share) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
};

export const ms = (value) => `${value.toFixed(value < 10 ? 1 : 0)} ms`;

import { createHash } from "node:crypto";
import { isIP } from "node:net";

/**
 * Larger bodies than any that the service takes; they are refused by their announced length before a byte of them is
 * read.
 */
const MOST_BYTES = 17 * 1024 * 1024;
const METHODS = { page: ["GET", "HEAD"], service: ["GET", "HEAD", "POST", "DELETE"] };

const HEADERS = {
  "x-content-type-options": "nosniff",
  "cross-origin-resource-policy": "same-origin",
  "cross-origin-opener-policy": "same-origin",
  "referrer-policy": "no-referrer",
  "x-frame-options": "DENY",
};

/** For what is no page: nothing in it may run or be framed. */
const SERVICE_POLICY = "default-src 'none'; frame-ancestors 'none'";

/** The name in a Host header, without its port; null when it is none. */
export const nameIn = (host) => {
  const found = /^(?:\[([0-9a-f:.]{2,45})\]|([a-z0-9._-]{1,253}))(?::\d{1,5})?$/i.exec(host ?? "");
  return found ? (found[1] ?? found[2]).toLowerCase() : null;
};

const LOOPBACK = ["127.0.0.1", "localhost", "::1"];

/**
 * Whether a request was meant for this server: it names loopback, the host the server was told to listen on, one of
 * WANDEL_NAMES, or the very address it came in by. A page of a foreign name that was made to point here (rebinding) is
 * none of these.
 */
export const isMeant = (host, { names, localAddress }) => {
  const name = nameIn(host);
  if (name === null) return false;
  return (
    LOOPBACK.includes(name) ||
    names.includes(name) ||
    (isIP(name) > 0 && name === localAddress?.replace(/^::ffff:/, ""))
  );
};

/** Who may do what at a server that listens beyond its own machine; null where it does not. */
export const openTo = (host) =>
  LOOPBACK.includes(host)
    ? null
    : `It listens beyond this machine (WANDEL_HOST is ${host}). Nobody is asked who they are: whoever reaches this address may read, change and delete every template, rig and setting, and what goes over the network can be read on its way. To have it to yourself, start it without WANDEL_HOST.`;

export const namesOf = ({ WANDEL_NAMES = "" }, host) =>
  [...WANDEL_NAMES.split(","), host]
    .map((name) => name.trim().toLowerCase())
    .filter((name) => name && name !== "0.0.0.0" && name !== "::");

const problem = (status, title, detail) => ({ status, title, detail });

const readable = (path) => {
  try {
    decodeURIComponent(path);
    return path.startsWith("/") && Boolean(new URL(path, "http://wandel.invalid"));
  } catch {
    return false;
  }
};

/** Why a request is not let in, before anything is done for it; null when it is. */
export const refusalOf = ({ method, url = "", headers, rawHeaders = [], localAddress }, names) => {
  if (rawHeaders.filter((name, at) => at % 2 === 0 && name.toLowerCase() === "host").length > 1)
    return problem(400, "Two hosts", "The request names two hosts; nobody can tell which is meant.");
  if (!isMeant(headers.host, { names, localAddress }))
    return problem(
      421,
      "Not the name of this server",
      `This Wandel answers to localhost and to the names it was told${names.length ? ` (${names.join(", ")})` : ""}. To add one, start it with WANDEL_NAMES set to it.`,
    );
  if (!readable(url))
    return problem(
      400,
      "Malformed address",
      "The address can't be read: a % in it is followed by something that is no character.",
    );
  const service = /^\/api(?:[/?]|$)/.test(url);
  const methods = METHODS[service ? "service" : "page"];
  if (!methods.includes(method))
    return problem(
      405,
      "Not allowed",
      `${service ? "The service takes" : "Pages take"} ${methods.join(", ")}, and not ${method}.`,
    );
  if (Number(headers["content-length"] ?? 0) > MOST_BYTES)
    return problem(
      413,
      "Too large",
      `The body is larger than ${MOST_BYTES / 1024 / 1024} MiB; nothing here takes more.`,
    );
  return null;
};

/** Who asks, as far as that can be told: an address and a kind of browser, as a short word that names neither. */
export const clientOf = (address = "", agent = "") =>
  createHash("sha256").update(`${address} ${agent}`).digest("base64url").slice(0, 16);

export const addHeaders = (url = "", set) => {
  for (const [name, value] of Object.entries(HEADERS)) set(name, value);
  if (url.startsWith("/api")) set("content-security-policy", SERVICE_POLICY);
};

export const refuse = (response, { status, ...words }) => {
  response.writeHead(status, {
    "content-type": "application/problem+json",
    "cache-control": "no-store",
    connection: "close",
    ...(status === 405 ? { allow: METHODS.service.join(", ") } : {}),
  });
  response.end(JSON.stringify({ type: "about:blank", status, ...words }));
};

const RAW = {
  HPE_HEADER_OVERFLOW: [
    "431 Request Header Fields Too Large",
    "The headers of the request are longer than any that are taken.",
  ],
  ERR_HTTP_REQUEST_TIMEOUT: ["408 Request Timeout", "The request did not arrive within a minute."],
};

/** The answer to what is no HTTP, as it goes out on the wire. */
export const rawRefusal = (code) => {
  const [status, detail] = RAW[code] ?? [
    "400 Bad Request",
    "This is no request that can be read: its first line, headers or length are malformed.",
  ];
  const body = JSON.stringify({
    type: "about:blank",
    status: Number(status.slice(0, 3)),
    title: status.slice(4),
    detail,
  });
  return `HTTP/1.1 ${status}\r\ncontent-type: application/problem+json\r\nx-content-type-options: nosniff\r\nconnection: close\r\ncontent-length: ${Buffer.byteLength(body)}\r\n\r\n${body}`;
};

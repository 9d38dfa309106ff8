/**
 * Requests as nobody sends them by mistake, made from the description of the service: every route, with every parameter
 * and field bent.
 */

export interface Hostile {
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | null;
}

type Loose = Readonly<Record<string, unknown>>;

/** A sequence of chance that is the same in every run (mulberry32). */
export const chanceOf = (seed: number): (() => number) => {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
};

const deep = (levels: number): string => "[".repeat(levels) + "]".repeat(levels);

const TEXTS = [
  "",
  " ",
  "x",
  "x".repeat(9000),
  "\u0000",
  "a\u0000b",
  "\ud800",
  "\u202e",
  "__proto__",
  "constructor",
  "../../etc/passwd",
  "%ff",
  "%00",
  "' or 1=1 --",
  "=1+1",
  "NaN",
  "-1",
  "2147483648",
  "9007199254740993",
  "1e400",
  "true",
  "null",
  "🥁".repeat(200),
  "+275760-13-45T99:99:99Z",
  Buffer.from("2026-01-01T00:00:00.000Z \u0000").toString("base64url"),
  Buffer.from("9999999-01-01T00:00:00.000Z x").toString("base64url"),
  ")".repeat(5000),
  " - ".repeat(3000),
  "[".repeat(3000),
  "a,b",
] as const;

const VALUES: readonly unknown[] = [
  ...TEXTS,
  null,
  true,
  -1,
  0,
  1.5,
  2 ** 31,
  2 ** 53,
  1e308,
  [],
  {},
  [[]],
  [null],
  ["x", 1, null],
  Array.from({ length: 3000 }, () => "x"),
  { length: 4294967295 },
  { __proto__: { a: 1 } },
  JSON.parse(deep(40)),
  { a: { b: { c: { d: {} } } } },
];

const BODIES = [
  "",
  "null",
  "[]",
  "{",
  "\u0000",
  '"x"',
  "1e999",
  deep(3000),
  `{"a":${deep(3000)}}`,
  '{"__proto__":{"x":1}}',
  '{"constructor":{"prototype":{}}}',
  `{"${"k".repeat(20000)}":1}`,
  "x".repeat(70_000),
  `[${"1,".repeat(30_000)}1]`,
];

const HEADERS: readonly Readonly<Record<string, string>>[] = [
  {},
  {},
  {},
  {},
  { origin: "foo" },
  { origin: "null" },
  { origin: "http://[" },
  { origin: "https://evil.example" },
  { host: "evil.example" },
  { host: "[::1" },
  { host: "localhost:99999999" },
  { "x-forwarded-host": "evil.example", origin: "http://evil.example" },
  { accept: "\u00ff" },
  { cookie: "x".repeat(3000) },
  { "content-encoding": "gzip" },
  { range: "bytes=0-,5-2" },
  { "if-none-match": "*" },
  { expect: "200-maybe" },
  { "next-action": "x" },
  { rsc: "1" },
  { "x-middleware-subrequest": "proxy:proxy:proxy" },
  { "transfer-encoding": "identity" },
];

const METHODS = ["TRACE", "PUT", "PATCH", "OPTIONS", "HEAD", "PROPFIND", "DELETE"];
const TYPES = [
  "application/json",
  "application/json",
  "application/json",
  "text/plain",
  "application/json; charset=x",
  "multipart/form-data",
  "multipart/form-data; boundary=",
  "multipart/form-data; boundary=b",
  "",
];

export interface Setting {
  readonly chance: () => number;
  readonly description: { readonly paths: Loose; readonly components: { readonly schemas: Loose } };
  /** Ids of things that may be changed and deleted. */
  readonly ids: readonly string[];
}

const pick = <T>({ chance }: Pick<Setting, "chance">, from: readonly T[]): T =>
  from[Math.floor(chance() * from.length)] as T;

/** A value that fits a schema well enough to get past the first looks. */
const sample = (setting: Setting, schema: Loose, depth = 0): unknown => {
  if (depth > 5) return null;
  if (typeof schema.$ref === "string")
    return sample(
      setting,
      (setting.description.components.schemas[schema.$ref.split("/").at(-1) ?? ""] ?? {}) as Loose,
      depth + 1,
    );
  for (const key of ["oneOf", "anyOf"] as const)
    if (Array.isArray(schema[key])) return sample(setting, pick(setting, schema[key] as Loose[]), depth + 1);
  if (Array.isArray(schema.enum)) return pick(setting, schema.enum as unknown[]);
  if ("const" in schema) return schema.const;
  if (schema.type === "array") return [sample(setting, (schema.items ?? {}) as Loose, depth + 1)];
  if (schema.properties)
    return Object.fromEntries(
      Object.entries(schema.properties as Record<string, Loose>).map(([name, inner]) => [
        name,
        sample(setting, inner, depth + 1),
      ]),
    );
  if (schema.type === "integer" || schema.type === "number") return 1;
  if (schema.type === "boolean") return true;
  return pick(setting, [...setting.ids, "x", "main"]);
};

/** The value with one place somewhere in it bent. */
const bend = (setting: Setting, value: unknown): unknown => {
  if (typeof value !== "object" || value === null || setting.chance() < 0.2) return pick(setting, VALUES);
  const keys = Object.keys(value);
  const key = pick(setting, keys);
  if (key === undefined) return pick(setting, VALUES);
  const inner = bend(setting, (value as Record<string, unknown>)[key]);
  return Array.isArray(value)
    ? value.map((item, at) => (String(at) === key ? inner : item))
    : { ...value, [key]: inner };
};

const PATCH_PATHS = [
  ["channels", "main", "output", "portIds", "length"],
  ["channels", "main", "output", "portIds", 4294967294],
  ["lines"],
  ["lines", "__proto__"],
  ["schema"],
  ["id"],
  ["folders", "f", "parentId"],
  ["channels", "main", "output", "portIds", -1],
  ["format", "sampleRateHz"],
  ["ports", "duo:in:1", "levels", "length"],
  ["devices", "x"],
  ["rooms", "loft", "name"],
  ["channels", "main", "output"],
  ["name"],
];

const restore = (setting: Setting) => ({
  kind: "restore",
  undoes: "x",
  patches: Array.from({ length: 1 + Math.floor(setting.chance() * 3) }, () => ({
    op: pick(setting, ["add", "replace", "remove"]),
    path: pick(setting, PATCH_PATHS),
    value: pick(setting, [4294967295, ...VALUES]),
  })),
});

const jsonBody = (setting: Setting, schema: Loose): string => {
  if (setting.chance() < 0.25) return pick(setting, BODIES);
  const value = sample(setting, schema) as Record<string, unknown>;
  if (typeof value === "object" && value !== null && "commands" in value && setting.chance() < 0.3)
    return JSON.stringify({ ...value, batch: "b", commands: [restore(setting)] });
  return JSON.stringify(bend(setting, value));
};

const formBody = (setting: Setting, fields: readonly string[]): { readonly type: string; readonly text: string } => {
  const boundary = pick(setting, ["b", "x".repeat(60)]);
  const parts = Array.from({ length: 1 + Math.floor(setting.chance() * 14) }, () => {
    const name = pick(setting, ["file", "file", ...fields, "odd"]);
    const file = name === "file" ? `; filename="${pick(setting, ["a.csv", "a.json", "", "x".repeat(500)])}"` : "";
    return `--${boundary}\r\ncontent-disposition: form-data; name="${name}"${file}\r\n\r\n${String(pick(setting, [...BODIES, ...TEXTS, "Input,Source\n1,Fiddle"]))}\r\n`;
  });
  return {
    type: `multipart/form-data; boundary=${boundary}`,
    text: `${parts.join("")}${setting.chance() < 0.8 ? `--${boundary}--\r\n` : ""}`,
  };
};

const query = (setting: Setting, parameters: readonly Loose[]): string => {
  const known = parameters.filter((parameter) => parameter.in === "query").map((parameter) => String(parameter.name));
  const entries = Array.from({ length: Math.floor(setting.chance() * 4) }, () => [
    pick(setting, [...known, ...known, "odd", "constructor", "x[]"]),
    String(pick(setting, TEXTS)).slice(0, 2000),
  ]);
  return entries
    .map(
      ([name, value]) =>
        `${encodeURIComponent(name ?? "")}=${pick(setting, [encodeURIComponent((value ?? "").replaceAll(/[\ud800-\udfff]/g, "?")), "%ff", "%"])}`,
    )
    .join("&");
};

const address = (setting: Setting, path: string, parameters: readonly Loose[]): string => {
  const id =
    setting.chance() < 0.5
      ? pick(setting, setting.ids)
      : encodeURIComponent(
          String(pick(setting, TEXTS))
            .slice(0, 1500)
            .replaceAll(/[\ud800-\udfff]/g, "?"),
        );
  const asked = query(setting, parameters);
  return `${path.replace("{id}", setting.chance() < 0.04 ? "%ff" : id || "%20")}${asked ? `?${asked}` : ""}`;
};

const parametersOf = (item: Loose, operation: Loose): readonly Loose[] => [
  ...((item.parameters ?? []) as Loose[]),
  ...((operation.parameters ?? []) as Loose[]),
];

const one = (setting: Setting, path: string, item: Loose): Hostile => {
  const methods = Object.keys(item).filter((key) => key !== "parameters");
  const known = pick(setting, methods);
  const operation = (item[known] ?? {}) as Loose;
  const method = setting.chance() < 0.06 ? pick(setting, METHODS) : known.toUpperCase();
  const content = ((operation.requestBody as Loose | undefined)?.content ?? {}) as Record<string, Loose>;
  const [type, given] = Object.entries(content)[0] ?? [];
  const schema = (given?.schema ?? {}) as Loose;
  const form =
    type === "multipart/form-data" && setting.chance() < 0.85
      ? formBody(setting, Object.keys((schema.properties ?? {}) as Loose))
      : null;
  const body =
    method === "GET" || method === "HEAD"
      ? null
      : (form?.text ?? (type === "application/json" || setting.chance() < 0.3 ? jsonBody(setting, schema) : null));
  // An answer to HEAD has no body, and one to what is no HTTP always has.
  const bent = method === "HEAD" ? {} : pick(setting, HEADERS);
  const headers = { ...bent, ...(body === null ? {} : { "content-type": form?.type ?? pick(setting, TYPES) }) };
  return { method, path: address(setting, path, parametersOf(item, operation)), headers, body };
};

/** So many hostile requests, spread over all routes. Streams of events are left out: they do not end. */
export const hostileRequests = (setting: Setting, count: number): readonly Hostile[] => {
  const paths = Object.entries(setting.description.paths as Record<string, Loose>).filter(
    ([path]) => path !== "/api/changes",
  );
  return Array.from({ length: count }, (_, at) => {
    const [path, item] = paths[at % paths.length] as [string, Loose];
    return one(setting, path, item);
  });
};

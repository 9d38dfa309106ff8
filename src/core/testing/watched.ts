import { TEMPLATE, type Template } from "../model/template";

const TABLES = new Set(Object.keys(TEMPLATE.tables));

/**
 * A template that writes down what is read of it: fields of entries as `table.field`, that a table was gone through as
 * `table.id`, and fields of the document by their name. Only for tests: it is slow, and never the same object as
 * another.
 */
export const watched = (doc: Template): { readonly doc: Template; readonly reads: ReadonlySet<string> } => {
  const reads = new Set<string>();
  const entry = (table: string, of: object): object =>
    new Proxy(of, {
      get: (target, key, self) => {
        if (typeof key === "string" && key in target) reads.add(`${table}.${key}`);
        return Reflect.get(target, key, self);
      },
      ownKeys: (target) => {
        for (const key of Object.keys(target)) reads.add(`${table}.${key}`);
        return Reflect.ownKeys(target);
      },
    });
  const table = (name: string, of: Readonly<Record<string, object>>): object => {
    const made = new Map<string, object>();
    const at = (key: string): object | undefined => {
      const there = Object.hasOwn(of, key) ? of[key] : undefined;
      if (!there) return undefined;
      const known = made.get(key) ?? entry(name, there);
      made.set(key, known);
      return known;
    };
    return new Proxy(
      {},
      {
        get: (_target, key) => {
          reads.add(`${name}.id`);
          return typeof key === "string" ? at(key) : undefined;
        },
        has: (_target, key) => {
          reads.add(`${name}.id`);
          return key in of;
        },
        ownKeys: () => {
          reads.add(`${name}.id`);
          return Reflect.ownKeys(of);
        },
        getOwnPropertyDescriptor: (_target, key) => {
          const value = typeof key === "string" ? at(key) : undefined;
          return value ? { value, enumerable: true, configurable: true, writable: true } : undefined;
        },
      },
    );
  };
  const tables = new Map<string, object>();
  const proxy: Template = new Proxy(doc, {
    get: (target, key, self) => {
      if (typeof key !== "string") return Reflect.get(target, key, self);
      if (!TABLES.has(key)) {
        if (key in target) reads.add(key);
        return Reflect.get(target, key, self);
      }
      const known = tables.get(key) ?? table(key, Reflect.get(target, key, self));
      tables.set(key, known);
      return known;
    },
    getOwnPropertyDescriptor: (target, key): PropertyDescriptor | undefined => {
      const own = Reflect.getOwnPropertyDescriptor(target, key);
      return own && typeof key === "string" && TABLES.has(key)
        ? { ...own, value: Reflect.get(proxy, key), configurable: true }
        : own;
    },
  });
  return { doc: proxy, reads };
};

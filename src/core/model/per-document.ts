/** Documents and tables that something is kept for. */
const keptFor = new WeakSet<object>();

/** Whether something is kept for a document or table: it must not be changed in place any more. */
export const isKeptFor = (doc: object): boolean => keptFor.has(doc);

/**
 * Keeps what a pure function says of a document for as long as that very document lives. Documents are immutable, so the answer stays true. The one asked for
 * last is at hand without a look into the keeping: whoever goes through a document asks for the same again and again.
 */
export const perDocument = <D extends object, T>(compute: (doc: D) => T): ((doc: D) => T) => {
  const kept = new WeakMap<D, { readonly value: T }>();
  let last: { readonly doc: D; readonly value: T } | null = null;
  return (doc) => {
    if (last?.doc === doc) return last.value;
    const known = kept.get(doc);
    const found = known ?? { value: compute(doc) };
    if (!known) {
      kept.set(doc, found);
      keptFor.add(doc);
    }
    last = { doc, value: found.value };
    return found.value;
  };
};

/** The same for what depends on two documents. */
export const perTwo = <A extends object, B extends object, T>(compute: (a: A, b: B) => T): ((a: A, b: B) => T) => {
  const forA = perDocument((a: A) => perDocument((b: B) => compute(a, b)));
  return (a, b) => forA(a)(b);
};

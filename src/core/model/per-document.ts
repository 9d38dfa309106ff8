/** Documents and tables that something is kept for. */
const keptFor = new WeakSet<object>();

/** Whether something is kept for a document or table: it must not be changed in place any more. */
export const isKeptFor = (doc: object): boolean => keptFor.has(doc);

/**
 * Keeps what a pure function says of a document for as long as that very document lives. Documents are immutable, so
 * the answer stays true. The one asked for last is at hand without a look into the keeping: whoever goes through a
 * document asks for the same again and again.
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

/**
 * Keeps what is said of a document as perDocument does, and has it made from what was said last: `compute` is given
 * that, whichever document it was of, and takes over what still holds. What comes of it must be the same as from
 * nothing.
 */
export const stepping = <D extends object, T>(compute: (doc: D, before: T | null) => T): ((doc: D) => T) => {
  let before: { readonly value: T } | null = null;
  return perDocument((doc: D): T => {
    const value = compute(doc, before?.value ?? null);
    before = { value };
    return value;
  });
};

/** Texts that something is kept of at a time: more than the largest template has names. */
const MOST_TEXTS = 40_000;

/** Keeps what is said of texts: the same few thousand names are looked at over and over. */
export const perText = <T>(compute: (text: string) => T): ((text: string) => T) => {
  const kept = new Map<string, { readonly value: T }>();
  return (text) => {
    const known = kept.get(text);
    if (known) return known.value;
    if (kept.size >= MOST_TEXTS) kept.clear();
    const value = compute(text);
    kept.set(text, { value });
    return value;
  };
};

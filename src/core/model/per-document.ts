/** Keeps what a pure function says of a document for as long as that very document lives. Documents are immutable, so the answer stays true. */
export const perDocument = <D extends object, T>(compute: (doc: D) => T): ((doc: D) => T) => {
  const kept = new WeakMap<D, { readonly value: T }>();
  return (doc) => {
    const found = kept.get(doc);
    if (found) return found.value;
    const value = compute(doc);
    kept.set(doc, { value });
    return value;
  };
};

/** The same for what depends on two documents. */
export const perTwo = <A extends object, B extends object, T>(compute: (a: A, b: B) => T): ((a: A, b: B) => T) => {
  const forA = perDocument((a: A) => perDocument((b: B) => compute(a, b)));
  return (a, b) => forA(a)(b);
};

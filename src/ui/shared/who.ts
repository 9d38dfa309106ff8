/** Until devices are asked in, a person is a browser that may be given a name. */
const KEY = "wandel:who";
const MOST_LETTERS = 80;

/** Who works in this browser, as they said; empty where nobody has. */
export const whoIsHere = (): string => {
  try {
    return localStorage.getItem(KEY) ?? "";
  } catch {
    return "";
  }
};

export const nameThisBrowser = (name: string): void => {
  try {
    const plain = name.trim().slice(0, MOST_LETTERS);
    if (plain) localStorage.setItem(KEY, plain);
    else localStorage.removeItem(KEY);
  } catch {
    // It is not remembered then, and asked for again.
  }
};

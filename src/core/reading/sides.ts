/** Words by which the two sides of one source are told apart, left before right, in the languages of our lists. */
const SIDE_PAIRS: readonly (readonly [string, string])[] = [
  ["l", "r"],
  ["left", "right"],
  ["lft", "rgt"],
  ["li", "re"],
  ["links", "rechts"],
  ["lks", "rts"],
  ["g", "d"],
  ["ga", "dr"],
  ["gauche", "droite"],
  ["i", "d"],
  ["izq", "der"],
  ["izquierda", "derecha"],
  ["s", "d"],
  ["sx", "dx"],
  ["sin", "des"],
  ["sinistra", "destra"],
  ["sinistro", "destro"],
  ["sl", "sr"],
  ["lh", "rh"],
  ["lo", "hi"],
  ["j", "c"],
  ["jar", "cour"],
  ["jardin", "cour"],
];

/** One way in which a name ends or begins with a side: which pair of words, which of the two, and what is left of it. */
interface Ending {
  readonly pair: number;
  readonly side: 0 | 1;
  readonly stem: string;
}

const isJoint = (character: string | undefined): boolean => character !== undefined && " _,/-.([".includes(character);

const trimmed = (text: string): string => {
  let [from, to] = [0, text.length];
  while (to > from && isJoint(text[to - 1])) to--;
  while (from < to && ")].,-/_ ".includes(text[from] ?? "")) from++;
  return text.slice(from, to).trim();
};

/** A name without the brackets, stops and blanks at its end. */
const bare = (name: string): string => {
  let to = name.length;
  while (to > 0 && " )].".includes(name[to - 1] ?? "")) to--;
  return name.slice(0, to);
};

const asSide = (word: string, stem: string): readonly Ending[] =>
  SIDE_PAIRS.flatMap((pair, at) =>
    pair.flatMap((own, side) => (own === word ? [{ pair: at, side: side as 0 | 1, stem }] : [])),
  );

/** Where the last word of a name begins. */
const lastWordAt = (text: string): number => {
  let at = text.length;
  while (at > 0 && !isJoint(text[at - 1])) at--;
  return at;
};

const endings = (name: string): readonly Ending[] => {
  const text = bare(name);
  const at = lastWordAt(text);
  const word = text.slice(at).toLowerCase();
  const stem = trimmed(text.slice(0, at));
  const found = stem ? asSide(word, stem) : [];
  // "OHL" and "OHR", without anything between.
  const close = /^(.{0,40}\p{Lu}{2})([LR])$/u.exec(text);
  const joined = close ? asSide((close[2] ?? "").toLowerCase(), close[1] ?? "") : [];
  const first = /^(left|right|links|rechts|gauche|droite|l|r) (.{1,200})$/i.exec(text);
  const before = first ? asSide((first[1] ?? "").toLowerCase(), trimmed(first[2] ?? "")) : [];
  return [...found, ...joined, ...before];
};

/** What a name is without its side; null where it has none. @example sideStem("Above L") // "Above" */
export const sideStem = (name: string): string | null => endings(name)[0]?.stem ?? null;

/**
 * Whether two names are the two sides of one source: what it is called without them, and which side the first is. The
 * words must belong together: "G" is left beside "D", but nothing beside "R".
 * @example areSides("OH L", "OH R") // { stem: "OH", first: "left" }
 */
export const areSides = (a: string, b: string): { readonly stem: string; readonly first: "left" | "right" } | null => {
  const [ours, theirs] = [endings(a), endings(b)];
  for (const one of ours) {
    const other = theirs.find(
      (candidate) =>
        candidate.pair === one.pair &&
        candidate.side !== one.side &&
        candidate.stem.toLowerCase() === one.stem.toLowerCase(),
    );
    if (other) return { stem: one.stem, first: one.side === 0 ? "left" : "right" };
  }
  return null;
};

const BOTH = /^(.{1,200}?)[\s_(,-]{1,3}(\p{L}{1,9})\s?(?:\/|\+|&|-|–|,|und|and|et|y|e|\s)\s?(\p{L}{1,9})\)?$/iu;

/** The stem of a name that has both of its sides: "OH L/R", "Piano (L+R)", "Keys LR"; null when it has not. */
export const bothSides = (name: string): string | null => {
  const text = name.trim();
  const close = /^(.{1,200}?)[\s_(]{1,2}(?:LR|L\/R)\)?$/.exec(text);
  if (close) return trimmed(close[1] ?? "");
  const found = BOTH.exec(text);
  if (!found) return null;
  const [, stem = "", left = "", right = ""] = found;
  const paired = SIDE_PAIRS.some(([a, b]) => a === left.toLowerCase() && b === right.toLowerCase());
  return paired ? trimmed(stem) : null;
};

/**
 * The version of the commands that gestures are written in. A window of another age is told so; gestures that a browser
 * kept from before are read anew.
 */
export const GESTURE_VERSION = 8;

/**
 * What gestures of each version can say, as a digest of everything that may be added and set in any kind of document.
 * Where the descriptions say something else than the newest of these, gestures are of another version: raise it, put
 * the new digest beside it, and leave the old ones as they are.
 */
export const GESTURE_SHAPES: Readonly<Record<number, string>> = {
  6: "bcd8ab1feebcc694",
  7: "02916ecfb26c7530",
  8: "dbcdfdb3b2fc989f",
};

/**
 * The version of what gestures are written in. It rises when a command is added, changed or taken away, so that a window and a server of different
 * age tell each other instead of guessing.
 */
export const GESTURE_VERSION = 1;

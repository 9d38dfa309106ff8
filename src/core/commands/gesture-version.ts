/** The version of the commands that gestures are written in. A window of another age is told so; gestures that a browser kept from before are read anew. */
export const GESTURE_VERSION = 6;

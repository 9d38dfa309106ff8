/** Heights and widths of the input list in pixels. The loom is drawn by them, so they stand in one place. */
export const HEADER_HEIGHT = 29;
export const JACK_HEIGHT = 24;
export const JACK_TITLE_HEIGHT = 30;
export const JACK_FIELD_TOP = 12;
export const LOOM_WIDTH = 104;
export const TOOLBAR_HEIGHT = 36;

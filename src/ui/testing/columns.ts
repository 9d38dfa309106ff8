/** Columns of the input list, counted as a screen reader counts them. */
export const COLUMN = {
  icon: 1,
  colour: 2,
  name: 3,
  layout: 4,
  microphone: 5,
  input: 6,
  phantom: 7,
  folder: 8,
  player: 9,
  note: 10,
} as const;

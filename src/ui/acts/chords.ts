/**
 * Every key of every act, each with the one thing that it means wherever it is pressed. Acts name what they mean; a key
 * is written here and nowhere else. Letters that browsers keep for themselves (D, E, F with Alt; I, T with Alt and
 * Shift) are not used.
 */
export const CHORDS = {
  add: { key: "Alt A", means: "Add what this screen is made of" },
  "add-all": { key: "Alt Shift A", means: "Add all that are wanted at once" },
  "fold-all": { key: "Alt B", means: "Fold or unfold all" },
  unsum: { key: "Alt Shift B", means: "Take the bus off a folder" },
  chain: { key: "Alt C", means: "Open the chain" },
  "copy-chain": { key: "Alt Shift C", means: "Copy the chain to others" },
  duplicate: { key: "Alt Shift D", means: "Duplicate" },
  throw: { key: "Alt Shift E", means: "Throw into a return" },
  filter: { key: "Alt Shift F", means: "Search what is listed" },
  folder: { key: "Alt G", means: "Put in a folder" },
  gain: { key: "Alt Shift G", means: "Set or shift the gain" },
  hold: { key: "Alt H", means: "Hold together" },
  "chain-behind": { key: "Alt Shift H", means: "Add the chain to those of others" },
  inspector: { key: "Alt I", means: "To the panel at the right, and back" },
  "fill-down": { key: "Alt J", means: "Fill down" },
  "shift-inputs": { key: "Alt Shift J", means: "Shift the inputs" },
  "fill-ascending": { key: "Alt K", means: "Fill ascending" },
  "keep-chain": { key: "Alt Shift K", means: "Keep the chain" },
  "more-own": { key: "Alt L", means: "More of own sound" },
  "less-own": { key: "Alt Shift L", means: "Less of own sound" },
  family: { key: "Alt M", means: "Choose the family" },
  "start-as": { key: "Alt Shift M", means: "Start as the main mix or another cue" },
  "new-family": { key: "Alt N", means: "Add a family" },
  "rename-input": { key: "Alt Shift N", means: "Rename the input" },
  split: { key: "Alt O", means: "Make two mono tracks" },
  control: { key: "Alt Shift O", means: "Put under a control fader" },
  pair: { key: "Alt P", means: "Make one stereo track" },
  bands: { key: "Alt Shift P", means: "Split in bands" },
  alone: { key: "Alt Q", means: "Light this alone" },
  blend: { key: "Alt Shift Q", means: "Blend to one track" },
  route: { key: "Alt R", means: "Route" },
  "rows-in-input-order": { key: "Alt Shift R", means: "Put rows in input order" },
  send: { key: "Alt S", means: "Send" },
  sum: { key: "Alt Shift S", means: "Sum a folder into a bus" },
  pattern: { key: "Alt T", means: "Name by pattern" },
  "take-out": { key: "Alt U", means: "Take off its input, out of its folder" },
  "inputs-in-row-order": { key: "Alt Shift U", means: "Put inputs in row order" },
  instruments: { key: "Alt V", means: "Add instruments" },
  ways: { key: "Alt Shift V", means: "Record several ways" },
  processor: { key: "Alt W", means: "Put a processor on" },
  "kept-chain": { key: "Alt Shift W", means: "Put a kept chain on" },
  "remove-whole": { key: "Alt X", means: "Remove the whole family, cue or pass" },
  switch: { key: "Alt Shift X", means: "Switch off or on, bypass" },
  dye: { key: "Alt Y", means: "Dye by family" },
  duck: { key: "Alt Shift Y", means: "Duck under others" },
  fit: { key: "Alt Z", means: "Fit all in view" },
  amplify: { key: "Alt Shift Z", means: "Play through an amplifier" },
  up: { key: "Alt ↑", means: "Move up, or earlier" },
  down: { key: "Alt ↓", means: "Move down, or later" },
  louder: { key: "Alt Shift ↑", means: "1 dB louder" },
  quieter: { key: "Alt Shift ↓", means: "1 dB quieter" },
  direct: { key: "Alt ,", means: "Monitor direct" },
  computer: { key: "Alt .", means: "Monitor through the computer" },
  tap: { key: "Alt Shift ,", means: "Before or after the fader" },
  "record-bus": { key: "Alt Shift .", means: "Record a bus" },
  session: { key: "Alt Shift Enter", means: "Start a session" },
  settings: { key: "Alt Enter", means: "Settings of what is selected" },
  edit: { key: "F2", means: "Edit or rename what is selected" },
  remove: { key: "Delete", means: "Remove what is selected" },
  next: { key: "N", means: "Next pass" },
  run: { key: "R", means: "Run this pass" },
  keys: { key: "?", means: "All keys of this screen" },
} as const;

export type Meaning = keyof typeof CHORDS;
/** A key of an act, as it is shown. */
export type Chord = (typeof CHORDS)[Meaning]["key"];

export const keyOf = <M extends Meaning>(meaning: M): (typeof CHORDS)[M]["key"] => CHORDS[meaning].key;

/** Keys that every screen has by itself, whatever its acts. */
export const EVERYWHERE: ReadonlySet<string> = new Set([keyOf("inspector"), keyOf("keys"), keyOf("session")]);

import { type Loose, mapTable } from "./loose";

/** The families in their order when version 6 came, the last of which it brought. */
const PLACES = [
  "percussion",
  "low-strings",
  "plucked-strings",
  "bowed-strings",
  "keys",
  "brass",
  "woodwind",
  "voices",
  "speech",
  "rooms",
  "references",
];

const REFERENCES = { id: "references", colour: "slate", icon: "line", loudnessDb: 85, distanceM: 1, crestDb: 14 };

/**
 * Version 5 had no family for what is played in, did not say which folder, bus, chain and send a family gives, and
 * remembered neither names nor the columns of lists.
 */
export const fifthStudioToSixth = (doc: Loose): Loose => ({
  ...doc,
  schema: 6,
  families: mapTable({ ...(doc.families as object), references: REFERENCES }, (family) => ({
    ...family,
    folder: "",
    bus: "",
    place: Math.max(1, PLACES.indexOf(String(family.id)) + 1),
    chainId: null,
    sendTo: "",
    sendDb: null,
  })),
  taughtWords: {},
  listHabits: {},
});

import { type Loose, mapTable } from "./loose";

/** Version 8 had no sessions: no date, no tags, no gain as it was set, and nothing of what was recorded. */
export const eightToNine = (doc: Loose): Loose => ({
  ...doc,
  schema: 9,
  tags: [],
  session: { date: null, place: "", state: "planned", people: [] },
  lines: mapTable(doc.lines, (line) => ({ ...line, gainSetDb: null })),
  passes: mapTable(doc.passes, (pass) => ({ ...pass, ran: false })),
});

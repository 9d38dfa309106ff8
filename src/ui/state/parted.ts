import type { SaveState } from "./doc-store";

type Parted = Extract<SaveState, { readonly kind: "parted" }>;
export type How = Parted["how"];

export const AWAY =
  "The server or its database can't be reached. What you do is kept in this window and saved when it is back.";

/** What happened, and what that means for a window that shows the document. */
const WORDS: Readonly<Record<How, (what: string) => readonly [happened: string, here: string]>> = {
  gone: (what) => [
    `This ${what} is no longer in the library: it was deleted, or the library was started afresh.`,
    "What this window shows is kept here.",
  ],
  past: (what) => [
    `The library's data were restored from before, or started afresh: it has another ${what} than the one this window builds on.`,
    "What this window shows is kept here.",
  ],
  renewed: (what) => [
    "Wandel was renewed since this window was opened.",
    `Reload it: what was done in it is kept in this browser, and done again on the ${what} that is there.`,
  ],
  refused: (what) => [
    `The server does not take this edit of the ${what}.`,
    "Nothing more is sent until you say what is to be done with it; what this window shows is kept here.",
  ],
  broken: (what) => [
    `What the server has of this ${what} does not fit what this window shows.`,
    "Nothing more is sent; what this window shows is kept here.",
  ],
};

/** Window and server have parted, and a person must say how they come together. */
export const parted = (how: How, what: string, because?: string): Parted => {
  const [happened, here] = WORDS[how](what);
  const said = because ? ` It says: ${because}` : "";
  return { kind: "parted", how, why: `${happened} ${here}${said}`, happened: `${happened}${said}` };
};

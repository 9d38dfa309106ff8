import { RIG } from "@/core/model/rig";
import { STUDIO } from "@/core/model/studio";
import { TEMPLATE } from "@/core/model/template";

/**
 * The kinds of document, as window and service speak of them. What the service computes of each is in
 * `server/tasks/kinds.ts`, where its rows are in `server/db/documents.ts`; a kind without an entry there does not
 * compile.
 */
export const KINDS = {
  template: {
    description: TEMPLATE,
    path: (id: string) => `/api/templates/${id}`,
    /** One of them can be deleted, and brought back. */
    deleted: true,
    broughtBack: true,
    /** The library shows something of it without reading it. */
    summary: true,
    gone: "It may have been deleted; the library can bring it back for as long as its notice is shown.",
  },
  rig: {
    description: RIG,
    path: (id: string) => `/api/rigs/${id}`,
    deleted: true,
    broughtBack: false,
    summary: true,
    gone: "",
  },
  /** There is one. */
  studio: {
    description: STUDIO,
    path: (_id: string) => "/api/studio",
    deleted: false,
    broughtBack: false,
    summary: false,
    gone: "",
  },
} as const;

export type What = keyof typeof KINDS;
export const WHATS = Object.keys(KINDS) as readonly What[];

/** Those that come and go. */
export type Deletable = { readonly [W in What]: (typeof KINDS)[W]["deleted"] extends true ? W : never }[What];

import { changesBetween, OF_SESSION } from "@/core/difference/changes-between";
import { lessonsOf as taught } from "@/core/lessons/lessons";
import type { FolderId, RigId } from "@/core/model/ids";
import { TEMPLATE, type Template } from "@/core/model/template";
import { applyAll } from "@/core/planning/edits/template-editing";
import { fitTo } from "@/core/planning/refit";
import { plainText } from "@/core/reading/plain-text";
import { Failure } from "../services/failure";
import { type Stored, stored } from "./apply-batch";
import { readStored } from "./kinds";

export interface SessionAsked {
  readonly template: string;
  /** The template's own and, where the session is on another, that; empty where neither is here. */
  readonly rigs: readonly string[];
  readonly id: string;
  readonly name: string;
  readonly date: string;
  readonly place: string;
  readonly people: readonly string[];
  readonly rigId: string | null;
  readonly drop: readonly string[];
}

const refused = (message: string, pointer: string): Failure =>
  new Failure(422, "The session can't be started", message, { errors: [{ pointer, detail: message }] });

/** The template without the families that are not needed: a folder that lies in one that goes, goes with it. */
const withoutFamilies = (doc: Template, drop: readonly string[]): Template =>
  drop.reduce<Template>((at, folderId, index) => {
    if (!Object.hasOwn(doc.folders, folderId))
      throw refused(`There is no folder ${folderId} in the template.`, `/drop/${index}`);
    if (!Object.hasOwn(at.folders, folderId)) return at;
    const done = applyAll(at, [{ kind: "folders.drop", folderId: folderId as FolderId }]);
    if (!done.ok) throw refused(done.refusal.message, `/drop/${index}`);
    return done.doc;
  }, doc);

const onRig = (doc: Template, { rigs, rigId }: SessionAsked): Template => {
  if (rigId === null || rigId === doc.rigId) return doc;
  const read = rigs.map((rig) => readStored("rig", rig));
  const [from, to] = [read.find(({ id }) => id === doc.rigId), read.find(({ id }) => id === (rigId as RigId))];
  if (!to) throw refused("The rig is not there any more. Choose another one.", "/rigId");
  const done = applyAll(doc, [fitTo(doc, { from: from ?? to, to })]);
  if (!done.ok) throw refused(done.refusal.message, "/rigId");
  return done.doc;
};

/** A template as the copy for a date: of its own name, on its rig or another, without what is not needed. */
export const sessionOf = (asked: SessionAsked): Stored => {
  const doc = onRig(withoutFamilies(readStored("template", asked.template), asked.drop), asked);
  const { date, place, people } = asked;
  return stored("template", {
    ...doc,
    id: asked.id as Template["id"],
    name: plainText(asked.name),
    session: { date, place: plainText(place), state: "planned", people: people.map(plainText) },
  });
};

/** How many differences of a session could be carried back: those that only it made. */
const toCarry = (head: Template, began: Template, session: Template): number =>
  changesBetween(TEMPLATE, { here: head, there: session, base: began, leaving: OF_SESSION }).filter(
    ({ quiet, side }) => quiet === null && side !== "ours",
  ).length;

/** What sessions that are done taught, and how much of each could be carried back, as JSON. */
export const lessonsOf = ({
  head,
  rigs,
  sessions,
}: {
  readonly head: string;
  readonly rigs: readonly string[];
  readonly sessions: readonly {
    readonly id: string;
    readonly done: boolean;
    /** The version it is a copy of, what it was when it began, and what it is. */
    readonly base: string;
    readonly began: string;
    readonly session: string;
  }[];
}): string => {
  const doc = readStored("template", head);
  const rig = rigs.map((text) => readStored("rig", text)).find(({ id }) => id === doc.rigId);
  // Several sessions came from one version: it is read once.
  const bases = new Map<string, Template>();
  const baseOf = (text: string): Template => {
    const known = bases.get(text) ?? readStored("template", text);
    bases.set(text, known);
    return known;
  };
  const read = sessions.map(({ id, done, base, began, session }) => ({
    id,
    done,
    base: baseOf(base),
    began: readStored("template", began),
    session: readStored("template", session),
  }));
  return JSON.stringify({
    lessons: rig ? taught({ head: doc, rig, sessions: read.filter(({ done }) => done) }) : [],
    differences: Object.fromEntries(read.map(({ id, began, session }) => [id, toCarry(doc, began, session)])),
  });
};

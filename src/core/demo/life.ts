import type { RestoreCommand } from "../commands/command";
import { allPatches } from "../difference/carry";
import { changesBetween } from "../difference/changes-between";
import type { ChainProcessorId, ChannelId, LineId, PortId, TemplateId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import { entriesOf } from "../model/table";
import { newLine } from "../model/tables/lines";
import { newSend } from "../model/tables/sends";
import { type SessionState, TEMPLATE, type Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { dB } from "../units/decibels";
import { applied } from "./hear";

/** A state of a document with when it was saved and what led there. */
export interface DemoRevision {
  readonly document: Template;
  readonly name: string;
  readonly at: string;
  readonly by: string;
  readonly commands: readonly RestoreCommand[];
  readonly version?: { readonly name: string; readonly note: string; readonly tried: string };
}

/** A document that began as a copy of a revision, with what became of it. */
export interface DemoCopy {
  readonly from: number;
  readonly revisions: readonly DemoRevision[];
}

/** Half a year of a template. */
export interface DemoLife {
  readonly id: TemplateId;
  readonly revisions: readonly DemoRevision[];
  readonly sessions: readonly DemoCopy[];
  readonly descendants: readonly DemoCopy[];
}

const BY = "Nadia Okonjo-Reyes";

const trackNamed = (doc: Template, name: string): ChannelId =>
  tracksOf(doc).find((track) => track.name === name)?.id ?? missing(name);
const lineNamed = (doc: Template, name: string): LineId => {
  const track = tracksOf(doc).find((one) => one.name === name);
  return track?.input.kind === "line" ? track.input.lineId : missing(name);
};
const missing = (name: string): never => {
  throw new Error(`expected ${name} in the demo, got none`);
};

const leading = (name: string, here: Template, there: Template): readonly RestoreCommand[] => {
  const changes = changesBetween(TEMPLATE, { here, there });
  const patches = allPatches(changes);
  return patches.length ? [{ kind: "restore", undoes: name, carries: true, patches }] : [];
};

type Step = Omit<DemoRevision, "commands">;
const following = (steps: readonly Step[]): readonly DemoRevision[] =>
  steps.map((step, at) => {
    const before = steps[at - 1];
    return { ...step, commands: before ? leading(step.name, before.document, step.document) : [] };
  });

const folderNamed = (doc: Template, name: string) =>
  entriesOf(doc.folders).find((folder) => folder.name === name)?.id ?? (missing(name) as never);

const busNamed = (doc: Template, name: string): ChannelId =>
  entriesOf(doc.channels).find((one) => one.kind === "bus" && one.name === name)?.id ?? missing(name);

/** The double bass on two tracks, as before it was blended. */
const unblended = (doc: Template): Template => {
  const blend = tracksOf(doc).find((track) => track.input.kind === "bus");
  if (blend?.input.kind !== "bus") return doc;
  return applied(doc, [
    { kind: "entries.remove", table: "channels", ids: [blend.id] },
    { kind: "entries.remove", table: "channels", ids: [blend.input.busId] },
    {
      kind: "entries.set",
      table: "channels",
      ids: [trackNamed(doc, "Double bass DI"), trackNamed(doc, "Double bass")],
      set: { output: { kind: "channel", channelId: busNamed(doc, "Low strings") } },
    },
  ]);
};

interface Evening {
  readonly date: string;
  readonly name: string;
  readonly place?: string;
  /** Which revision it is a copy of, counted from 1. */
  readonly from: number;
  readonly state: SessionState;
  readonly drop?: readonly string[];
  readonly shakerParked?: boolean;
  readonly fiddleOnE5?: boolean;
  readonly leadGain?: number;
  readonly deEsserOff?: boolean;
  readonly fiddleRoom?: boolean;
}

/** What the evenings changed: five things that came back, and some that did not. */
const EVENINGS: readonly Evening[] = [
  { date: "2026-06-14", name: "14 June", from: 2, state: "done", shakerParked: true, leadGain: 36 },
  { date: "2026-07-02", name: "2 July", from: 2, state: "done", shakerParked: true, fiddleOnE5: true, leadGain: 38 },
  { date: "2026-07-21", name: "21 July", from: 2, state: "done", shakerParked: true, leadGain: 38, deEsserOff: true },
  {
    date: "2026-09-09",
    name: "9 September",
    from: 3,
    state: "done",
    shakerParked: true,
    fiddleOnE5: true,
    leadGain: 39,
    deEsserOff: true,
    fiddleRoom: true,
  },
  {
    date: "2026-09-16",
    name: "16 September",
    from: 3,
    state: "done",
    fiddleOnE5: true,
    leadGain: 38,
    deEsserOff: true,
  },
  {
    date: "2026-09-30",
    name: "30 September",
    from: 3,
    state: "done",
    shakerParked: true,
    fiddleOnE5: true,
    leadGain: 37,
    fiddleRoom: true,
  },
  {
    date: "2026-10-25",
    name: "25 October",
    from: 4,
    state: "done",
    shakerParked: true,
    fiddleOnE5: true,
    leadGain: 39,
    deEsserOff: true,
    fiddleRoom: true,
  },
  {
    date: "2026-11-08",
    name: "8 November, Harbour hall",
    place: "Harbour hall",
    from: 4,
    state: "done",
    shakerParked: true,
    fiddleOnE5: true,
    leadGain: 38,
    deEsserOff: true,
    fiddleRoom: true,
  },
  {
    date: "2026-11-29",
    name: "Sunday 29 November",
    from: 4,
    state: "planned",
    drop: ["Winds", "Keys"],
    fiddleOnE5: true,
  },
];

const deEsserOf = (doc: Template, name: string): ChainProcessorId | null => {
  const track = trackNamed(doc, name);
  return (
    entriesOf(doc.processors).find(({ channelId, kind }) => channelId === track && kind === "de-esser")?.id ?? null
  );
};

/** What was done in an evening, on the copy it began as. */
const eveningEdits = (doc: Template, evening: Evening): readonly Edit[] => {
  const edits: Edit[] = [];
  if (evening.shakerParked)
    edits.push({
      kind: "entries.set",
      table: "channels",
      ids: [trackNamed(doc, "Shaker table")],
      set: { parked: true },
    });
  if (evening.fiddleOnE5)
    edits.push({
      kind: "lines.patch",
      inputs: [{ lineId: lineNamed(doc, "Fiddle"), portId: "eight:in:5" as PortId, requestedInput: null }],
    });
  if (evening.leadGain !== undefined)
    edits.push({
      kind: "entries.set",
      table: "lines",
      ids: [lineNamed(doc, "Lead voice")],
      set: { gainSetDb: dB(evening.leadGain) },
    });
  const deEsser = evening.deEsserOff ? deEsserOf(doc, "Lead voice") : null;
  if (deEsser)
    edits.push({
      kind: "entries.set",
      table: "processors",
      ids: [deEsser],
      set: { bypassed: true },
    });
  return evening.fiddleRoom ? [...edits, ...fiddleRoom(doc, evening.date)] : edits;
};

/** A second microphone on the fiddle, in the room, on a track beside the first. */
const fiddleRoom = (doc: Template, date: string): readonly Edit[] => {
  const fiddle = tracksOf(doc).find(({ name }) => name === "Fiddle");
  if (!fiddle) return missing("Fiddle");
  const [lineId, trackId] = [`room-line-${date}` as LineId, `room-track-${date}` as ChannelId];
  const stair = entriesOf(doc.channels).find(({ name }) => name === "Stair chamber")?.id;
  return [
    {
      kind: "tracks.add",
      folderId: fiddle.folderId,
      before: null,
      lines: [
        newLine({
          id: lineId,
          source: "Fiddle room",
          microphone: { kind: "named", name: "omni condenser", type: "condenser" },
          portId: "eight:in:6" as PortId,
          phantom: true,
          player: "Wynn Solari",
        }),
      ],
      tracks: [
        {
          id: trackId,
          name: "Fiddle room",
          note: "",
          colour: fiddle.colour,
          icon: fiddle.icon,
          input: { kind: "line", lineId },
          sharing: null,
        },
      ],
    },
    ...(stair
      ? [
          {
            kind: "sends.add",
            sends: [newSend({ id: `room-send-${date}` as never, fromId: trackId, toId: stair })],
          } as Edit,
        ]
      : []),
  ];
};

const copyOf = (doc: Template, id: string, name: string, more: Partial<Template> = {}): Template => ({
  ...doc,
  id: id as TemplateId,
  name,
  ...more,
});

/** An evening as a session: the copy it began as, and what it was in the end. */
const sessionOf = (versions: readonly Template[], evening: Evening): DemoCopy => {
  const { date, name, place = "", from, drop = [] } = evening;
  const version = versions[from - 1] ?? missing(`version ${from}`);
  const without = applied(
    version,
    drop.map((family): Edit => ({ kind: "folders.drop", folderId: folderNamed(version, family) })),
  );
  const began = copyOf(without, `nine-${date}`, name, {
    session: {
      date,
      place,
      state: "planned",
      people: [...new Set(entriesOf(without.lines).flatMap(({ player }) => (player ? [player] : [])))],
    },
  });
  const ended = applied(began, eveningEdits(began, evening));
  const marked: Template = { ...ended, session: { ...ended.session, state: evening.state } };
  const [morning, night] = [`${date}T08:30:00.000Z`, `${date}T21:10:00.000Z`];
  const planned: Step = { document: began, name: "Session started", at: morning, by: BY };
  return {
    from,
    revisions: following([
      planned,
      {
        document: marked,
        name: evening.state === "done" ? "As it was recorded" : "Plan the fiddle on E5",
        at: night,
        by: BY,
      },
    ]),
  };
};

/** Half a year of The Tidewrack Nine: four versions, one descendant, eight sessions that are done and one that is planned. */
export const lifeOfTheNine = (nine: Template): DemoLife => {
  const percussion = entriesOf(nine.channels).find(({ name, kind }) => name === "Percussion" && kind === "bus");
  const blend = percussion
    ? applied(nine, [{ kind: "entries.set", table: "channels", ids: [percussion.id], set: { faderDb: dB(-2) } }])
    : nine;
  const nineOfUs = unblended(blend);
  const spring = applied(nineOfUs, [{ kind: "folders.drop", folderId: folderNamed(nineOfUs, "Winds") }]);
  const first = applied(spring, [
    { kind: "entries.remove", table: "channels", ids: [trackNamed(spring, "Second voice")] },
  ]);
  const revisions = following([
    {
      document: first,
      name: "Made from a list",
      at: "2026-05-12T10:00:00.000Z",
      by: BY,
      version: { name: "First", note: "Made from a list.", tried: "" },
    },
    {
      document: spring,
      name: "Add Second voice",
      at: "2026-06-09T16:20:00.000Z",
      by: BY,
      version: { name: "Spring", note: "", tried: "Plugged in once, all heard." },
    },
    {
      document: nineOfUs,
      name: "Add the Winds",
      at: "2026-09-02T11:05:00.000Z",
      by: BY,
      version: { name: "Nine of us", note: "Brass in.", tried: "Plugged in once; trumpet moved." },
    },
    {
      document: blend,
      name: "Blend Double bass DI and Double bass to Bass",
      at: "2026-10-18T14:40:00.000Z",
      by: BY,
      version: { name: "Blend", note: "Double bass on one track, 60 to 40.", tried: "Heard with Bram." },
    },
    { document: nine, name: "Set the fader of Percussion to −3 dB", at: "2026-11-20T09:15:00.000Z", by: BY },
  ]);
  const versions = revisions.map(({ document }) => document);
  const four = copyOf(
    applied(nineOfUs, [
      { kind: "folders.drop", folderId: folderNamed(nineOfUs, "Winds") },
      { kind: "folders.drop", folderId: folderNamed(nineOfUs, "Keys") },
    ]),
    "tidewrack-four",
    "The Tidewrack Four",
  );
  return {
    id: nine.id,
    revisions,
    sessions: EVENINGS.map((evening) => sessionOf(versions, evening)),
    descendants: [
      { from: 3, revisions: following([{ document: four, name: "Made", at: "2026-10-12T12:00:00.000Z", by: BY }]) },
    ],
  };
};

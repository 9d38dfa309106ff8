import { carriesBack } from "../levels/far-back";
import { soundsFrom, soundsIn } from "../levels/sounding";
import type { ChannelId, CueId } from "../model/ids";
import { isParked, linesOfTrack, microphoneFacts } from "../model/read-template";
import type { Rig } from "../model/rig";
import { entriesOf, listOf } from "../model/table";
import type { Channel, Track } from "../model/tables/channels";
import type { Cue } from "../model/tables/cues";
import type { Feed } from "../model/tables/feeds";
import type { InterfaceMixer } from "../model/tables/mixers";
import type { Template } from "../model/template";
import { freeCueOutput } from "../queries/cue-outputs";
import { armedOf, type CueCell, cuesOf, heardInCue } from "../queries/cues";
import { directWay } from "../timing/hardware";
import { counted, listed } from "../units/counted";
import { type Check, type Finding, finding } from "./finding";
import { HEARD, MIXED } from "./reads";
import { nameOf } from "./remarkable";

const at = (cue: Cue, field: "sources" | "output" | "people" | "level") =>
  [{ kind: "cue", id: cue.id, field }] as const;
const takenOut = (cells: readonly CueCell[]) => [{ kind: "cueLevels.remove", cells }] as const;

export const cueWithoutOutput: Check = {
  id: "cue-without-output",
  why: "A cue that goes out nowhere is heard by nobody.",
  reads: ["cues.order", "cues.portIds"],
  check: ({ doc, rig }) =>
    cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const gone = cue.portIds.some((id) => rig.ports[id]?.direction !== "out");
      if (cue.portIds.length && !gone) return [];
      const free = freeCueOutput(doc, rig);
      return [
        finding("cue-without-output", {
          severity: "problem",
          message: gone
            ? `${cue.name} goes out by an output that this rig does not have.`
            : `${cue.name} has no output: nobody can hear it.`,
          places: at(cue, "output"),
          fixes: free
            ? [
                {
                  label: `Let it go out by ${free.label}`,
                  edits: [
                    {
                      kind: "entries.set",
                      table: "cues",
                      ids: [cue.id],
                      set: { portIds: free.portIds, room: free.room },
                    },
                  ],
                },
              ]
            : [],
        }),
      ];
    }),
};

export const cuesOnOneOutput: Check = {
  id: "cues-on-one-output",
  why: "Two cues on one output are heard on top of each other.",
  reads: ["cues.order", "cues.portIds"],
  check: ({ doc, rig }) => {
    const first = new Map<string, Cue>();
    return cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const other = cue.portIds.map((id) => first.get(id)).find((one) => one !== undefined);
      for (const id of cue.portIds) if (!first.has(id)) first.set(id, cue);
      if (!other) return [];
      const free = freeCueOutput(doc, rig);
      return [
        finding("cues-on-one-output", {
          severity: "problem",
          message: `${cue.name} goes out where ${other.name} does: both are heard on top of each other.`,
          places: at(cue, "output"),
          fixes: free
            ? [
                {
                  label: `Let ${cue.name} go out by ${free.label}`,
                  edits: [{ kind: "entries.set", table: "cues", ids: [cue.id], set: { portIds: free.portIds } }],
                },
              ]
            : [],
        }),
      ];
    });
  },
};

export const cueForNobody: Check = {
  id: "cue-for-nobody",
  why: "A cue that nobody hears takes an output and a mix from those who need one.",
  withoutRig: true,
  reads: ["cues.order", "cues.people"],
  check: ({ doc }) =>
    cuesOf(doc).flatMap((cue): readonly Finding[] =>
      cue.people.length
        ? []
        : [
            finding("cue-for-nobody", {
              severity: "hint",
              message: `Nobody hears ${cue.name} yet. Say who does, or remove it.`,
              places: at(cue, "people"),
              fixes: [
                { label: `Remove ${cue.name}`, edits: [{ kind: "entries.remove", table: "cues", ids: [cue.id] }] },
              ],
            }),
          ],
    ),
};

const sameRoom = (a: string, b: string): boolean =>
  a.trim() !== "" && a.trim().toLowerCase() === b.trim().toLowerCase();

/** Tracks of a room that a loudspeaker there is heard by: those with a microphone, armed. */
const openMicrophones = (
  doc: Template,
  { rig, armed, room }: { readonly rig: Rig; readonly armed: ReadonlySet<ChannelId>; readonly room: string },
): readonly Track[] =>
  [...armed].flatMap((id) => {
    const track = doc.channels[id];
    if (track?.kind !== "track" || track.parked) return [];
    const open = linesOfTrack(doc, track).some((line) => {
      const kind = microphoneFacts(rig, line.microphone)?.kind;
      return sameRoom(line.room, room) && kind !== undefined && !kind.startsWith("di-") && kind !== "line-source";
    });
    return open ? [track] : [];
  });

interface Howling {
  /** "The loudspeaker of Actors". */
  readonly what: string;
  readonly room: string;
  readonly open: readonly Track[];
  readonly round: readonly Channel[];
  readonly beside: readonly Channel[];
}

const howlInWords = ({ what, room, open, round, beside }: Howling): string => {
  const many = round.length === 1 ? "" : "s";
  if (!round.length)
    return `${what} plays ${listed(beside.map(nameOf))} in the ${room}, where ${open.length === 1 ? `${nameOf(open[0])} is` : `${counted(open.length, "microphone")} are`} open: it is recorded with them.`;
  const own = round.every((one) => open.some(({ id }) => id === one.id));
  return own
    ? `${what} stands in the ${room} with the open microphone${many} of ${listed(round.slice(0, 4).map(nameOf))}, and plays ${many ? "them" : "it"}: it will howl.`
    : `${what} stands in the ${room} with the open microphone${open.length === 1 ? "" : "s"} of ${listed(open.slice(0, 4).map(nameOf))}, and plays ${listed(round.slice(0, 4).map(nameOf))}, in which ${open.length === 1 ? "it is" : "they are"}: it will howl.`;
};

/** Microphones of a room that are open while it records, and what of some channels carries them. */
const roundIn = (
  doc: Template,
  { rig, room, heard }: { readonly rig: Rig; readonly room: string; readonly heard: readonly Channel[] },
) => {
  const open = openMicrophones(doc, { rig, armed: armedOf(doc), room });
  const ids = open.map(({ id }) => id);
  const reached = soundsIn(doc, ids, "recording");
  const round = open.length ? heard.filter(({ id }) => reached.has(id)) : [];
  if (!round.length) return { open, round };
  const comes = soundsFrom(
    doc,
    round.map(({ id }) => id),
    "recording",
  );
  return { open: open.filter(({ id }) => comes.has(id)), round };
};

/** Cues that go to a loudspeaker: by what they say, or by what hangs on their output. */
const loudspeakerRoom = (rig: Rig, cue: Cue): string => {
  if (cue.hearing === "loudspeaker") return cue.room;
  return (
    entriesOf<Feed>(rig.feeds).find(
      ({ kind, portIds }) => kind === "room-loudspeaker" && cue.portIds.some((id) => portIds.includes(id)),
    )?.who ?? ""
  );
};

export const loudspeakerFeedsBack: Check = {
  id: "loudspeaker-feeds-back",
  why: "A loudspeaker that plays what microphones in the same room pick up begins to howl, and what it plays is recorded.",
  reads: [...MIXED, ...HEARD, "cues.hearing", "cues.room", "lines.microphone", "lines.room", "lines.source"],
  check: ({ doc, rig }) =>
    cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const room = cue.hearing === "far" ? "" : loudspeakerRoom(rig, cue);
      if (!room) return [];
      const heard = heardInCue(doc, cue);
      const { open, round } = roundIn(doc, { rig, room, heard });
      const beside = open.length ? heard.filter(({ kind }) => kind === "click" || kind === "talkback") : [];
      if (!round.length && !beside.length) return [];
      const carried = [...round, ...beside];
      return [
        finding("loudspeaker-feeds-back", {
          severity: round.length ? "problem" : "hint",
          message: howlInWords({ what: `The loudspeaker of ${cue.name}`, room, open, round, beside }),
          places: at(cue, "sources"),
          fixes: [
            {
              label: `Take ${listed(carried.slice(0, 3).map(nameOf))}${carried.length > 3 ? " and more" : ""} out of ${cue.name}`,
              edits: takenOut(carried.map(({ id }) => ({ cueId: cue.id, sourceId: id }))),
            },
          ],
        }),
      ];
    }),
};

/**
 * Loudspeakers that play a channel by its own output: the monitors and those of rooms, where microphones in their room
 * come round.
 */
export const outputFeedsBack: Check = {
  id: "output-feeds-back",
  why: "Main loudspeakers in the room of open microphones play what those pick up: it howls, and everything is recorded twice.",
  reads: [...MIXED, "lines.microphone", "lines.room", "lines.source"],
  check: ({ doc, rig }) =>
    entriesOf<Feed>(rig.feeds).flatMap((feed): readonly Finding[] => {
      if ((feed.kind !== "monitors" && feed.kind !== "room-loudspeaker") || !feed.who.trim()) return [];
      const played = listOf<Channel>(doc.channels).filter(
        (channel) =>
          channel.output.kind === "hardware" &&
          !isParked(channel) &&
          channel.output.portIds.some((id) => feed.portIds.includes(id)),
      );
      const { open, round } = roundIn(doc, { rig, room: feed.who, heard: played });
      if (!round.length || !open.length) return [];
      return [
        finding("output-feeds-back", {
          severity: "problem",
          about: feed.id,
          message: howlInWords({ what: feed.name, room: feed.who, open, round, beside: [] }),
          places: round.map(({ id }) => ({ kind: "channel", id, field: "output" })),
          // Muting the main bus or routing it elsewhere would take from others what they listen to: what is meant is
          // for the engineer to say.
          fixes: open.every(({ monitor }) => monitor === "computer")
            ? [
                {
                  label: `Monitor ${open.length === 1 ? nameOf(open[0]) : counted(open.length, "track")} not at all while recording`,
                  edits: [
                    { kind: "entries.set", table: "channels", ids: open.map(({ id }) => id), set: { monitor: "off" } },
                  ],
                },
              ]
            : [],
        }),
      ];
    }),
};

export const farGuestHearsBack: Check = {
  id: "far-guest-hears-back",
  why: "Somebody at the far end of a line who gets their own voice back hears it late and stops talking.",
  reads: [
    ...MIXED,
    "cueLevels.cueId",
    "cueLevels.levelDb",
    "cueLevels.on",
    "cueLevels.sourceId",
    "cues.hearing",
    "cues.mixedIn",
    "cues.order",
    "cues.people",
    "cues.portIds",
    "lines.player",
    "lines.portId",
  ],
  check: ({ doc, rig }) =>
    cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const back = carriesBack(doc, rig, cue);
      if (!back.length) return [];
      return [
        finding("far-guest-hears-back", {
          severity: "problem",
          message: `${cue.name} goes to the far end of a line and carries ${listed(back.map(nameOf))}, in which their own voice is.`,
          places: at(cue, "sources"),
          fixes: [
            {
              label: `Take ${back.length === 1 ? nameOf(back[0]) : counted(back.length, "source")} out`,
              edits: takenOut(back.map(({ id }) => ({ cueId: cue.id, sourceId: id }))),
            },
          ],
        }),
      ];
    }),
};

/** Cues that need the interface's own mixer: those mixed there, and those that carry what is monitored direct. */
const throughMixer = (doc: Template, cue: Cue): readonly Track[] =>
  heardInCue(doc, cue).filter(
    (channel): channel is Track =>
      channel.kind === "track" &&
      (channel.monitor === "direct" || (cue.mixedIn === "interface" && channel.monitor !== "off")) &&
      linesOfTrack(doc, channel).length > 0,
  );

export const mixerCannot: Check = {
  id: "mixer-cannot",
  why: "What is to be heard direct must be brought to the output by the interface's own mixer, which has only so many mixes and inputs.",
  reads: [
    "channels.input",
    "channels.kind",
    "channels.monitor",
    "channels.parked",
    "cueLevels.cueId",
    "cueLevels.levelDb",
    "cueLevels.on",
    "cueLevels.sourceId",
    "cues.mixedIn",
    "cues.order",
    "cues.portIds",
    "format",
    "lines.portId",
  ],
  check: ({ doc, rig }) => {
    const using: CueId[] = [];
    const mixes = entriesOf<InterfaceMixer>(rig.mixers).reduce((sum, mixer) => sum + mixer.mixes, 0);
    return cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const tracks = throughMixer(doc, cue);
      if (!tracks.length && cue.mixedIn !== "interface") return [];
      const toComputer = [
        {
          label: `Mix ${cue.name} in the computer`,
          edits: [{ kind: "entries.set", table: "cues", ids: [cue.id], set: { mixedIn: "computer" } }] as const,
        },
      ];
      const told = (message: string, fixes: Finding["fixes"] = []): readonly Finding[] => [
        finding("mixer-cannot", { severity: "problem", message, places: at(cue, "sources"), fixes }),
      ];
      if (!mixes && cue.mixedIn !== "interface") return [];
      if (!mixes)
        return told(`${cue.name} is to be mixed in the interface, and this rig's has no mixer of its own.`, toComputer);
      using.push(cue.id);
      if (using.length > mixes)
        return told(
          `${cue.name} needs a mix of the interface's own mixer, and its ${mixes} are taken by the cues before it.`,
          cue.mixedIn === "interface" ? toComputer : [],
        );
      const [outId = null] = cue.portIds;
      if (!outId) return [];
      const wrong = tracks.filter((track) =>
        linesOfTrack(doc, track).some(
          ({ portId }) => portId !== null && !directWay(rig, portId, outId, doc.format.sampleRateHz),
        ),
      );
      if (!wrong.length) return [];
      return told(
        `The interface's own mixer can't bring ${listed(wrong.slice(0, 4).map(nameOf))} to the output of ${cue.name}.`,
        [
          {
            label: `Monitor ${wrong.length === 1 ? nameOf(wrong[0]) : counted(wrong.length, "track")} through the computer`,
            edits: [
              { kind: "entries.set", table: "channels", ids: wrong.map(({ id }) => id), set: { monitor: "computer" } },
            ],
          },
        ],
      );
    });
  },
};

export const CUE_CHECKS: readonly Check[] = [
  cueWithoutOutput,
  cuesOnOneOutput,
  cueForNobody,
  loudspeakerFeedsBack,
  outputFeedsBack,
  farGuestHearsBack,
  mixerCannot,
];

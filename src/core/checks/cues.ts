import type { ChannelId, CueId } from "../model/ids";
import { isParked, linesOfTrack, microphoneFacts } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Channel, Track } from "../model/tables/channels";
import type { Cue } from "../model/tables/cues";
import type { InterfaceMixer } from "../model/tables/mixers";
import type { Template } from "../model/template";
import { freeCueOutput } from "../queries/cue-outputs";
import { armedOf, type CueCell, cuesOf, levelsOfCue, ownTracksOf } from "../queries/cues";
import { graphOf } from "../routing/graph";
import { downFrom } from "../routing/reach";
import { directWay } from "../timing/hardware";
import { counted } from "../units/counted";
import { type Check, type Finding, finding } from "./finding";
import { nameOf } from "./remarkable";

const at = (cue: Cue, field: "sources" | "output" | "people" | "level") => [{ kind: "cue", id: cue.id, field }] as const;
/** "Ilse, Juno and Pell". */
export const listed = (names: readonly string[]): string => (names.length < 2 ? (names[0] ?? "") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`);
const takenOut = (cells: readonly CueCell[]) => [{ kind: "cueLevels.remove", cells }] as const;

/** What a cue lets be heard. */
const heardIn = (doc: Template, cue: Cue): readonly Channel[] =>
  levelsOfCue(doc, cue.id).flatMap(({ sourceId, on, levelDb }) => {
    const channel = doc.channels[sourceId];
    return on && levelDb !== null && channel && !isParked(channel) ? [channel] : [];
  });

export const cueWithoutOutput: Check = {
  id: "cue-without-output",
  why: "A cue that goes out nowhere is heard by nobody.",
  check: ({ doc, rig }) =>
    cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const gone = cue.portIds.some((id) => rig.ports[id]?.direction !== "out");
      if (cue.portIds.length && !gone) return [];
      const free = freeCueOutput(doc, rig);
      return [
        finding("cue-without-output", {
          severity: "problem",
          message: gone ? `${cue.name} goes out by an output that this rig does not have.` : `${cue.name} has no output: nobody can hear it.`,
          places: at(cue, "output"),
          fixes: free ? [{ label: `Let it go out by ${free.label}`, commands: [{ kind: "cues.set", cueIds: [cue.id], set: { portIds: free.portIds, room: free.room } }] }] : [],
        }),
      ];
    }),
};

export const cuesOnOneOutput: Check = {
  id: "cues-on-one-output",
  why: "Two cues on one output are heard on top of each other.",
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
          fixes: free ? [{ label: `Let ${cue.name} go out by ${free.label}`, commands: [{ kind: "cues.set", cueIds: [cue.id], set: { portIds: free.portIds } }] }] : [],
        }),
      ];
    });
  },
};

export const cueForNobody: Check = {
  id: "cue-for-nobody",
  why: "A cue that nobody hears takes an output and a mix from those who need one.",
  withoutRig: true,
  check: ({ doc }) =>
    cuesOf(doc).flatMap((cue): readonly Finding[] =>
      cue.people.length
        ? []
        : [
            finding("cue-for-nobody", {
              severity: "hint",
              message: `Nobody hears ${cue.name} yet. Say who does, or remove it.`,
              places: at(cue, "people"),
              fixes: [{ label: `Remove ${cue.name}`, commands: [{ kind: "cues.remove", cueIds: [cue.id] }] }],
            }),
          ],
    ),
};

/** Tracks of a room that a loudspeaker there is heard by: those with a microphone, armed. */
const openMicrophones = (
  doc: Template,
  { rig, armed, room }: { readonly rig: Parameters<Check["check"]>[0]["rig"]; readonly armed: ReadonlySet<ChannelId>; readonly room: string },
): readonly Track[] =>
  [...armed].flatMap((id) => {
    const track = doc.channels[id];
    if (track?.kind !== "track" || track.parked) return [];
    const open = linesOfTrack(doc, track).some((line) => {
      const kind = microphoneFacts(rig, line.microphone)?.kind;
      return line.room.trim().toLowerCase() === room.trim().toLowerCase() && kind !== undefined && !kind.startsWith("di-") && kind !== "line-source";
    });
    return open ? [track] : [];
  });

interface Howling {
  readonly cue: Cue;
  readonly open: readonly Track[];
  readonly round: readonly Channel[];
  readonly beside: readonly Channel[];
}

const howls = ({ cue, open, round, beside }: Howling): Finding => {
  const carried = [...round, ...beside];
  const many = round.length === 1 ? "" : "s";
  const message = round.length
    ? `The loudspeaker of ${cue.name} stands in the ${cue.room} with the open microphone${many} of ${listed(round.slice(0, 4).map(nameOf))}, and plays ${many ? "them" : "it"}: it will howl.`
    : `The loudspeaker of ${cue.name} plays ${listed(beside.map((one) => nameOf(one).toLowerCase()))} in the ${cue.room}, where ${open.length === 1 ? `${nameOf(open[0])} is` : `${counted(open.length, "microphone")} are`} open: it is recorded with them.`;
  return finding("loudspeaker-feeds-back", {
    severity: round.length ? "problem" : "hint",
    message,
    places: at(cue, "sources"),
    fixes: [
      {
        label: `Take ${listed(carried.slice(0, 3).map(nameOf))}${carried.length > 3 ? " and more" : ""} out of ${cue.name}`,
        commands: takenOut(carried.map(({ id }) => ({ cueId: cue.id, sourceId: id }))),
      },
    ],
  });
};

export const loudspeakerFeedsBack: Check = {
  id: "loudspeaker-feeds-back",
  why: "A loudspeaker that plays what microphones in the same room pick up begins to howl, and what it plays is recorded.",
  check: ({ doc, rig }) => {
    const armed = armedOf(doc);
    return cuesOf(doc).flatMap((cue): readonly Finding[] => {
      if (cue.hearing !== "loudspeaker" || !cue.room) return [];
      const open = openMicrophones(doc, { rig, armed, room: cue.room });
      if (!open.length) return [];
      const heard = heardIn(doc, cue);
      const own = new Set(open.map(({ id }) => id));
      const round = heard.filter(({ id }) => own.has(id));
      const beside = heard.filter(({ kind }) => kind === "click" || kind === "talkback");
      if (!round.length && !beside.length) return [];
      return [howls({ cue, open, round, beside })];
    });
  },
};

export const farGuestHearsBack: Check = {
  id: "far-guest-hears-back",
  why: "Somebody at the far end of a line who gets their own voice back hears it late and stops talking.",
  withoutRig: true,
  check: ({ doc }) =>
    cuesOf(doc).flatMap((cue): readonly Finding[] => {
      if (cue.hearing !== "far") return [];
      const own = new Set<string>(ownTracksOf(doc, cue));
      const graph = graphOf(doc);
      const reached = new Set<string>([...own].flatMap((id) => [...downFrom(graph, id as ChannelId).channels]));
      const back = heardIn(doc, cue).filter(({ id }) => reached.has(id));
      if (!back.length) return [];
      return [
        finding("far-guest-hears-back", {
          severity: "problem",
          message: `${cue.name} goes to the far end of a line and carries ${listed(back.map(nameOf))}, in which their own voice is.`,
          places: at(cue, "sources"),
          fixes: [
            {
              label: `Take ${back.length === 1 ? nameOf(back[0]) : counted(back.length, "source")} out`,
              commands: takenOut(back.map(({ id }) => ({ cueId: cue.id, sourceId: id }))),
            },
          ],
        }),
      ];
    }),
};

/** Cues that need the interface's own mixer: those mixed there, and those that carry what is monitored direct. */
const throughMixer = (doc: Template, cue: Cue): readonly Track[] =>
  heardIn(doc, cue).filter(
    (channel): channel is Track =>
      channel.kind === "track" && (channel.monitor === "direct" || (cue.mixedIn === "interface" && channel.monitor !== "off")) && linesOfTrack(doc, channel).length > 0,
  );

export const mixerCannot: Check = {
  id: "mixer-cannot",
  why: "What is to be heard direct must be brought to the output by the interface's own mixer, which has only so many mixes and inputs.",
  check: ({ doc, rig }) => {
    const using: CueId[] = [];
    const mixes = entriesOf<InterfaceMixer>(rig.mixers).reduce((sum, mixer) => sum + mixer.mixes, 0);
    return cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const tracks = throughMixer(doc, cue);
      if (!tracks.length && cue.mixedIn !== "interface") return [];
      const toComputer = [{ label: `Mix ${cue.name} in the computer`, commands: [{ kind: "cues.set", cueIds: [cue.id], set: { mixedIn: "computer" } }] as const }];
      const told = (message: string, fixes: Finding["fixes"] = []): readonly Finding[] => [
        finding("mixer-cannot", { severity: "problem", message, places: at(cue, "sources"), fixes }),
      ];
      if (!mixes && cue.mixedIn !== "interface") return [];
      if (!mixes) return told(`${cue.name} is to be mixed in the interface, and this rig's has no mixer of its own.`, toComputer);
      using.push(cue.id);
      if (using.length > mixes)
        return told(`${cue.name} needs a mix of the interface's own mixer, and its ${mixes} are taken by the cues before it.`, cue.mixedIn === "interface" ? toComputer : []);
      const [outId = null] = cue.portIds;
      if (!outId) return [];
      const astray = tracks.filter((track) => linesOfTrack(doc, track).some(({ portId }) => portId !== null && !directWay(rig, portId, outId, doc.format.sampleRateHz)));
      if (!astray.length) return [];
      return told(`The interface's own mixer can't bring ${listed(astray.slice(0, 4).map(nameOf))} to the output of ${cue.name}.`, [
        {
          label: `Monitor ${astray.length === 1 ? nameOf(astray[0]) : counted(astray.length, "track")} through the computer`,
          commands: [{ kind: "channels.set", channelIds: astray.map(({ id }) => id), set: { monitor: "computer" } }],
        },
      ]);
    });
  },
};

export const CUE_CHECKS: readonly Check[] = [cueWithoutOutput, cuesOnOneOutput, cueForNobody, loudspeakerFeedsBack, farGuestHearsBack, mixerCannot];

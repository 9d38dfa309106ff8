import type { ChainId, ChannelId, ControlId, GangId } from "@/core/model/ids";
import { rigInputsOf } from "@/core/model/read-rig";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import { inputLineIds } from "@/core/model/tables/channel-fields";
import type { Track } from "@/core/model/tables/channels";
import { KIND_WORDS } from "@/core/model/tables/processor-names";
import type { Template } from "@/core/model/template";
import {
  channelChoices,
  copyChain,
  EFFECTS,
  keptChains,
  processorChoice,
  processorChoices,
  putChain,
  putEffect,
  putProcessor,
  replacedInWords,
} from "@/core/planning/chain-plans";
import { parallelBus, playedDbu, reAmp, splitInBands, throwTo } from "@/core/planning/further-ways";
import { blend, commonName, duck, readBalance, recordSeveralWays, restOfShare } from "@/core/planning/weave-plans";
import { processorsOf } from "@/core/queries/chains";
import { freeOutput, hardwareChoices, readHardware, sumsOf } from "@/core/queries/outputs";
import { counted } from "@/core/units/counted";
import { dB, formatDb } from "@/core/units/decibels";
import { type Act, cant } from "../acts/act-model";
import { askChannels, askOne, askTexts } from "../acts/chain-dialogs";
import { keyOf, type Meaning } from "../acts/chords";
import { newIds } from "../grid/grid-focus";
import type { Doing } from "../state/desk-context";

/** What is selected in the picture, and what can be done with it. */
export interface Weaving extends Pick<Doing, "act" | "actPlanned"> {
  readonly doc: Template;
  readonly studio: Studio;
  /** As they are when a dialog is answered. */
  readonly now: () => Template;
  readonly kept: () => Studio;
  readonly rig: Rig;
  readonly selected: readonly ChannelId[];
  readonly who: string;
  /** All but the main bus. */
  readonly passing: readonly ChannelId[];
  readonly tracks: readonly Track[];
  /** The track, where one is selected and nothing else. */
  readonly only: Track | undefined;
}

/** One act of the picture; null where it can't be done with what is selected. */
type Offer = (weaving: Weaving) => Act | null;

const options = (choices: readonly { readonly id: string; readonly label: string }[]) =>
  choices.map(({ id, label }) => ({ value: id, label }));
const chainOptions = (studio: Studio) =>
  keptChains(studio).map(({ id, name }) => ({ value: id as string, label: name }));

const keptChain: Offer = ({ doc, studio, now, kept, selected, who, actPlanned }) =>
  selected.length && chainOptions(studio).length
    ? {
        id: "kept",
        label: `Put a kept chain on ${who}…`,
        key: keyOf("kept-chain"),
        run: () =>
          askOne({
            title: `Put a kept chain on ${who}`,
            label: replacedInWords(doc, selected) ?? "Chain",
            options: chainOptions(studio),
            does: "Put it on",
            onDo: (chainId) =>
              actPlanned(putChain(now(), kept(), { chainId: chainId as ChainId, channelIds: selected, ids: newIds })),
          }),
      }
    : null;

const RETURNED = "return ";

/**
 * A processor on all that are selected at once, each with settings of its own; an effect in their chains, or on a
 * return that they are sent to.
 */
const processor: Offer = ({ doc, selected, who, now, actPlanned }) =>
  selected.length
    ? {
        id: "processor",
        label: `Put a processor on ${who}…`,
        key: keyOf("processor"),
        run: () =>
          askOne({
            title: `Put a processor on ${who}`,
            label: selected.length > 1 ? "At the end of each chain" : "At the end of the chain",
            options: [
              ...processorChoices(doc, selected).map(({ id, label }) => ({ value: id, label })),
              ...EFFECTS.map((kind) => ({
                value: `${RETURNED}${kind}`,
                label: `${KIND_WORDS[kind]} on a return, with ${selected.length > 1 ? "sends" : "a send"}`,
              })),
            ],
            does: "Put it on",
            onDo: (value) => {
              const choice = processorChoice(value.replace(RETURNED, ""));
              return (
                choice !== null &&
                actPlanned(
                  (value.startsWith(RETURNED) ? putEffect : putProcessor)(now(), {
                    ...choice,
                    channelIds: selected,
                    ids: newIds,
                  }),
                )
              );
            },
          }),
      }
    : null;

/** The chain of one behind those of others, whose own stay as they are. */
const chainBehind: Offer = ({ doc, selected: [fromId, ...more], who, now, actPlanned }) =>
  fromId && !more.length && processorsOf(doc, fromId).length && channelChoices(doc, [fromId]).length
    ? {
        id: "behind",
        label: `Add the chain of ${who} to others…`,
        key: keyOf("chain-behind"),
        run: () =>
          askChannels({
            title: `Add the chain of ${who} to others`,
            label: "After what is there",
            options: options(channelChoices(doc, [fromId])),
            does: "Add the chain",
            says: (chosen) =>
              chosen.length
                ? `${counted(processorsOf(doc, fromId).length, "processor")} more on each of ${chosen.length}; what is there stays.`
                : null,
            onDo: (chosen) =>
              actPlanned(
                copyChain(now(), { fromId, toIds: chosen as readonly ChannelId[], behind: true, ids: newIds }),
              ),
          }),
      }
    : null;

const hold: Offer = ({ passing, who, act }) =>
  passing.length > 1
    ? {
        id: "hold",
        label: `Hold ${who} together`,
        key: keyOf("hold"),
        run: () =>
          void act({
            edits: [
              {
                kind: "gangs.add",
                gang: { id: newIds<GangId>("gang"), name: "", level: true, mute: true, pan: false, sends: false },
                channelIds: passing,
              },
            ],
          }),
      }
    : null;

const newControl = ({ passing, who, act }: Weaving): void =>
  askTexts({
    title: `A control fader over ${who}`,
    fields: [{ label: "Name" }],
    does: "Add the control fader",
    onDo: ([name = ""]) =>
      act({
        edits: [{ kind: "controls.add", control: { id: newIds<ControlId>("control"), name }, channelIds: passing }],
      }),
  });

const NEW = "new";

const askControl = (weaving: Weaving): void => {
  const { doc, passing, who, act } = weaving;
  const controls = entriesOf(doc.controls);
  if (!controls.length) {
    newControl(weaving);
    return;
  }
  askOne({
    title: `Put ${who} under a control fader`,
    label: "Under",
    options: [...options(controls.map(({ id, name }) => ({ id, label: name }))), { value: NEW, label: "A new one" }],
    does: `Put ${who} under it`,
    onDo: (id) => {
      if (id !== NEW)
        return act({ edits: [{ kind: "controls.ride", channelIds: passing, controlId: id as ControlId, on: true }] });
      // The dialog that asked closes first.
      setTimeout(() => newControl(weaving));
      return true;
    },
  });
};

const control: Offer = (weaving) =>
  weaving.passing.length
    ? {
        id: "control",
        label: `Put ${weaving.who} under a control fader…`,
        key: keyOf("control"),
        run: () => askControl(weaving),
      }
    : null;

/** What the balance of a blend comes to, said while it is typed. */
const blendInWords = (tracks: readonly Track[], [, first = "", second = ""]: readonly string[]): string => {
  const rest = tracks.length === 2 && !second.trim() ? restOfShare(first) : "";
  const level = rest ? readBalance(rest) : undefined;
  if (!rest) return "They are held together: one fader moves all.";
  return `${tracks[1]?.name} gets the rest, ${rest}${typeof level === "number" ? `, ${formatDb(level)}` : ""}. They are held together: one fader moves both.`;
};

const blending: Offer = ({ selected, tracks, who, now, actPlanned }) =>
  tracks.length > 1 && tracks.length === selected.length
    ? {
        id: "blend",
        label: `Blend ${who} to one track…`,
        key: keyOf("blend"),
        run: () =>
          askTexts({
            title: `Blend ${who} to one track`,
            fields: [
              { label: "Name of the track", value: commonName(tracks.map(({ name }) => name)) },
              ...tracks.map(({ name }, at) => ({
                label: `${name || `Track ${at + 1}`}: dB or share`,
                value: tracks.length > 2 ? "0" : at === 0 ? "50 %" : "",
              })),
            ],
            does: `Blend ${counted(tracks.length, "track")}`,
            says: (texts) => blendInWords(tracks, texts),
            onDo: ([name = "", first = "", ...more]) => {
              const balance = tracks.length === 2 && !more[0]?.trim() ? [first, restOfShare(first)] : [first, ...more];
              return actPlanned(blend(now(), { channelIds: tracks.map(({ id }) => id), name, balance, ids: newIds }));
            },
          }),
      }
    : null;

const ducking: Offer = ({ doc, selected, passing, who, now, actPlanned }) => {
  const others = options(channelChoices(doc, selected));
  return passing.length && others.length
    ? {
        id: "duck",
        label: `Duck ${who} under others…`,
        key: keyOf("duck"),
        run: () =>
          askChannels({
            title: `Duck ${who} under others`,
            label: "Under",
            options: others,
            texts: [
              {
                label: "By how many dB",
                value: "9",
                description: "Taken off while the others are at −24 dBFS, and no more when they are louder.",
              },
            ],
            does: `Duck ${who}`,
            onDo: (chosen, [depthText = ""]) =>
              actPlanned(
                duck(now(), { channelIds: passing, underIds: chosen as readonly ChannelId[], depthText, ids: newIds }),
              ),
          }),
      }
    : null;
};

const ways: Offer = ({ only, studio, who, now, kept, actPlanned }) =>
  only && inputLineIds(only.input).length && chainOptions(studio).length
    ? {
        id: "ways",
        label: `Record ${who} several ways…`,
        key: keyOf("ways"),
        run: () =>
          askChannels({
            title: `Record ${who} several ways at once`,
            label: "As it comes, and through",
            options: chainOptions(studio),
            does: "Record it so",
            says: (chosen) =>
              chosen.length
                ? `${counted(chosen.length, "further track")} on the same line, recorded after the chain. They are heard nowhere until you route them.`
                : "Choose one or more kept chains.",
            onDo: (chosen) =>
              actPlanned(
                recordSeveralWays(now(), kept(), {
                  trackId: only.id,
                  chainIds: chosen as readonly ChainId[],
                  ids: newIds,
                }),
              ),
          }),
      }
    : null;

const recordBus: Offer = ({ only, doc, who, act }) =>
  only && sumsOf(doc).length
    ? {
        id: "bus",
        label: `Record a bus on ${who}…`,
        key: keyOf("record-bus"),
        run: () =>
          askOne({
            title: `Record a bus on ${who}`,
            label: "Bus or return",
            options: options(sumsOf(doc).map(({ id, name }) => ({ id, label: name }))),
            does: `Record it on ${who}`,
            onDo: (busId) =>
              act({
                edits: [
                  {
                    kind: "tracks.take",
                    trackId: only.id,
                    input: { kind: "bus", busId: busId as ChannelId },
                    lines: [],
                  },
                ],
              }),
          }),
      }
    : null;

const beside: Offer = ({ passing, who, now, actPlanned }) =>
  passing.length
    ? {
        id: "beside",
        label: `Lay a bus beside ${who}…`,
        run: () =>
          askTexts({
            title: `A bus beside ${who}`,
            fields: [
              {
                label: "Name of the bus",
                value: "Parallel",
                description: "Fed at 0 dB after the fader; what goes on now goes on as it is.",
              },
            ],
            does: "Lay it beside",
            onDo: ([name = ""]) => actPlanned(parallelBus(now(), { channelIds: passing, name, ids: newIds })),
          }),
      }
    : null;

const bands: Offer = ({ selected, passing: [channelId], who, now, actPlanned }) =>
  channelId && selected.length === 1
    ? {
        id: "bands",
        label: `Split ${who} in bands…`,
        key: keyOf("bands"),
        run: () =>
          askTexts({
            title: `Split ${who} in bands`,
            fields: [
              { label: "The low one up to", value: "300 Hz" },
              { label: "The next from", value: "300 Hz" },
              {
                label: "A third from",
                value: "",
                description: "Empty: two bands. Three add up flat by an all-pass in the lowest.",
              },
            ],
            does: `Split ${who}`,
            onDo: ([lowText = "", highText = "", upperText = ""]) =>
              actPlanned(splitInBands(now(), { channelId, lowText, highText, upperText, ids: newIds })),
          }),
      }
    : null;

const throwing: Offer = ({ doc, passing, who, now, actPlanned }) => {
  const returns = sumsOf(doc).filter(({ kind }) => kind === "return");
  return passing.length && returns.length
    ? {
        id: "throw",
        label: `Throw ${who} into a return…`,
        key: keyOf("throw"),
        run: () =>
          askOne({
            title: `Throw ${who} into a return`,
            label: "It rings in, and is not heard by itself",
            options: options(returns.map(({ id, name }) => ({ id, label: name }))),
            does: `Throw ${who}`,
            onDo: (returnId) =>
              actPlanned(throwTo(now(), { channelIds: passing, returnId: returnId as ChannelId, ids: newIds })),
          }),
      }
    : null;
};

/** How loud a usual passage leaves the output, said while the level is typed. */
const playedInWords = ({ rig }: Weaving, [outputText = "", levelText = ""]: readonly string[]): string | null => {
  const output = readHardware(rig, outputText);
  const level = readBalance(levelText || "0");
  const dbu = output && typeof level === "number" ? playedDbu(rig, output.portIds, level, -18) : null;
  return dbu === null ? null : `A passage at −18 dBFS leaves at ${formatDb(dB(Math.round(dbu * 10) / 10))}u.`;
};

/** Where what is played out does not come back in yet. */
const NOT_YET = "not plugged in yet";

const amplify: Offer = (weaving) => {
  const { only, doc, rig, who, now, actPlanned } = weaving;
  return only
    ? {
        id: "amplify",
        label: `Play ${who} through an amplifier…`,
        key: keyOf("amplify"),
        run: () =>
          askTexts({
            title: `Play ${who} through an amplifier`,
            fields: [
              {
                label: "Out of",
                value: freeOutput(doc, rig)?.label ?? "",
                options: hardwareChoices(rig).map(({ label }) => label),
              },
              { label: "At, dB", value: "−12" },
              {
                label: "Back in by input",
                value: NOT_YET,
                options: [NOT_YET, ...rigInputsOf(rig).map((input) => input.label)],
              },
            ],
            does: "Play it out and record it again",
            says: (texts) => playedInWords(weaving, texts),
            onDo: ([outputText = "", levelText = "", inputText = ""]) =>
              actPlanned(
                reAmp(now(), rig, {
                  trackId: only.id,
                  outputText,
                  levelText,
                  inputText: inputText === NOT_YET ? "" : inputText,
                  ids: newIds,
                }),
              ),
          }),
      }
    : null;
};

/** In the order in which they are offered. */
const ONE = "Select one track first.";
const SOME = "Select a track, bus or return first.";

/** Each with what it is called, and why it can't be done, where it can't with what is selected. */
const OFFERS: readonly (readonly [offer: Offer, id: string, label: string, key: Meaning | null, whyNot: string])[] = [
  [processor, "processor", "Put a processor on…", "processor", SOME],
  [keptChain, "kept", "Put a kept chain on…", "kept-chain", "Select a track, bus or return first; and keep a chain."],
  [chainBehind, "behind", "Add the chain to others…", "chain-behind", "Select one channel that has a chain first."],
  [hold, "hold", "Hold together", "hold", "Select two channels or more first."],
  [control, "control", "Put under a control fader…", "control", SOME],
  [blending, "blend", "Blend to one track…", "blend", "Select two tracks or more first, and nothing else."],
  [ducking, "duck", "Duck under others…", "duck", SOME],
  [ways, "ways", "Record several ways…", "ways", "Select one track that is on a line first; and keep a chain."],
  [recordBus, "bus", "Record a bus…", "record-bus", "Select one track first, where there is a bus to record."],
  [beside, "beside", "Lay a bus beside…", null, SOME],
  [bands, "bands", "Split in bands…", "bands", "Select one track, bus or return first."],
  [throwing, "throw", "Throw into a return…", "throw", "Select a track or bus first, where there is a return."],
  [amplify, "amplify", "Play through an amplifier…", "amplify", ONE],
];

/**
 * The ways of recording and mixing that take several steps otherwise, each one act; what can't be done with what is
 * selected says what to select.
 */
export const weavingActs = (weaving: Weaving): readonly Act[] =>
  OFFERS.map(
    ([offer, id, label, key, whyNot]) =>
      offer(weaving) ?? { id, label, ...(key ? { key: keyOf(key) } : {}), ...cant(whyNot) },
  );

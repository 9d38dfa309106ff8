"use client";

import { COLOUR_NAMES, colourFault, contrast, type Surface, THREAD_GROUNDS } from "@/core/model/colours";
import { FAMILY_DEFAULTS, ICONS } from "@/core/model/families";
import { PERFORMER_KINDS, PERFORMER_NAMES } from "@/core/model/performers";
import { BIT_DEPTHS, SESSION_KIND_NAMES } from "@/core/model/session-kinds";
import type { Studio } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import type { Chain } from "@/core/model/tables/chains";
import type { FamilyStyle } from "@/core/model/tables/family-styles";
import type { KindDefaults } from "@/core/model/tables/kind-defaults";
import type { OwnColour } from "@/core/model/tables/own-colours";
import type { Person } from "@/core/model/tables/people";
import type { Room } from "@/core/model/tables/rooms";
import type { Target } from "@/core/model/tables/targets";
import { chainShort } from "@/core/queries/chain-text";
import { keptProcessorsOf } from "@/core/queries/chains";
import { readNumber } from "@/core/reading/rig-cells";
import { type Starter, starterInputs } from "@/core/starters/starters";
import { formatRate, SAMPLE_RATES_HZ } from "@/core/units/hertz";
import { nameColumn } from "../parts/name-column";
import type { PartColumn } from "../parts/part-table";
import { ICON_NAMES, TrackIcon } from "../shared/track-icon";
import { dyeVar } from "../theme/tokens";
import classes from "./studio.module.css";

const note = <T extends { readonly note: string }>(header: string): PartColumn<T> => ({
  id: "note",
  header,
  text: (row) => row.note,
  editor: { kind: "text" },
  write: (text) => ({ note: text.trim() }),
});

const roomFigure = (
  key: "volumeM3" | "decayS",
  {
    header,
    says,
    min,
    max,
  }: { readonly header: string; readonly says: string; readonly min: number; readonly max: number },
): PartColumn<Room> => ({
  id: key,
  header,
  width: 86,
  text: (room) => (room[key] === null ? "" : String(room[key])),
  editor: { kind: "number" },
  write: (text) => {
    if (!text.trim()) return { [key]: null };
    const value = readNumber(text, { min, max });
    return value === null ? `Type ${says}, or nothing.` : { [key]: value };
  },
});

export const ROOMS: readonly PartColumn<Room>[] = [
  nameColumn("Room", "room", 150),
  note("What it is like"),
  roomFigure("volumeM3", {
    header: "Volume m³",
    says: "the volume in m³, from 1 to 1,000,000",
    min: 1,
    max: 1_000_000,
  }),
  roomFigure("decayS", {
    header: "Rings s",
    says: "how long it takes to fall silent in seconds, from 0.05 to 30",
    min: 0.05,
    max: 30,
  }),
];

export const PEOPLE: readonly PartColumn<Person>[] = [
  nameColumn("Name", "person", 150),
  {
    id: "does",
    header: "Does",
    width: 160,
    text: (person) => person.does,
    editor: { kind: "text" },
    write: (does) => ({ does: does.trim() }),
  },
  {
    id: "performs",
    header: "Performs as",
    width: 170,
    text: (person) => person.performs,
    editor: {
      kind: "choice",
      options: () => PERFORMER_KINDS.map((value) => ({ value, label: PERFORMER_NAMES[value] })),
    },
    write: (performs) => ({ performs }),
  },
  note("Note"),
];

/** Chains that are kept: what is in each is built in the chain view of a channel and kept from there. */
export const chainColumns = (studio: Studio): readonly PartColumn<Chain>[] => [
  nameColumn("Name", "chain", 170),
  { id: "holds", header: "Holds", width: 220, text: (chain) => chainShort(keptProcessorsOf(studio, chain.id)) },
  note("For whom or what"),
];

export const TARGETS: readonly PartColumn<Target>[] = [
  { id: "kind", header: "Performer", width: 220, text: (target) => PERFORMER_NAMES[target.id] },
  {
    id: "ms",
    header: "Hears themself within ms",
    text: (target) => String(target.ms),
    editor: { kind: "number" },
    write: (text) => {
      const ms = readNumber(text, { min: 0.5, max: 100 });
      return ms === null ? "Type milliseconds, from 0.5 to 100." : { ms };
    },
  },
];

export const KINDS: readonly PartColumn<KindDefaults>[] = [
  { id: "kind", header: "New templates for", width: 220, text: (kind) => SESSION_KIND_NAMES[kind.id] },
  {
    id: "rate",
    header: "Sample rate",
    width: 150,
    text: (kind) => String(kind.sampleRateHz),
    editor: {
      kind: "choice",
      options: () => SAMPLE_RATES_HZ.map((rate) => ({ value: String(rate), label: formatRate(rate) })),
    },
    write: (text) => ({ sampleRateHz: Number(text) }),
  },
  {
    id: "depth",
    header: "Bit depth",
    width: 130,
    text: (kind) => String(kind.bitDepth),
    editor: {
      kind: "choice",
      options: () =>
        BIT_DEPTHS.map((depth) => ({ value: String(depth), label: depth === 32 ? "32 bit float" : `${depth} bit` })),
    },
    write: (text) => ({ bitDepth: Number(text) }),
  },
  {
    id: "picture",
    header: "Meets picture",
    text: (kind) => String(kind.meetsPicture),
    editor: {
      kind: "choice",
      options: () => [
        { value: "false", label: "no" },
        { value: "true", label: "yes" },
      ],
    },
    write: (text) => ({ meetsPicture: text === "true" }),
  },
];

export const familyColumns = (studio: Studio): readonly PartColumn<FamilyStyle>[] => [
  {
    id: "family",
    header: "Family",
    width: 190,
    text: (family) => FAMILY_DEFAULTS[family.id].name,
    shown: (family) => (
      <span className={classes.family}>
        <span className={classes.swatch} style={{ background: dyeVar(family.colour) }} />
        <TrackIcon icon={family.icon} color={dyeVar(family.colour)} />
        {FAMILY_DEFAULTS[family.id].name}
      </span>
    ),
  },
  {
    id: "colour",
    header: "Dye",
    width: 190,
    text: (family) => family.colour,
    editor: {
      kind: "choice",
      options: () => [
        ...COLOUR_NAMES.map((value) => ({ value: value as string, label: value as string })),
        ...entriesOf(studio.colours).map((own) => ({ value: own.id as string, label: own.name })),
      ],
    },
    write: (colour) => ({ colour }),
  },
  {
    id: "icon",
    header: "Icon",
    text: (family) => family.icon,
    editor: { kind: "choice", options: () => ICONS.map((value) => ({ value, label: ICON_NAMES[value] })) },
    write: (icon) => ({ icon }),
  },
];

const colour = (surface: Surface): PartColumn<OwnColour> => ({
  id: surface,
  header: surface === "cloth" ? "On cloth" : "On night",
  width: 90,
  text: (own) => own[surface],
  editor: { kind: "colour" },
  write: (text) => colourFault(text.toLowerCase(), surface) ?? { [surface]: text.toLowerCase() },
});

const contrastOf = (own: OwnColour): string =>
  (["cloth", "night"] as const)
    .map(
      (surface) =>
        `${Math.min(...THREAD_GROUNDS[surface].map((ground) => contrast(own[surface], ground))).toFixed(1)} : 1 on ${surface}`,
    )
    .join(", ");

export const OWN_COLOURS: readonly PartColumn<OwnColour>[] = [
  nameColumn("Dye", "dye", 150),
  colour("cloth"),
  colour("night"),
  { id: "contrast", header: "Contrast", text: contrastOf },
];

export const starterColumns = (hidden: (id: string) => boolean): readonly PartColumn<Starter>[] => [
  { id: "name", header: "Starter", width: 240, text: (starter) => starter.name },
  { id: "kind", header: "For", width: 160, text: (starter) => SESSION_KIND_NAMES[starter.kind] },
  { id: "inputs", header: "Inputs", width: 70, text: (starter) => String(starterInputs(starter)) },
  {
    id: "shown",
    header: "In the library",
    text: (starter) => String(!hidden(starter.id)),
    editor: {
      kind: "choice",
      options: () => [
        { value: "true", label: "offered" },
        { value: "false", label: "hidden" },
      ],
    },
    write: (text) => ({ shown: text === "true" }),
  },
];

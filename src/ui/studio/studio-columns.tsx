"use client";

import { MEANING_NAMES } from "@/core/formats/input-list/meanings";
import { COLOUR_NAMES, colourFault, contrast, type Surface, THREAD_GROUNDS } from "@/core/model/colours";
import { FAMILIES, FAMILY_DEFAULTS, ICONS } from "@/core/model/families";
import { PERFORMER_NAMES } from "@/core/model/performers";
import { SESSION_KIND_NAMES } from "@/core/model/session-kinds";
import type { Studio } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import { CHAINS, type Chain } from "@/core/model/tables/chains";
import { FAMILY_STYLES, type FamilyStyle } from "@/core/model/tables/family-styles";
import { TAUGHT_WORDS, type TaughtWord } from "@/core/model/tables/family-words";
import { KIND_DEFAULTS, type KindDefaults } from "@/core/model/tables/kind-defaults";
import type { ListHabit } from "@/core/model/tables/list-habits";
import { OWN_COLOURS, type OwnColour } from "@/core/model/tables/own-colours";
import { PEOPLE, type Person } from "@/core/model/tables/people";
import { ROOMS, type Room } from "@/core/model/tables/rooms";
import { TARGETS, type Target } from "@/core/model/tables/targets";
import { keptChains } from "@/core/planning/chain-plans";
import { chainShort } from "@/core/queries/chain-text";
import { keptProcessorsOf } from "@/core/queries/chains";
import { type Starter, starterInputs } from "@/core/starters/starters";
import { describedColumns } from "../parts/described-columns";
import type { PartColumn } from "../parts/part-table";
import { ICON_NAMES, TrackIcon } from "../shared/track-icon";
import { dyeVar } from "../theme/tokens";
import classes from "./studio.module.css";

export const ROOM_COLUMNS = describedColumns<Room>(ROOMS);
export const PEOPLE_COLUMNS = describedColumns<Person>(PEOPLE);

/** Chains that are kept: what is in each is built in the chain view of a channel and kept from there. */
export const chainColumns = (studio: Studio): readonly PartColumn<Chain>[] => {
  const [called, ...others] = describedColumns<Chain>(CHAINS);
  const holds = {
    id: "holds",
    header: "Holds",
    width: 220,
    text: (chain: Chain) => chainShort(keptProcessorsOf(studio, chain.id)),
  };
  return [...(called ? [called] : []), holds, ...others];
};

export const TARGET_COLUMNS: readonly PartColumn<Target>[] = [
  { id: "kind", header: "Performer", width: 220, text: (target) => PERFORMER_NAMES[target.id] },
  ...describedColumns<Target>(TARGETS),
];

export const KIND_COLUMNS: readonly PartColumn<KindDefaults>[] = [
  { id: "kind", header: "New templates for", width: 220, text: (kind) => SESSION_KIND_NAMES[kind.id] },
  ...describedColumns<KindDefaults>(KIND_DEFAULTS),
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
    width: 130,
    text: (family) => family.icon,
    editor: { kind: "choice", options: () => ICONS.map((value) => ({ value, label: ICON_NAMES[value] })) },
    write: (icon) => ({ icon }),
  },
  ...describedColumns<FamilyStyle>(FAMILY_STYLES, {}, ["folder", "bus", "place"]),
  {
    id: "chain",
    header: "Begins with",
    width: 140,
    text: (family) => family.chainId ?? "",
    editor: {
      kind: "choice",
      options: () => [
        { value: "", label: "no chain" },
        ...keptChains(studio).map(({ id, name }) => ({ value: id as string, label: name })),
      ],
    },
    write: (chainId) => ({ chainId: chainId || null }),
  },
  ...describedColumns<FamilyStyle>(FAMILY_STYLES, {}, ["sendTo", "sendDb"]),
];

const TAUGHT_FAMILIES = FAMILIES.map((value) => ({ value: value as string, label: FAMILY_DEFAULTS[value].name }));

/** Names that the studio was told the family of. */
export const TAUGHT_COLUMNS: readonly PartColumn<TaughtWord>[] = describedColumns<TaughtWord>(TAUGHT_WORDS, {
  family: { editor: { kind: "choice", options: () => TAUGHT_FAMILIES } },
});

/** Lists whose columns were corrected once. */
export const HABIT_COLUMNS: readonly PartColumn<ListHabit>[] = [
  { id: "headings", header: "Lists headed", width: 420, text: ({ headings }) => headings },
  {
    id: "meanings",
    header: "Are read as",
    text: ({ meanings }) =>
      meanings.map((meaning) => (MEANING_NAMES as Readonly<Record<string, string>>)[meaning] ?? meaning).join(" | "),
  },
];

const colour = (surface: Surface): Partial<PartColumn<OwnColour>> => ({
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

export const DYE_COLUMNS: readonly PartColumn<OwnColour>[] = [
  ...describedColumns<OwnColour>(OWN_COLOURS, { cloth: colour("cloth"), night: colour("night") }),
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

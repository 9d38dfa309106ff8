"use client";

import { Button } from "@mantine/core";
import type { SpotlightActionData } from "@mantine/spotlight";
import { nanoid } from "nanoid";
import { useRouter } from "next/navigation";
import { COLOUR_NAMES, COLOURS, colourFault, contrast, type Surface, THREAD_GROUNDS } from "@/core/model/colours";
import { FAMILY_DEFAULTS, ICONS } from "@/core/model/families";
import { PERFORMER_KINDS, PERFORMER_NAMES } from "@/core/model/performers";
import { BIT_DEPTHS, SESSION_KIND_NAMES } from "@/core/model/session-kinds";
import type { Studio, StudioTable } from "@/core/model/studio";
import { byOrder, entriesOf } from "@/core/model/table";
import type { FamilyStyle } from "@/core/model/tables/family-styles";
import type { KindDefaults } from "@/core/model/tables/kind-defaults";
import type { OwnColour } from "@/core/model/tables/own-colours";
import type { Person } from "@/core/model/tables/people";
import type { Room } from "@/core/model/tables/rooms";
import type { Target } from "@/core/model/tables/targets";
import { hasToken, NAME_TOKENS } from "@/core/planning/name-pattern";
import { readNumber } from "@/core/reading/rig-cells";
import { STARTERS, type Starter, starterInputs } from "@/core/starters/starters";
import { formatRate, SAMPLE_RATES_HZ } from "@/core/units/hertz";
import { Palette } from "../frame/palette";
import { PartsFrame } from "../frame/parts-frame";
import { type PartColumn, PartTable } from "../parts/part-table";
import { Section } from "../parts/section";
import { tellRefusal } from "../shared/notices";
import { ICON_NAMES, TrackIcon } from "../shared/track-icon";
import { useUndoing } from "../state/doc-context";
import { dyeVar } from "../theme/tokens";
import classes from "./studio.module.css";
import { useStudioAct, useStudioDocument } from "./studio-context";

const named = <T extends { readonly name: string }>(header: string, what: string): PartColumn<T> => ({
  id: "name",
  header,
  width: 150,
  text: (row) => row.name,
  editor: { kind: "text" },
  write: (name) => (name.trim() ? { name: name.trim() } : `A ${what} needs a name.`),
});

const note = <T extends { readonly note: string }>(header: string): PartColumn<T> => ({
  id: "note",
  header,
  text: (row) => row.note,
  editor: { kind: "text" },
  write: (text) => ({ note: text.trim() }),
});

const ROOMS: readonly PartColumn<Room>[] = [named("Room", "room"), note("What it is like")];

const PEOPLE: readonly PartColumn<Person>[] = [
  named("Name", "person"),
  { id: "does", header: "Does", width: 160, text: (person) => person.does, editor: { kind: "text" }, write: (does) => ({ does: does.trim() }) },
  {
    id: "performs",
    header: "Performs as",
    width: 170,
    text: (person) => person.performs,
    editor: { kind: "choice", options: () => PERFORMER_KINDS.map((value) => ({ value, label: PERFORMER_NAMES[value] })) },
    write: (performs) => ({ performs }),
  },
  note("Note"),
];

const TARGETS: readonly PartColumn<Target>[] = [
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

const KINDS: readonly PartColumn<KindDefaults>[] = [
  { id: "kind", header: "New templates for", width: 220, text: (kind) => SESSION_KIND_NAMES[kind.id] },
  {
    id: "rate",
    header: "Sample rate",
    width: 150,
    text: (kind) => String(kind.sampleRateHz),
    editor: { kind: "choice", options: () => SAMPLE_RATES_HZ.map((rate) => ({ value: String(rate), label: formatRate(rate) })) },
    write: (text) => ({ sampleRateHz: Number(text) }),
  },
  {
    id: "depth",
    header: "Bit depth",
    width: 130,
    text: (kind) => String(kind.bitDepth),
    editor: { kind: "choice", options: () => BIT_DEPTHS.map((depth) => ({ value: String(depth), label: depth === 32 ? "32 bit float" : `${depth} bit` })) },
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

const familyColumns = (studio: Studio): readonly PartColumn<FamilyStyle>[] => [
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
  (["cloth", "night"] as const).map((surface) => `${Math.min(...THREAD_GROUNDS[surface].map((ground) => contrast(own[surface], ground))).toFixed(1)} : 1 on ${surface}`).join(", ");

const OWN_COLOURS: readonly PartColumn<OwnColour>[] = [named("Dye", "colour"), colour("cloth"), colour("night"), { id: "contrast", header: "Contrast", text: contrastOf }];

const STARTER_COLUMNS = (hidden: (id: string) => boolean): readonly PartColumn<Starter>[] => [
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

/** A dye to begin with: a quiet one that stands out on both surfaces. */
const NEW_COLOUR = { cloth: COLOURS.slate.cloth, night: COLOURS.slate.night };

/** Rooms, people and the defaults of the studio. */
export const StudioScreen = () => {
  const studio = useStudioDocument();
  const act = useStudioAct();
  const router = useRouter();
  const { undo, redo } = useUndoing();
  const set = (table: StudioTable) => ({
    onSet: (ids: readonly string[], change: Readonly<Record<string, unknown>>) => act([{ kind: "parts.set", table, ids, set: change }]),
    onRefused: tellRefusal,
  });
  const remove = (table: StudioTable) => ({ onRemove: (ids: readonly string[]) => void act([{ kind: "parts.remove", table, ids }]) });
  const add = (table: StudioTable, part: object) => act([{ kind: "parts.add", parts: { [table]: [part] } as never }]);
  const rooms = entriesOf(studio.rooms).sort(byOrder);
  const people = entriesOf(studio.people).sort(byOrder);
  const colours = entriesOf(studio.colours);
  const hidden = (id: string) => Object.hasOwn(studio.hiddenStarters, id);
  const fresh = (base: string, names: readonly string[]) => {
    let number = names.length + 1;
    while (names.includes(`${base} ${number}`)) number += 1;
    return `${base} ${number}`;
  };
  const button = (label: string, run: () => void) => (
    <Button variant="default" size="compact-sm" onClick={run}>
      {label}
    </Button>
  );
  const addRoom = () =>
    add("rooms", {
      id: nanoid(10),
      name: fresh(
        "Room",
        rooms.map((room) => room.name),
      ),
      note: "",
    });
  const addPerson = () =>
    add("people", {
      id: nanoid(10),
      name: fresh(
        "Person",
        people.map((person) => person.name),
      ),
      does: "",
      performs: "none",
      note: "",
    });
  const addColour = () =>
    add("colours", {
      id: `own-${nanoid(8)
        .toLowerCase()
        .replace(/[^a-z0-9]/g, "x")}`,
      name: fresh(
        "Dye",
        colours.map((colour) => colour.name),
      ),
      ...NEW_COLOUR,
    });
  const showStarter = (ids: readonly string[], change: Readonly<Record<string, unknown>>) =>
    change.shown
      ? act([{ kind: "parts.remove", table: "hiddenStarters", ids: ids.filter(hidden) }], "Offer a starter again")
      : act([{ kind: "parts.add", parts: { hiddenStarters: ids.map((id) => ({ id })) } }], "Hide a starter");
  const does: SpotlightActionData[] = [
    { id: "undo", label: "Undo", rightSection: <kbd>Ctrl Z</kbd>, onClick: undo },
    { id: "redo", label: "Redo", rightSection: <kbd>Ctrl Shift Z</kbd>, onClick: redo },
    { id: "room", label: "Add a room", onClick: addRoom },
    { id: "person", label: "Add a person", onClick: addPerson },
    { id: "colour", label: "Add a dye", onClick: addColour },
    { id: "library", label: "Go to the library", onClick: () => router.push("/") },
  ];
  return (
    <PartsFrame palette={<Palette does={does} finds={[]} />}>
      <div className={classes.page}>
        <h1 className="visually-hidden">Rooms, people and defaults of {studio.name}</h1>
        <div className={classes.column}>
          <Section title="Rooms" actions={button("Add a room", addRoom)}>
            <PartTable
              label="Rooms"
              rows={rooms}
              columns={ROOMS}
              nameOf={(row) => row.name}
              {...set("rooms")}
              {...remove("rooms")}
              empty="No rooms yet. Lines say in which one they are played."
            />
          </Section>
          <Section title="People" actions={button("Add a person", addPerson)}>
            <PartTable
              label="People"
              rows={people}
              columns={PEOPLE}
              nameOf={(row) => row.name}
              {...set("people")}
              {...remove("people")}
              empty="Nobody yet. Players are offered by name wherever one is asked for."
            />
          </Section>
          <Section title="How late performers may hear themselves" hint="The dry path. In air, 3 ms is about a metre.">
            <PartTable label="Targets" rows={entriesOf(studio.targets)} columns={TARGETS} nameOf={(row) => PERFORMER_NAMES[row.id]} {...set("targets")} empty="" />
          </Section>
        </div>
        <div className={classes.column}>
          <Section title="Dyes and icons by family" hint="What new tracks get.">
            <PartTable
              label="Families"
              rows={entriesOf(studio.families)}
              columns={familyColumns(studio)}
              nameOf={(row) => FAMILY_DEFAULTS[row.id].name}
              {...set("families")}
              empty=""
            />
          </Section>
          <Section title="Own dyes" hint="Each must have 3 : 1 against both surfaces." actions={button("Add a dye", addColour)}>
            <PartTable
              label="Own dyes"
              rows={colours}
              columns={OWN_COLOURS}
              nameOf={(row) => row.name}
              {...set("colours")}
              {...remove("colours")}
              empty="The twelve dyes of the house are always there. Add one when they are not enough."
            />
          </Section>
          <Section title="Naming pattern" hint={NAME_TOKENS.map((token) => `{${token}}`).join(" ")}>
            <PartTable
              label="Naming pattern"
              rows={[studio]}
              columns={[
                {
                  id: "pattern",
                  header: "Tracks are named",
                  text: (row) => row.namePattern,
                  editor: { kind: "text" },
                  write: (text) => (hasToken(text) ? { namePattern: text.trim() } : "A pattern needs a part in braces, such as {source}."),
                },
              ]}
              nameOf={() => "the studio"}
              onSet={(_ids, change) => act([{ kind: "settings.set", set: change }])}
              onRefused={tellRefusal}
              empty=""
            />
          </Section>
          <Section title="Kinds of session">
            <PartTable label="Kinds of session" rows={entriesOf(studio.kinds)} columns={KINDS} nameOf={(row) => SESSION_KIND_NAMES[row.id]} {...set("kinds")} empty="" />
          </Section>
          <Section title="Starters">
            <PartTable label="Starters" rows={STARTERS} columns={STARTER_COLUMNS(hidden)} nameOf={(row) => row.name} onSet={showStarter} onRefused={tellRefusal} empty="" />
          </Section>
        </div>
      </div>
    </PartsFrame>
  );
};

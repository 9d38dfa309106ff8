"use client";

import { Button } from "@mantine/core";

import { FAMILY_DEFAULTS } from "@/core/model/families";
import { PERFORMER_NAMES } from "@/core/model/performers";
import { SESSION_KIND_NAMES } from "@/core/model/session-kinds";
import { byOrder, entriesOf } from "@/core/model/table";
import { keptChains } from "@/core/planning/chain-plans";
import { hasToken, NAME_TOKENS } from "@/core/planning/name-pattern";
import { STARTERS } from "@/core/starters/starters";
import type { Act } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { inPalette, undoing } from "../frame/in-palette";
import { usePageActs } from "../frame/page-acts";
import { Palette } from "../frame/palette";
import { PartsFrame } from "../frame/parts-frame";
import { PartTable, TABLE_KEYS } from "../parts/part-table";
import { Section } from "../parts/section";
import { useGo } from "../shared/going";
import { tellRefusal } from "../shared/notices";
import { useSteady } from "../shared/steady";
import { useUndoing } from "../state/doc-context";
import classes from "./studio.module.css";
import {
  chainColumns,
  DYE_COLUMNS,
  familyColumns,
  HABIT_COLUMNS,
  KIND_COLUMNS,
  PEOPLE_COLUMNS,
  ROOM_COLUMNS,
  starterColumns,
  TARGET_COLUMNS,
  TAUGHT_COLUMNS,
} from "./studio-columns";
import { useStudioAct, useStudioDocument } from "./studio-context";
import { useRemoveColours, useStudioAdds, useStudioTables } from "./use-studio-parts";

const button = (label: string, run: () => void) => (
  <Button variant="default" size="compact-sm" onClick={run}>
    {label}
  </Button>
);

/** Who and where. */
const RoomsAndPeople = () => {
  const studio = useStudioDocument();
  const { set, remove } = useStudioTables();
  const { addRoom, addPerson } = useStudioAdds();
  return (
    <>
      <Section title="Rooms" actions={button("Add a room", addRoom)}>
        <PartTable
          label="Rooms"
          rows={entriesOf(studio.rooms).sort(byOrder)}
          columns={ROOM_COLUMNS}
          nameOf={(row) => row.name}
          {...set("rooms")}
          {...remove("rooms")}
          empty="No rooms yet. Lines say in which one they are played."
        />
      </Section>
      <Section title="People" actions={button("Add a person", addPerson)}>
        <PartTable
          label="People"
          rows={entriesOf(studio.people).sort(byOrder)}
          columns={PEOPLE_COLUMNS}
          nameOf={(row) => row.name}
          {...set("people")}
          {...remove("people")}
          empty="Nobody yet. Players are offered by name wherever one is asked for."
        />
      </Section>
    </>
  );
};

/** What is kept of chains, and how late performers may hear themselves. */
const ChainsAndTargets = () => {
  const studio = useStudioDocument();
  const { set, remove } = useStudioTables();
  return (
    <>
      <Section title="Chains kept" hint="Kept from the chain of a channel, in the signal flow of a template.">
        <PartTable
          label="Chains kept"
          rows={keptChains(studio)}
          columns={chainColumns(studio)}
          nameOf={(row) => row.name}
          {...set("chains")}
          {...remove("chains")}
          empty="None yet. Keep the chain of a channel under a name, and put it on others in one act."
        />
      </Section>
      <Section title="How late performers may hear themselves" hint="The dry path. In air, 3 ms is about a metre.">
        <PartTable
          label="Targets"
          rows={entriesOf(studio.targets)}
          columns={TARGET_COLUMNS}
          nameOf={(row) => PERFORMER_NAMES[row.id]}
          {...set("targets")}
          empty=""
        />
      </Section>
    </>
  );
};

/** Of families, and the studio's own. */
const Dyes = () => {
  const studio = useStudioDocument();
  const { set, remove } = useStudioTables();
  const { addColour } = useStudioAdds();
  const removeColours = useRemoveColours();
  return (
    <>
      <Section
        title="Families"
        hint="What new tracks of each get: dye and icon, folder and bus, their place in the list, and where it is wanted a chain and a send."
      >
        <PartTable
          label="Families"
          rows={entriesOf(studio.families).toSorted((a, b) => a.place - b.place)}
          wide
          columns={familyColumns(studio)}
          nameOf={(row) => FAMILY_DEFAULTS[row.id].name}
          {...set("families")}
          empty=""
        />
      </Section>
      <Section title="Names and their families" hint="What was corrected where tracks are added or a list is read.">
        <PartTable
          label="Names and their families"
          rows={entriesOf(studio.taughtWords)}
          columns={TAUGHT_COLUMNS}
          nameOf={(row) => row.word}
          {...set("taughtWords")}
          {...remove("taughtWords")}
          empty="None yet: a family that is chosen for a name in a list is kept here."
        />
      </Section>
      <Section title="Lists read as corrected" hint="By their headings. Removed, they are read as any other list.">
        <PartTable
          label="Lists read as corrected"
          rows={entriesOf(studio.listHabits)}
          columns={HABIT_COLUMNS}
          nameOf={(row) => row.headings}
          {...set("listHabits")}
          {...remove("listHabits")}
          empty="None yet: columns whose meaning is corrected in a list are kept here."
        />
      </Section>
      <Section
        title="Own dyes"
        hint="Each must have 3 : 1 against both surfaces."
        actions={button("Add a dye", addColour)}
      >
        <PartTable
          label="Own dyes"
          rows={entriesOf(studio.colours)}
          columns={DYE_COLUMNS}
          nameOf={(row) => row.name}
          {...set("colours")}
          onRemove={(ids) => void removeColours(ids)}
          empty="The twelve dyes of the house are always there. Add one when they are not enough."
        />
      </Section>
    </>
  );
};

/** How tracks are named. */
const Naming = () => {
  const studio = useStudioDocument();
  const act = useStudioAct();
  return (
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
            write: (text) =>
              hasToken(text) ? { namePattern: text.trim() } : "A pattern needs a part in braces, such as {source}.",
          },
        ]}
        nameOf={() => "the studio"}
        onSet={(_ids, change) => act([{ kind: "settings.set", set: change }])}
        onRefused={tellRefusal}
        empty=""
      />
    </Section>
  );
};

/** Kinds of session, and what new templates can begin with. */
const Sessions = () => {
  const studio = useStudioDocument();
  const act = useStudioAct();
  const { set } = useStudioTables();
  const hidden = (id: string) => Object.hasOwn(studio.hiddenStarters, id);
  const showStarter = (ids: readonly string[], change: Readonly<Record<string, unknown>>) =>
    change.shown
      ? act([{ kind: "entries.remove", table: "hiddenStarters", ids: ids.filter(hidden) }], "Offer a starter again")
      : act([{ kind: "entries.add", entries: { hiddenStarters: ids.map((id) => ({ id })) } }], "Hide a starter");
  return (
    <>
      <Section title="Kinds of session">
        <PartTable
          label="Kinds of session"
          rows={entriesOf(studio.kinds)}
          columns={KIND_COLUMNS}
          nameOf={(row) => SESSION_KIND_NAMES[row.id]}
          {...set("kinds")}
          empty=""
        />
      </Section>
      <Section title="Starters">
        <PartTable
          label="Starters"
          rows={STARTERS}
          columns={starterColumns(hidden)}
          nameOf={(row) => row.name}
          onSet={showStarter}
          onRefused={tellRefusal}
          empty=""
        />
      </Section>
    </>
  );
};

/** Rooms, people and the defaults of the studio. */
export const StudioScreen = () => {
  const { name } = useStudioDocument();
  const go = useGo();
  const { undo, redo } = useUndoing();
  const { addRoom, addPerson, addColour } = useStudioAdds();
  const acts = useSteady((): readonly Act[] => [
    { id: "person", label: "Add a person", key: keyOf("add"), run: addPerson },
    { id: "room", label: "Add a room", run: addRoom },
    { id: "colour", label: "Add a dye", run: addColour },
  ]);
  usePageActs(acts, "rooms, people and defaults", TABLE_KEYS);
  const does = [
    ...undoing(undo, redo),
    ...inPalette(acts()),
    { id: "library", label: "Go to the library", onClick: () => go("/") },
  ];
  return (
    <PartsFrame palette={<Palette does={does} finds={[]} />}>
      <div className={classes.page}>
        <h1 className="visually-hidden">Rooms, people and defaults of {name}</h1>
        <div className={classes.column}>
          <RoomsAndPeople />
          <ChainsAndTargets />
        </div>
        <div className={classes.column}>
          <Dyes />
          <Naming />
          <Sessions />
        </div>
      </div>
    </PartsFrame>
  );
};

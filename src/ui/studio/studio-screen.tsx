"use client";

import { Button } from "@mantine/core";
import type { SpotlightActionData } from "@mantine/spotlight";
import { nanoid } from "nanoid";
import { useRouter } from "next/navigation";
import { COLOURS } from "@/core/model/colours";
import { FAMILY_DEFAULTS } from "@/core/model/families";
import type { PersonId, RoomId } from "@/core/model/ids";
import { PERFORMER_NAMES } from "@/core/model/performers";
import { SESSION_KIND_NAMES } from "@/core/model/session-kinds";
import type { StudioTable } from "@/core/model/studio";
import { byOrder, entriesOf } from "@/core/model/table";
import type { OwnColour } from "@/core/model/tables/own-colours";
import { keptChains } from "@/core/planning/chain-plans";
import type { StudioEdit } from "@/core/planning/edits/studio-editing";
import { hasToken, NAME_TOKENS } from "@/core/planning/name-pattern";
import { STARTERS } from "@/core/starters/starters";
import { counted } from "@/core/units/counted";
import { askFirst } from "../acts/route-dialogs";
import { Palette } from "../frame/palette";
import { PartsFrame } from "../frame/parts-frame";
import { PartTable } from "../parts/part-table";
import { Section } from "../parts/section";
import { api } from "../shared/api";
import { tellRefusal } from "../shared/notices";
import { useUndoing } from "../state/doc-context";
import classes from "./studio.module.css";
import {
  chainColumns,
  familyColumns,
  KIND_COLUMNS,
  OWN_COLOURS,
  PEOPLE_COLUMNS,
  ROOM_COLUMNS,
  starterColumns,
  TARGET_COLUMNS,
} from "./studio-columns";
import { useStudioAct, useStudioDocument } from "./studio-context";

/** A dye to begin with: a quiet one that stands out on both surfaces. */
const NEW_COLOUR = { cloth: COLOURS.slate.cloth, night: COLOURS.slate.night };

const ownColourId = (): OwnColour["id"] =>
  `own-${nanoid(8)
    .toLowerCase()
    .replace(/[^a-z0-9]/g, "x")}`;

/** Rooms, people and the defaults of the studio. */
export const StudioScreen = () => {
  const studio = useStudioDocument();
  const act = useStudioAct();
  const router = useRouter();
  const { undo, redo } = useUndoing();
  const set = (table: StudioTable) => ({
    onSet: (ids: readonly string[], change: Readonly<Record<string, unknown>>) =>
      act([{ kind: "entries.set", table, ids, set: change } as StudioEdit]),
    onRefused: tellRefusal,
  });
  const remove = (table: StudioTable) => ({
    onRemove: (ids: readonly string[]) => void act([{ kind: "entries.remove", table, ids } as StudioEdit]),
  });
  const add = (entries: Extract<StudioEdit, { readonly kind: "entries.add" }>["entries"]) =>
    act([{ kind: "entries.add", entries }]);
  const rooms = entriesOf(studio.rooms).sort(byOrder);
  const people = entriesOf(studio.people).sort(byOrder);
  const colours = entriesOf(studio.colours);
  const hidden = (id: string) => Object.hasOwn(studio.hiddenStarters, id);
  const fresh = (base: string, there: readonly { readonly name: string }[]) => {
    const names = there.map(({ name }) => name);
    let number = names.length + 1;
    while (names.includes(`${base} ${number}`)) number += 1;
    return `${base} ${number}`;
  };
  const button = (label: string, run: () => void) => (
    <Button variant="default" size="compact-sm" onClick={run}>
      {label}
    </Button>
  );
  const addRoom = () => add({ rooms: [{ id: nanoid(10) as RoomId, name: fresh("Room", rooms) }] });
  const addPerson = () =>
    add({ people: [{ id: nanoid(10) as PersonId, name: fresh("Person", people), performs: "none" }] });
  const addColour = () => add({ colours: [{ id: ownColourId(), name: fresh("Dye", colours), ...NEW_COLOUR }] });
  /** How far it reaches is said before: a template that has the dye is another document, and shows another dye then. */
  const removeColours = async (ids: readonly string[]): Promise<void> => {
    const gone = (): void => void act([{ kind: "entries.remove", table: "colours", ids } as StudioEdit]);
    try {
      const uses = await Promise.all(ids.map((id) => api.colourUses(id)));
      const most = Math.max(0, ...uses.map(({ templates }) => templates));
      if (!most) return gone();
      const names = colours.filter(({ id }) => ids.includes(id)).map(({ name }) => name);
      askFirst({
        title: `Remove the dye ${names.join(", ")}`,
        says: `${counted(most, "template")} ${most === 1 ? "has" : "have"} something dyed so. It is shown in slate there from then on, and told; an undo brings it back.`,
        does: `Remove ${names.join(", ")}`,
        onDo: gone,
      });
    } catch {
      tellRefusal(
        "How many templates use it could not be asked, as the server is away. Nothing was removed; try again when it is back.",
      );
    }
  };
  const showStarter = (ids: readonly string[], change: Readonly<Record<string, unknown>>) =>
    change.shown
      ? act([{ kind: "entries.remove", table: "hiddenStarters", ids: ids.filter(hidden) }], "Offer a starter again")
      : act([{ kind: "entries.add", entries: { hiddenStarters: ids.map((id) => ({ id })) } }], "Hide a starter");
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
              rows={people}
              columns={PEOPLE_COLUMNS}
              nameOf={(row) => row.name}
              {...set("people")}
              {...remove("people")}
              empty="Nobody yet. Players are offered by name wherever one is asked for."
            />
          </Section>
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
          <Section
            title="Own dyes"
            hint="Each must have 3 : 1 against both surfaces."
            actions={button("Add a dye", addColour)}
          >
            <PartTable
              label="Own dyes"
              rows={colours}
              columns={OWN_COLOURS}
              nameOf={(row) => row.name}
              {...set("colours")}
              onRemove={(ids) => void removeColours(ids)}
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
                  write: (text) =>
                    hasToken(text)
                      ? { namePattern: text.trim() }
                      : "A pattern needs a part in braces, such as {source}.",
                },
              ]}
              nameOf={() => "the studio"}
              onSet={(_ids, change) => act([{ kind: "settings.set", set: change }])}
              onRefused={tellRefusal}
              empty=""
            />
          </Section>
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
        </div>
      </div>
    </PartsFrame>
  );
};

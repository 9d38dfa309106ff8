import { nanoid } from "nanoid";
import { COLOURS } from "@/core/model/colours";
import type { PersonId, RoomId } from "@/core/model/ids";
import type { StudioTable } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import type { OwnColour } from "@/core/model/tables/own-colours";
import type { StudioEdit } from "@/core/planning/edits/studio-editing";
import { counted } from "@/core/units/counted";
import { askFirst } from "../acts/route-dialogs";
import { api } from "../shared/api";
import { tellRefusal } from "../shared/notices";
import { useStudioAct, useStudioDocument } from "./studio-context";

/** A dye to begin with: a quiet one that stands out on both surfaces. */
const NEW_COLOUR = { cloth: COLOURS.slate.cloth, night: COLOURS.slate.night };

const ownColourId = (): OwnColour["id"] =>
  `own-${nanoid(8)
    .toLowerCase()
    .replace(/[^a-z0-9]/g, "x")}`;

/** A name that none of them has yet: "Room 3". */
const fresh = (base: string, there: readonly { readonly name: string }[]): string => {
  const names = there.map(({ name }) => name);
  let number = names.length + 1;
  while (names.includes(`${base} ${number}`)) number += 1;
  return `${base} ${number}`;
};

/** What an edit of a table of the studio's does. */
export const useStudioTables = () => {
  const act = useStudioAct();
  return {
    set: (table: StudioTable) => ({
      onSet: (ids: readonly string[], change: Readonly<Record<string, unknown>>) =>
        act([{ kind: "entries.set", table, ids, set: change } as StudioEdit]),
      onRefused: tellRefusal,
    }),
    remove: (table: StudioTable) => ({
      onRemove: (ids: readonly string[]) => void act([{ kind: "entries.remove", table, ids } as StudioEdit]),
    }),
  };
};

/** What is added to the studio. */
export const useStudioAdds = () => {
  const { rooms, people, colours } = useStudioDocument();
  const act = useStudioAct();
  const add = (entries: Extract<StudioEdit, { readonly kind: "entries.add" }>["entries"]) =>
    act([{ kind: "entries.add", entries }]);
  return {
    addRoom: () => add({ rooms: [{ id: nanoid(10) as RoomId, name: fresh("Room", entriesOf(rooms)) }] }),
    addPerson: () =>
      add({ people: [{ id: nanoid(10) as PersonId, name: fresh("Person", entriesOf(people)), performs: "none" }] }),
    addColour: () => add({ colours: [{ id: ownColourId(), name: fresh("Dye", entriesOf(colours)), ...NEW_COLOUR }] }),
  };
};

/** How far it reaches is said before: a template that has the dye is another document, and shows another dye then. */
export const useRemoveColours = () => {
  const { colours } = useStudioDocument();
  const act = useStudioAct();
  return async (ids: readonly string[]): Promise<void> => {
    const gone = (): void => void act([{ kind: "entries.remove", table: "colours", ids } as StudioEdit]);
    try {
      const uses = await Promise.all(ids.map((id) => api.colourUses(id)));
      const most = Math.max(0, ...uses.map(({ templates }) => templates));
      if (!most) return gone();
      const names = entriesOf(colours)
        .filter(({ id }) => ids.includes(id))
        .map(({ name }) => name);
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
};

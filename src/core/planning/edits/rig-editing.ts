import { type Command, refuse } from "../../commands/command";
import { rigEngine } from "../../commands/rig-engine";
import { calledOf } from "../../commands/tidy";
import { Work } from "../../commands/work";
import type { EntryOf } from "../../model/describe/fields";
import type { DeviceId, LinkId, PortId } from "../../model/ids";
import { RIG, type Rig, type RigTable, type RigTables } from "../../model/rig";
import { entriesOf } from "../../model/table";
import { PORTS } from "../../model/tables/ports";
import { type EntryEdit, type EntryPlanners, entryEdits } from "./entry-edits";
import { editingOf } from "./plan-edits";
import { type PlannerOf, toAll } from "./planner";

/** What people do to a rig: parts by table, and what concerns more than one table by names of its own. */
export type RigEdit =
  | EntryEdit<Omit<EntryOf<typeof RIG.header>, "name">, RigTables>
  | { readonly kind: "rig.strip" }
  | { readonly kind: "ports.name"; readonly names: readonly { readonly portId: PortId; readonly name: string }[] }
  | { readonly kind: "links.plug"; readonly linkId: LinkId; readonly deviceId: DeviceId | null };

type Of<K extends RigEdit["kind"]> = Extract<RigEdit, { readonly kind: K }>;

const idsWhere = <T extends { readonly id: string }>(
  table: Readonly<Record<string, T>>,
  is: (entry: T) => boolean,
): readonly string[] => entriesOf(table).flatMap((entry) => (is(entry) ? [entry.id] : []));

const setAll = (table: RigTable, ids: readonly string[], fields: object): readonly Command[] =>
  ids.length ? [{ kind: "set", table, values: toAll(ids, fields) }] : [];

const strip: PlannerOf<Rig, Of<"rig.strip">> = {
  plan: (rig) => [
    ...(["wires", "microphones", "feeds", "loops", "processors"] as const).flatMap((table): readonly Command[] => {
      const ids = Object.keys(rig[table]);
      return ids.length ? [{ kind: "remove", table, ids }] : [];
    }),
    ...setAll(
      "ports",
      idsWhere(rig.ports, ({ name }) => name !== ""),
      { name: "" },
    ),
    ...setAll(
      "midiPorts",
      idsWhere(rig.midiPorts, () => true),
      { usage: "nothing", name: "", returnPortIds: [] },
    ),
    ...setAll(
      "links",
      idsWhere(rig.links, ({ fromDeviceId }) => fromDeviceId !== null),
      { fromDeviceId: null },
    ),
    ...setAll(
      "devices",
      idsWhere(rig.devices, ({ clock }) => clock.kind === "follows"),
      { clock: { kind: "follows", linkId: null } },
    ),
  ],
  name: () => "Empty the rig to its bare devices",
};

const namePorts: PlannerOf<Rig, Of<"ports.name">> = {
  plan: (rig, { names }) => {
    if (!names.length) return refuse("empty", "", "No port was named.");
    const gone = names.find(({ portId }) => !rig.ports[portId]);
    if (gone)
      return refuse(
        "missing",
        gone.portId,
        "The port this was meant for is no longer there: it was removed in the meantime.",
      );
    const long = names.find(({ name }) => name.trim().length > 60);
    if (long)
      return refuse(
        "unfit",
        long.portId,
        `“${long.name.slice(0, 20)}…” is too long for a port: 60 characters at most.`,
      );
    return [
      {
        kind: "set",
        table: "ports",
        values: Object.fromEntries(names.map(({ portId, name }) => [portId, { name: name.trim() }])),
      },
    ];
  },
  name: (rig, { names }) => {
    const [first] = names;
    const port = names.length === 1 && first ? rig.ports[first.portId] : undefined;
    return port && first
      ? `Name ${calledOf(PORTS, port as never, new Work(RIG, rig))} ${first.name.trim() || "by its number"}`
      : `Name ${names.length} ports`;
  },
};

const plug: PlannerOf<Rig, Of<"links.plug">> = {
  plan: (rig, { linkId, deviceId }) => {
    if (!rig.links[linkId] || (deviceId !== null && !rig.devices[deviceId]))
      return refuse("missing", linkId, "The socket or the device this was meant for is no longer there.");
    if (rig.links[linkId].toDeviceId === deviceId)
      return refuse("unfit", linkId, "A device can't be plugged into itself.");
    const clock = deviceId ? rig.devices[deviceId]?.clock : undefined;
    return [
      { kind: "set", table: "links", values: { [linkId]: { fromDeviceId: deviceId } } },
      // A device that hangs on nothing yet takes its clock through what it is plugged into.
      ...(deviceId && clock?.kind === "follows" && !clock.linkId
        ? [{ kind: "set", table: "devices", values: { [deviceId]: { clock: { kind: "follows", linkId } } } } as const]
        : []),
    ];
  },
  name: (rig, { linkId, deviceId }) => {
    const link = rig.links[linkId];
    return deviceId ? `Plug ${rig.devices[deviceId]?.name} into ${link?.name}` : `Unplug ${link?.name}`;
  },
};

/** Everything that people do to a rig. */
export const rigEditing = editingOf<Rig, RigEdit>(rigEngine, {
  ...(entryEdits<Rig>(RIG) as EntryPlanners<Rig, RigEdit>),
  "rig.strip": strip,
  "ports.name": namePorts,
  "links.plug": plug,
});

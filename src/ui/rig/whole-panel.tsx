"use client";

import { Button } from "@mantine/core";
import { nanoid } from "nanoid";
import { type FormEvent, useState } from "react";
import type { DeviceId, PortId } from "@/core/model/ids";
import { MICROPHONE_KINDS, type MicrophoneKind, phantomAttitude } from "@/core/model/microphone-kinds";
import { devicesOf } from "@/core/model/read-rig";
import type { Rig } from "@/core/model/rig";
import { byOrder, entriesOf } from "@/core/model/table";
import { FEED_KINDS, type Feed } from "@/core/model/tables/feeds";
import type { HardwareLoop } from "@/core/model/tables/loops";
import type { Microphone } from "@/core/model/tables/microphones";
import type { Port } from "@/core/model/tables/ports";
import type { InstalledProcessor } from "@/core/model/tables/processors";
import type { Wire } from "@/core/model/tables/wires";
import { wireRun } from "@/core/planning/rig-plans";
import { nextFreePair } from "@/core/queries/free-outputs";
import { portsText, readNumber, readPorts } from "@/core/reading/rig-cells";
import { formatGain } from "@/core/units/decibels";
import { type PartColumn, PartTable } from "../parts/part-table";
import { Section } from "../parts/section";
import { tellRefusal } from "../shared/notices";
import classes from "./rig.module.css";
import { useRigAct, useRigDocument } from "./rig-context";

const KIND_NAMES: Readonly<Record<MicrophoneKind, string>> = {
  "moving-coil": "moving coil",
  "ribbon-passive": "passive ribbon",
  "ribbon-active": "active ribbon",
  condenser: "condenser",
  "di-passive": "passive DI box",
  "di-active": "active DI box",
  "line-source": "line source",
};
const FEED_NAMES: Readonly<Record<Feed["kind"], string>> = {
  monitors: "monitors",
  headphones: "headphones",
  "room-loudspeaker": "loudspeaker of a room",
  amplifier: "amplifier to record through again",
};
const PHANTOM_NAMES = { needs: "needs 48 V", tolerates: "tolerates it", endangered: "endangered by it" } as const;

const nameColumn = <T extends { readonly name: string }>(header: string, what: string): PartColumn<T & { readonly id: string }> => ({
  id: "name",
  header,
  text: (row) => row.name,
  editor: { kind: "text" },
  write: (name) => (name.trim() ? { name: name.trim() } : `A ${what} needs a name.`),
});

const portsColumn = <T,>(
  rig: Rig,
  { key, header, direction }: { readonly key: keyof T & string; readonly header: string; readonly direction: Port["direction"] },
): PartColumn<T> => ({
  id: key,
  header,
  width: 130,
  text: (row) => portsText(rig, row[key] as readonly PortId[]),
  editor: { kind: "text", placeholder: "3-4" },
  write: (text) => {
    const read = readPorts(rig, text, direction);
    if (!read.ok) return `${rig.name} has no ${direction === "in" ? "input" : "output"} ${read.missing}.`;
    return read.portIds.length ? { [key]: read.portIds } : `Type the ${direction === "in" ? "inputs" : "outputs"} by number, as 3-4.`;
  },
});

const microphoneColumns: readonly PartColumn<Microphone>[] = [
  nameColumn("Microphone or box", "microphone"),
  {
    id: "kind",
    header: "Kind",
    width: 130,
    text: (item) => item.kind,
    editor: { kind: "choice", options: () => MICROPHONE_KINDS.map((value) => ({ value, label: KIND_NAMES[value] })) },
    write: (kind) => ({ kind, phantom: phantomAttitude(kind as MicrophoneKind) }),
  },
  {
    id: "phantom",
    header: "Phantom",
    width: 130,
    text: (item) => item.phantom,
    editor: { kind: "choice", options: () => (["needs", "tolerates", "endangered"] as const).map((value) => ({ value, label: PHANTOM_NAMES[value] })) },
    write: (phantom) => ({ phantom }),
  },
  {
    id: "sensitivity",
    header: "mV/Pa",
    width: 70,
    text: (item) => (item.sensitivityMvPerPa === null ? "" : String(item.sensitivityMvPerPa)),
    editor: { kind: "number" },
    write: (text) => {
      const value = readNumber(text, { min: 0.001, max: 1000 });
      if (!text.trim()) return { sensitivityMvPerPa: null };
      return value === null ? "Type the sensitivity in mV/Pa, from 0.001 to 1000, or nothing." : { sensitivityMvPerPa: value };
    },
  },
  {
    id: "capsules",
    header: "Capsules",
    width: 140,
    text: (item) => item.capsules.join(", "),
    editor: { kind: "text", placeholder: "one" },
    write: (text) => ({
      capsules: text
        .split(",")
        .map((word) => word.trim())
        .filter(Boolean),
    }),
  },
  {
    id: "count",
    header: "How many",
    width: 78,
    text: (item) => String(item.count),
    editor: { kind: "number" },
    write: (text) => {
      const count = readNumber(text, { min: 1, max: 999, whole: true });
      return count === null ? "Type how many there are, from 1 on." : { count };
    },
  },
];

const processorColumns: readonly PartColumn<InstalledProcessor>[] = [
  nameColumn("Processor", "processor"),
  { id: "version", header: "Version", width: 110, text: (item) => item.version, editor: { kind: "text" }, write: (version) => ({ version: version.trim() }) },
  { id: "kind", header: "What it does", width: 260, text: (item) => item.kind, editor: { kind: "text" }, write: (kind) => ({ kind: kind.trim() }) },
];

const wireColumns = (rig: Rig): readonly PartColumn<Wire>[] => {
  const end = (id: PortId) => {
    const port = rig.ports[id];
    return port ? `${rig.devices[port.deviceId]?.name} ${port.direction === "out" ? "output" : "input"} ${port.number}` : "";
  };
  return [
    { id: "from", header: "From", text: (wire) => end(wire.fromPortId) },
    { id: "to", header: "To", text: (wire) => end(wire.toPortId) },
  ];
};

/** Wires run by run: outputs of one device to inputs of another, in ascending order. */
const WireRunForm = () => {
  const rig = useRigDocument();
  const act = useRigAct();
  const devices = devicesOf(rig);
  const having = (direction: Port["direction"]) => devices.filter((device) => entriesOf(rig.ports).some((port) => port.deviceId === device.id && port.direction === direction));
  const [outputs, inputs] = [having("out"), having("in")];
  const [fromChosen, setFrom] = useState("");
  const [toChosen, setTo] = useState("");
  const to = toChosen || inputs[0]?.id || "";
  // A lead from a device to itself is rarely meant.
  const from = fromChosen || (outputs.find((device) => device.id !== to) ?? outputs[0])?.id || "";
  const [fromNumber, setFromNumber] = useState("1");
  const [toNumber, setToNumber] = useState("1");
  const [count, setCount] = useState("2");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const made = wireRun(rig, {
      from: from as DeviceId,
      fromNumber: Number(fromNumber),
      to: to as DeviceId,
      toNumber: Number(toNumber),
      count: Number(count),
    });
    if (typeof made === "string") tellRefusal(made);
    else act([made]);
  };
  const choose = (label: string, value: string, set: (value: string) => void, options: ReturnType<typeof devicesOf>) => (
    <label>
      {label}
      <select value={value} onChange={(event) => set(event.target.value)}>
        {options.map((device) => (
          <option key={device.id} value={device.id}>
            {device.name}
          </option>
        ))}
      </select>
    </label>
  );
  const number = (label: string, value: string, set: (value: string) => void) => (
    <label>
      {label}
      <input inputMode="numeric" value={value} onChange={(event) => set(event.target.value)} />
    </label>
  );
  return (
    <form className={classes.run} onSubmit={submit} aria-label="Wire a run">
      {choose("From", from, setFrom, outputs)}
      {number("output", fromNumber, setFromNumber)}
      {choose("to", to, setTo, inputs)}
      {number("input", toNumber, setToNumber)}
      {number("how many", count, setCount)}
      <Button type="submit" variant="default" size="compact-md">
        Wire them
      </Button>
    </form>
  );
};

const firstPort = (rig: Rig, direction: Port["direction"]) =>
  entriesOf(rig.ports)
    .filter((port) => port.direction === direction && port.running !== null)
    .sort((a, b) => (a.running ?? 0) - (b.running ?? 0))[0]?.id;

/** What belongs to no single device: wiring, listening, control room, sends and returns, shelf, processors. */
export const WholePanel = () => {
  const rig = useRigDocument();
  const act = useRigAct();
  const set = (table: "wires" | "feeds" | "loops" | "microphones" | "processors") => ({
    onSet: (ids: readonly string[], change: Readonly<Record<string, unknown>>) => act([{ kind: "parts.set", table, ids, set: change }]),
    onRemove: (ids: readonly string[]) => void act([{ kind: "parts.remove", table, ids }]),
    onRefused: tellRefusal,
  });
  const add = (table: "feeds" | "loops" | "microphones" | "processors", part: object) => act([{ kind: "parts.add", parts: { [table]: [{ id: nanoid(10), ...part }] } as never }]);
  const [output, input] = [firstPort(rig, "out"), firstPort(rig, "in")];
  const freePair = nextFreePair(rig);
  const feeds = entriesOf(rig.feeds).sort(byOrder);
  const shelf = entriesOf(rig.microphones).sort(byOrder);
  const feedColumns: readonly PartColumn<Feed>[] = [
    nameColumn("Place", "listening place"),
    {
      id: "kind",
      header: "What it is",
      width: 200,
      text: (feed) => feed.kind,
      editor: { kind: "choice", options: () => FEED_KINDS.map((value) => ({ value, label: FEED_NAMES[value] })) },
      write: (kind) => ({ kind }),
    },
    portsColumn<Feed>(rig, { key: "portIds", header: "Outputs", direction: "out" }),
    { id: "who", header: "Who or which room", width: 190, text: (feed) => feed.who, editor: { kind: "text", placeholder: "nobody yet" }, write: (who) => ({ who: who.trim() }) },
  ];
  const loopColumns: readonly PartColumn<HardwareLoop>[] = [
    nameColumn("Send and return", "send and return"),
    portsColumn<HardwareLoop>(rig, { key: "sendPortIds", header: "Goes out on", direction: "out" }),
    portsColumn<HardwareLoop>(rig, { key: "returnPortIds", header: "Comes back on", direction: "in" }),
  ];
  const dim: readonly PartColumn<Rig>[] = [
    {
      id: "dim",
      header: "Dim dB",
      width: 120,
      text: () => formatGain(rig.dimDb),
      editor: { kind: "number" },
      write: (text) => {
        const value = readNumber(text, { min: -100, max: 0 });
        return value === null ? "Dim takes the monitors down: from −100 to 0 dB." : { dimDb: value };
      },
    },
    { id: "sets", header: "Sets of monitors", text: () => feeds.flatMap((feed) => (feed.kind === "monitors" ? [feed.name] : [])).join(", ") || "none yet: add a listening place" },
  ];
  return (
    <>
      <Section title="Wiring" hint="Outside preamps, outboard and whatever else is joined by leads.">
        <WireRunForm />
        <PartTable
          label="Wires"
          rows={entriesOf(rig.wires)}
          columns={wireColumns(rig)}
          nameOf={(wire) =>
            wireColumns(rig)
              .map((column) => column.text(wire))
              .join(" to ")
          }
          {...set("wires")}
          selectable
          empty="Nothing is wired yet."
        />
      </Section>
      <Section
        title="Listening"
        hint="What outputs lead to, and who hears it."
        actions={
          output && (
            <Button
              variant="default"
              size="compact-sm"
              disabled={!freePair}
              title={freePair ? undefined : "Every output is in use already"}
              onClick={() => freePair && add("feeds", { name: `Headphones ${feeds.length + 1}`, kind: "headphones", portIds: freePair, who: "" })}
            >
              Add a listening place
            </Button>
          )
        }
      >
        <PartTable label="Listening places" rows={feeds} columns={feedColumns} nameOf={(feed) => feed.name} {...set("feeds")} empty="No output leads anywhere yet." />
      </Section>
      <Section title="Control room">
        <PartTable
          label="Control room"
          rows={[rig]}
          columns={dim}
          nameOf={() => "the control room"}
          onSet={(_ids, change) => act([{ kind: "settings.set", set: change }])}
          onRefused={tellRefusal}
          empty=""
        />
      </Section>
      <Section
        title="Sends and returns"
        hint="Out to a box or a room, and back in."
        actions={
          output &&
          input && (
            <Button
              variant="default"
              size="compact-sm"
              onClick={() => add("loops", { name: `Loop ${entriesOf(rig.loops).length + 1}`, sendPortIds: [output], returnPortIds: [input] })}
            >
              Add a send and return
            </Button>
          )
        }
      >
        <PartTable
          label="Sends and returns"
          rows={entriesOf(rig.loops)}
          columns={loopColumns}
          nameOf={(loop) => loop.name}
          {...set("loops")}
          empty="No hardware send comes back yet."
        />
      </Section>
      <Section
        title="Shelf"
        hint="Microphones and boxes there are here."
        actions={
          <Button
            variant="default"
            size="compact-sm"
            onClick={() =>
              add("microphones", {
                name: `Microphone ${shelf.length + 1}`,
                kind: "moving-coil",
                phantom: "tolerates",
                sensitivityMvPerPa: null,
                capsules: [],
                count: 1,
              })
            }
          >
            Add to the shelf
          </Button>
        }
      >
        <PartTable label="Shelf" rows={shelf} columns={microphoneColumns} nameOf={(item) => item.name} {...set("microphones")} selectable empty="The shelf is empty." />
      </Section>
      <Section
        title="Processors installed here"
        actions={
          <Button variant="default" size="compact-sm" onClick={() => add("processors", { name: `Processor ${entriesOf(rig.processors).length + 1}`, version: "", kind: "" })}>
            Add a processor
          </Button>
        }
      >
        <PartTable label="Processors" rows={entriesOf(rig.processors)} columns={processorColumns} nameOf={(item) => item.name} {...set("processors")} empty="None is listed." />
      </Section>
    </>
  );
};

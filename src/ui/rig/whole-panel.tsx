"use client";

import { Button } from "@mantine/core";
import { nanoid } from "nanoid";
import type { Rig } from "@/core/model/rig";
import { byOrder, entriesOf } from "@/core/model/table";
import type { Port } from "@/core/model/tables/ports";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import { nextFreePair } from "@/core/queries/free-outputs";
import { PartTable } from "../parts/part-table";
import { Section } from "../parts/section";
import { tellRefusal } from "../shared/notices";
import { useRigAct, useRigDocument } from "./rig-context";
import {
  dimColumns,
  feedColumns,
  loopColumns,
  microphoneColumns,
  processorColumns,
  wireColumns,
} from "./whole-columns";
import { WireRunForm } from "./wire-run-form";

const firstPort = (rig: Rig, direction: Port["direction"]) =>
  entriesOf(rig.ports)
    .filter((port) => port.direction === direction && port.running !== null)
    .sort((a, b) => (a.running ?? 0) - (b.running ?? 0))[0]?.id;

const newId = <T extends string>(): T => nanoid(10) as T;

/** What an edit of a table of the rig's does. */
const useTables = () => {
  const act = useRigAct();
  return {
    act,
    set: (table: "wires" | "feeds" | "loops" | "microphones" | "processors") => ({
      onSet: (ids: readonly string[], change: Readonly<Record<string, unknown>>) =>
        act([{ kind: "entries.set", table, ids, set: change } as RigEdit]),
      onRemove: (ids: readonly string[]) => void act([{ kind: "entries.remove", table, ids } as RigEdit]),
      onRefused: tellRefusal,
    }),
    add: (entries: Extract<RigEdit, { readonly kind: "entries.add" }>["entries"]) =>
      act([{ kind: "entries.add", entries }]),
  };
};

const Wiring = () => {
  const rig = useRigDocument();
  const { set } = useTables();
  return (
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
  );
};

const Listening = () => {
  const rig = useRigDocument();
  const { set, add, act } = useTables();
  const output = firstPort(rig, "out");
  const freePair = nextFreePair(rig);
  const feeds = entriesOf(rig.feeds).sort(byOrder);
  return (
    <>
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
              onClick={() =>
                freePair &&
                add({
                  feeds: [
                    { id: newId(), name: `Headphones ${feeds.length + 1}`, kind: "headphones", portIds: freePair },
                  ],
                })
              }
            >
              Add a listening place
            </Button>
          )
        }
      >
        <PartTable
          label="Listening places"
          rows={feeds}
          columns={feedColumns(rig)}
          nameOf={(feed) => feed.name}
          {...set("feeds")}
          empty="No output leads anywhere yet."
        />
      </Section>
      <Section title="Control room">
        <PartTable
          label="Control room"
          rows={[rig]}
          columns={dimColumns(rig, feeds)}
          nameOf={() => "the control room"}
          onSet={(_ids, change) => act([{ kind: "settings.set", set: change }])}
          onRefused={tellRefusal}
          empty=""
        />
      </Section>
    </>
  );
};

const SendsAndReturns = () => {
  const rig = useRigDocument();
  const { set, add } = useTables();
  const [output, input] = [firstPort(rig, "out"), firstPort(rig, "in")];
  return (
    <Section
      title="Sends and returns"
      hint="Out to a box or a room, and back in."
      actions={
        output &&
        input && (
          <Button
            variant="default"
            size="compact-sm"
            onClick={() =>
              add({
                loops: [
                  {
                    id: newId(),
                    name: `Loop ${entriesOf(rig.loops).length + 1}`,
                    sendPortIds: [output],
                    returnPortIds: [input],
                  },
                ],
              })
            }
          >
            Add a send and return
          </Button>
        )
      }
    >
      <PartTable
        label="Sends and returns"
        rows={entriesOf(rig.loops)}
        columns={loopColumns(rig)}
        nameOf={(loop) => loop.name}
        {...set("loops")}
        empty="No hardware send comes back yet."
      />
    </Section>
  );
};

const Shelf = () => {
  const rig = useRigDocument();
  const { set, add } = useTables();
  const shelf = entriesOf(rig.microphones).sort(byOrder);
  return (
    <>
      <Section
        title="Shelf"
        hint="Microphones and boxes there are here."
        actions={
          <Button
            variant="default"
            size="compact-sm"
            onClick={() =>
              add({
                microphones: [
                  {
                    id: newId(),
                    name: `Microphone ${shelf.length + 1}`,
                    kind: "moving-coil",
                    phantom: "tolerates",
                    count: 1,
                  },
                ],
              })
            }
          >
            Add to the shelf
          </Button>
        }
      >
        <PartTable
          label="Shelf"
          rows={shelf}
          columns={microphoneColumns}
          nameOf={(item) => item.name}
          {...set("microphones")}
          selectable
          empty="The shelf is empty."
        />
      </Section>
      <Section
        title="Processors installed here"
        actions={
          <Button
            variant="default"
            size="compact-sm"
            onClick={() =>
              add({ processors: [{ id: newId(), name: `Processor ${entriesOf(rig.processors).length + 1}` }] })
            }
          >
            Add a processor
          </Button>
        }
      >
        <PartTable
          label="Processors"
          rows={entriesOf(rig.processors)}
          columns={processorColumns}
          nameOf={(item) => item.name}
          {...set("processors")}
          empty="None is listed."
        />
      </Section>
    </>
  );
};

/** What belongs to no single device: wiring, listening, control room, sends and returns, shelf, processors. */
export const WholePanel = () => (
  <>
    <Wiring />
    <Listening />
    <SendsAndReturns />
    <Shelf />
  </>
);

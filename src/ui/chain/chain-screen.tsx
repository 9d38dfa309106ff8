"use client";

import {
  DndContext,
  type DragEndEvent,
  getClientRect,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { Button } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { IconArrowLeft, IconCopy } from "@tabler/icons-react";
import { type KeyboardEvent, useCallback, useMemo, useState } from "react";
import { type ChainItem, chainPicture, type ProcessorItem } from "@/core/layout/chain/chain-picture";
import { channelColour } from "@/core/layout/channel-colour";
import { UNCOLOURED } from "@/core/model/colours";
import type { ChainId, ChainProcessorId, ChannelId } from "@/core/model/ids";
import type { Channel } from "@/core/model/tables/channels";
import type { Template } from "@/core/model/template";
import { countChannels } from "@/core/planning/edits/channel-edits";
import { processorsOf } from "@/core/queries/chains";
import { chainDelay, delayContext } from "@/core/timing/arrivals";
import { counted } from "@/core/units/counted";
import { formatMs, samplesToMs } from "@/core/units/milliseconds";
import type { Act } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { FindingsPanel } from "../frame/findings-later";
import { type Moving, usePageActs } from "../frame/page-acts";
import { ShownProvider } from "../grid/shown";
import { PageLink } from "../shared/page-link";
import { useDesk, usePlace, useRig } from "../state/desk-context";
import { dyeVar, onDyeVar } from "../theme/tokens";
import classes from "./chain.module.css";
import { ChainThread } from "./chain-thread";
import { KeptChains, Needs } from "./kept-chains";
import { ProcessorPanel } from "./processor-panel";
import { type ChainActs, useChainActs } from "./use-chain-acts";

const MEASURING = { droppable: { measure: getClientRect } };

const focusItem = (id: string): void => document.getElementById(`chain-${id}`)?.focus();

const FROM_TO: { readonly [K in Channel["kind"]]: string } = {
  track: "from the line to its bus",
  bus: "from what it sums to where it goes",
  return: "from what is sent to where it goes",
  instrument: "from what plays it to its outputs",
  reference: "from its file to where it is heard",
  click: "from the beat to where it is heard",
  talkback: "from the control room to where it is heard",
  main: "from what it sums to the outputs",
};

const Gone = ({ place }: { readonly place: string }) => (
  <section className={classes.work} aria-label="Chain">
    <h1>This channel is no longer there</h1>
    <p>
      It was removed in the meantime. <PageLink href={`${place}/flow`}>Back to the signal flow</PageLink>; an undo
      brings it back.
    </p>
  </section>
);

type OnThread = Extract<ChainItem, { readonly kind: "processor" | "place" }>;

interface Keyed {
  readonly items: readonly OnThread[];
  readonly acts: ChainActs;
  readonly close: () => void;
}

/** Along the thread by arrows; with Shift a processor is moved along it. */
const onKey = ({ items, acts, close }: Keyed, event: KeyboardEvent): void => {
  if (event.altKey || event.ctrlKey || event.metaKey) return;
  const at = items.findIndex(({ id }) => `chain-${id}` === (event.target as Element).id);
  const item = items[at];
  if (!item) return;
  const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
  if (event.key === "Escape") close();
  else if (step && !event.shiftKey) {
    event.preventDefault();
    const to = items[at + step];
    if (to) focusItem(to.id);
  } else if (item.kind === "processor") onProcessorKey({ items, acts, close }, item, event);
};

/** What keys do to the processor that has the focus. */
const onProcessorKey = ({ items, acts }: Keyed, item: ProcessorItem, event: KeyboardEvent): void => {
  const { key } = event;
  if (!["ArrowRight", "ArrowLeft", "Delete", " "].includes(key)) return;
  event.preventDefault();
  if (key === " ") acts.bypass(item.processor.id);
  else if (key !== "Delete") moveAlong(items, item, { step: key === "ArrowRight" ? 1 : -1, acts });
  else {
    const at = items.indexOf(item);
    const next =
      items.find((other, index) => other.kind === "processor" && index > at) ?? items[at - 2] ?? items.at(-1);
    acts.remove(item.processor.id);
    if (next) setTimeout(() => focusItem(next.id));
  }
};

const moveAlong = (
  items: readonly OnThread[],
  item: ProcessorItem,
  { step, acts }: { readonly step: number; readonly acts: ChainActs },
): void => {
  const row = items.flatMap((one) =>
    one.kind === "processor" && one.processor.splitId === item.processor.splitId ? [one.processor] : [],
  );
  const at = row.findIndex(({ id }) => id === item.processor.id);
  const before = step > 0 ? (row[at + 2]?.id ?? null) : row[at - 1]?.id;
  if (before === undefined || (step > 0 && at === row.length - 1)) return;
  acts.move(item.processor.id, before);
  setTimeout(() => focusItem(item.id));
};

const Head = ({ channel, acts }: { readonly channel: Channel; readonly acts: ChainActs }) => {
  const doc = useDesk((desk) => desk.doc);
  const place = usePlace();
  const rig = useRig();
  const processors = processorsOf(doc, channel.id);
  const late = chainDelay(doc, channel.id, delayContext(doc, rig));
  return (
    <div className={classes.head}>
      <PageLink href={`${place}/flow`} className={classes.back} aria-label="Back to the signal flow">
        <IconArrowLeft size={18} stroke={1.8} aria-hidden />
      </PageLink>
      <span className={classes.dot} style={{ background: colourOf(doc, channel) }} />
      <h1>{countChannels(doc, [channel.id])}</h1>
      <span className={classes.aside}>
        {FROM_TO[channel.kind]}
        {processors.length > 0 && ` · ${counted(processors.length, "processor")}`}
        {late > 0 && ` · ${late} samples late, ${formatMs(samplesToMs(late, doc.format.sampleRateHz))}`}
      </span>
      {processors.length > 0 && (
        <>
          <Button
            variant="default"
            size="compact-md"
            leftSection={<IconCopy size={15} aria-hidden />}
            onClick={acts.copy}
          >
            Copy to…
          </Button>
          <Button variant="default" size="compact-md" onClick={acts.keep}>
            Keep as a chain…
          </Button>
        </>
      )}
    </div>
  );
};

const colourOf = (doc: Template, channel: Channel): string => {
  const dye = channelColour(doc, channel);
  return dye ? dyeVar(dye) : "var(--ink)";
};

/** How the end of the thread is drawn: dyed as the bus that it leads to. */
const endOf = (doc: Template, channel: Channel) => {
  const next = channel.output.kind === "channel" ? doc.channels[channel.output.channelId] : undefined;
  if (next?.kind !== "bus") return { fill: "var(--ink)", ink: "var(--raised)" };
  const dye = channelColour(doc, next) ?? UNCOLOURED;
  return { fill: dyeVar(dye), ink: onDyeVar(dye) };
};

/** What is dropped on the thread: a processor is moved along it, a kept chain is put on it. */
const onDragEnd =
  (acts: ChainActs) =>
  ({ active, over }: DragEndEvent): void => {
    const { processorId, chainId } = (active.data.current ?? {}) as {
      readonly processorId?: ChainProcessorId;
      readonly chainId?: ChainId;
    };
    if (!over) return;
    if (chainId) acts.put(chainId);
    else if (processorId && over.data.current?.before !== processorId)
      acts.move(processorId, (over.data.current?.before ?? null) as ChainProcessorId | null);
  };

const MOVING: Moving = [
  ["← →", "Along the thread"],
  ["Shift ← →", "Move the processor along it"],
  ["Enter", "Open a processor; add one between two"],
  ["Space", "Bypass, or take in"],
  ["Esc", "Close the processor"],
];

/** To the first field of the processor that is open. */
const focusSettings = (): void =>
  document.querySelector<HTMLElement>("#processor-panel input:not([type=radio])")?.focus();

/** What can be done to the processor that is open. */
const openActs = (acts: ChainActs, openId: ChainProcessorId | null): readonly Act[] => {
  const whyNot = openId ? undefined : "Open a processor first.";
  const on = (does: (id: ChainProcessorId) => void) => (): void => {
    if (openId) does(openId);
  };
  return [
    { id: "edit", label: "Type the settings of the processor", key: keyOf("edit"), whyNot, run: focusSettings },
    { id: "bypass", label: "Bypass the processor, or take it in", key: keyOf("switch"), whyNot, run: on(acts.bypass) },
    { id: "remove", label: "Remove the processor", key: keyOf("remove"), whyNot, run: on(acts.remove) },
    { id: "steer", label: "Let another channel steer it…", whyNot, run: on(acts.steer) },
    { id: "branch", label: "Put it beside the line, in a branch", whyNot, run: on(acts.branch) },
  ];
};

/** The chain of a channel: its thread from where it comes in to where it goes, and one of its processors open below. */
export const ChainScreen = ({ channelId }: { readonly channelId: ChannelId }) => {
  const doc = useDesk((desk) => desk.doc);
  const place = usePlace();
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const rig = useRig();
  const [openId, setOpenId] = useState<ChainProcessorId | null>(null);
  const { ref, width } = useElementSize();
  const picture = useMemo(
    () => chainPicture(doc, rig, { channelId, width: Math.max(480, width) }),
    [doc, rig, channelId, width],
  );
  const made = useCallback((id: ChainProcessorId): void => {
    setOpenId(id);
    setTimeout(() => focusItem(id), 60);
  }, []);
  const acts = useChainActs(channelId, made);
  const gather = useCallback((): readonly Act[] => [...acts.pageActs(), ...openActs(acts, openId)], [acts, openId]);
  usePageActs(gather, "the chain", MOVING);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const channel = doc.channels[channelId];
  const shown = useMemo(() => [channelId, openId] as unknown as readonly ChannelId[], [channelId, openId]);
  if (!channel || !picture) return <Gone place={place} />;
  const processors = processorsOf(doc, channelId);
  const open = processors.find(({ id }) => id === openId) ?? null;
  const who = countChannels(doc, [channelId]);
  const items = picture.items.filter((item): item is OnThread => item.kind === "processor" || item.kind === "place");
  return (
    <ShownProvider value={{ doc, cursor: null, selected: shown }}>
      <DndContext
        sensors={sensors}
        collisionDetection={pointerWithin}
        measuring={MEASURING}
        onDragEnd={onDragEnd(acts)}
      >
        <div className={classes.screen}>
          <section className={classes.work} aria-label="Chain">
            <Head channel={channel} acts={acts} />
            <div ref={ref} className={classes.scroll}>
              {width > 0 && (
                <ChainThread
                  doc={doc}
                  picture={picture}
                  label={`Thread of ${who}`}
                  colour={colourOf(doc, channel)}
                  end={endOf(doc, channel)}
                  openId={open?.id ?? null}
                  current={open?.id ?? null}
                  onOpen={(item) => setOpenId(item.processor.id === openId ? null : item.processor.id)}
                  onAdd={(before) => acts.add(before as ChainProcessorId | null)}
                  onKeyDown={(event) => onKey({ items, acts, close: () => setOpenId(null) }, event)}
                />
              )}
            </div>
            {open ? (
              <ProcessorPanel
                key={open.id}
                doc={doc}
                processor={open}
                colour={colourOf(doc, channel)}
                onSteer={() => acts.steer(open.id)}
                onBranch={() => acts.branch(open.id)}
                onRemove={() => acts.remove(open.id)}
              />
            ) : (
              <p className={classes.told}>
                {processors.length
                  ? "Open a processor to set it. Arrows go along the thread, Shift with them moves a processor, Space bypasses it, Delete takes it off."
                  : `${who} passes nothing on its way. Add a processor by the + on its thread, for example a high-pass, or put a kept chain on it.`}
              </p>
            )}
          </section>
          {findingsOpen ? (
            <FindingsPanel />
          ) : (
            <aside className={classes.side} aria-label="Chains">
              <KeptChains who={who} onPut={acts.put} onForget={acts.forget} />
              <Needs processors={processors} rig={rig} />
            </aside>
          )}
        </div>
      </DndContext>
    </ShownProvider>
  );
};

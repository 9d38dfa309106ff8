import { useMemo } from "react";
import type { ChainId, ChainProcessorId, ChannelId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import { STUDIO_ID } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import type { Chain } from "@/core/model/tables/chains";
import { KIND_WORDS, processorName } from "@/core/model/tables/processor-names";
import { PROCESSOR_KIND_NAMES, type ProcessorKind } from "@/core/model/tables/processor-settings";
import { newSideChain } from "@/core/model/tables/side-chains";
import {
  branchOff,
  channelChoices,
  copyChain,
  isEffect,
  keepChain,
  keptChainNamed,
  loopChoices,
  processorChoice,
  processorChoices,
  putChain,
  putEffect,
  putInsert,
  putProcessor,
  replacedInWords,
} from "@/core/planning/chain-plans";
import { countChannels } from "@/core/planning/edits/channel-edits";
import { type StudioEdit, studioEditing } from "@/core/planning/edits/studio-editing";
import type { Planned } from "@/core/planning/gesture";
import { processorsOf } from "@/core/queries/chains";
import { readHz } from "@/core/units/hertz";
import type { Act } from "../acts/act-model";
import { askChannels, askOne, askTexts } from "../acts/chain-dialogs";
import { keyOf } from "../acts/chords";
import { askFirst } from "../acts/route-dialogs";
import { newIds } from "../grid/grid-focus";
import { api } from "../shared/api";
import { tell, tellRefusal } from "../shared/notices";
import { type Doing, useDeskStore, useDoing, useRig } from "../state/desk-context";
import type { DeskStore } from "../state/desk-store";
import { editElsewhere } from "../state/edit-elsewhere";

const told = (error: unknown): void =>
  tellRefusal(error instanceof Error ? error.message : "The server could not be reached; nothing was kept. Try again.");

/**
 * Edits the studio, and shows it so at once: the server tells all windows, but one that has only just opened may not
 * hear it yet.
 */
const editStudio = async (desk: DeskStore, edits: readonly StudioEdit[]): Promise<void> => {
  await editElsewhere({ remote: api.studio, editing: studioEditing, id: STUDIO_ID }, edits);
  desk.setState({ studio: (await api.loadStudio()).document });
};

const AFTER_EFFECT = "effect ";
const INSERT = "loop ";

export interface ChainActs {
  /** Asks which processor should be put before another, or at the end. */
  readonly add: (before: ChainProcessorId | null) => void;
  readonly put: (chainId: ChainId) => void;
  readonly forget: (chain: Chain) => void;
  readonly steer: (id: ChainProcessorId) => void;
  readonly branch: (id: ChainProcessorId) => void;
  readonly remove: (id: ChainProcessorId) => void;
  readonly bypass: (id: ChainProcessorId) => void;
  readonly move: (id: ChainProcessorId, before: ChainProcessorId | null) => void;
  readonly copy: () => void;
  readonly keep: () => void;
  readonly pageActs: () => readonly Act[];
}

/** Where the acts are done: on the chain of a channel, of the document as it is by then. */
interface Here extends Pick<Doing, "act" | "actPlanned"> {
  readonly desk: DeskStore;
  readonly rig: Rig;
  readonly channelId: ChannelId;
  readonly onMade: (id: ChainProcessorId) => void;
}

const docOf = ({ desk }: Here) => desk.getState().doc;
const who = (here: Here): string => countChannels(docOf(here), [here.channelId]);
const idsIn = (here: Here): ReadonlySet<string> =>
  new Set(processorsOf(docOf(here), here.channelId).map(({ id }) => id as string));

/** Does a plan, and tells which processor it put in. */
const putIn = (here: Here, plan: Planned): boolean => {
  const before = idsIn(here);
  const done = here.actPlanned(plan);
  const fresh = processorsOf(docOf(here), here.channelId).find(({ id }) => !before.has(id));
  if (done && fresh) here.onMade(fresh.id);
  return done;
};

const putChoice = (here: Here, choiceId: string, before: ChainProcessorId | null): boolean => {
  const choice = processorChoice(choiceId);
  return (
    choice !== null &&
    putIn(here, putProcessor(docOf(here), { ...choice, channelIds: [here.channelId], before, ids: newIds }))
  );
};

/** What was chosen to be put in: a kind, an effect on a return, or a way out to hardware and back. */
const putChosen = (here: Here, value: string, before: ChainProcessorId | null): boolean => {
  const [doc, channelIds] = [docOf(here), [here.channelId]];
  if (value.startsWith(AFTER_EFFECT)) {
    const kind = value.slice(AFTER_EFFECT.length) as ProcessorKind;
    return here.actPlanned(putEffect(doc, { kind, channelIds, ids: newIds }));
  }
  if (!value.startsWith(INSERT)) return putChoice(here, value, before);
  const loopId = value.slice(INSERT.length);
  return putIn(here, putInsert(doc, here.rig, { loopId, channelIds, before, ids: newIds }));
};

/** Asks which processor should be put before another, or at the end. */
const askProcessor = (here: Here, before: ChainProcessorId | null): void => {
  const doc = docOf(here);
  const at = before ? doc.processors[before] : undefined;
  const effects = PROCESSOR_KIND_NAMES.filter((kind) => isEffect(kind, doc, [here.channelId]));
  askOne({
    title: at ? `Add before the ${processorName(at).toLowerCase()}` : `Add to ${who(here)}`,
    label: "Processor",
    options: [
      ...processorChoices(doc, [here.channelId]).map(({ id, kind, label }) => ({
        value: id,
        label: effects.includes(kind) ? `${label} in the chain` : label,
      })),
      ...effects.map((kind) => ({
        value: `${AFTER_EFFECT}${kind}`,
        label: `${KIND_WORDS[kind]} on a return, with a send`,
      })),
      ...loopChoices(here.rig).map(({ id, name }) => ({ value: `${INSERT}${id}`, label: `Hardware insert: ${name}` })),
    ],
    does: "Add it",
    onDo: (value) => putChosen(here, value, before),
  });
};

const putKept = (here: Here, chainId: ChainId): void => {
  const says = replacedInWords(docOf(here), [here.channelId]);
  const { studio } = here.desk.getState();
  const does = (): void =>
    void here.actPlanned(putChain(docOf(here), studio, { chainId, channelIds: [here.channelId], ids: newIds }));
  const name = studio.chains[chainId]?.name ?? "the chain";
  if (says) askFirst({ title: `Put ${name} on ${who(here)}`, says, does: `Put ${name} on`, onDo: does });
  else does();
};

const askForget = ({ desk }: Here, { id, name }: Chain): void =>
  askFirst({
    title: `No longer keep ${name}`,
    says: "It goes from the studio, for all templates. Channels that it was put on keep what they have.",
    does: `Remove ${name}`,
    onDo: () => void editStudio(desk, [{ kind: "entries.remove", table: "chains", ids: [id] }]).catch(told),
  });

const askKeep = (here: Here): void => {
  const { desk, channelId } = here;
  askTexts({
    title: `Keep the chain of ${who(here)}`,
    fields: [{ label: "Name", value: who(here) }],
    does: "Keep the chain",
    says: ([name = ""]) => {
      const same = keptChainNamed(desk.getState().studio, name);
      return same ? `There is a chain called ${same.name}; it is replaced.` : null;
    },
    onDo: ([name = ""]) => {
      const plan = keepChain(docOf(here), desk.getState().studio, { channelId, name, ids: newIds });
      if (!plan.ok) tellRefusal(plan.message);
      else
        void editStudio(desk, plan.edits)
          .then(() => tell(plan.says))
          .catch(told);
      return plan.ok;
    },
  });
};

const askCopy = (here: Here): void => {
  const { channelId, actPlanned } = here;
  askChannels({
    title: `Copy the chain of ${who(here)}`,
    label: "To",
    options: channelChoices(docOf(here), [channelId]).map(({ id, label }) => ({ value: id, label })),
    does: "Copy the chain",
    says: (ids) => replacedInWords(docOf(here), ids as readonly ChannelId[]),
    onDo: (ids) =>
      actPlanned(copyChain(docOf(here), { fromId: channelId, toIds: ids as readonly ChannelId[], ids: newIds })),
  });
};

/** The band that a detector hears, as it is typed: open where nothing is; answers the text that is no frequency. */
const readBand = (texts: readonly string[]) => {
  const [lowHz = null, highHz = null] = texts.map((text) => (text.trim() ? readHz(text) : null));
  const odd = texts.find((text, at) => text.trim() && [lowHz, highHz][at] === null);
  return { lowHz, highHz, odd };
};

const askSteering = (here: Here, id: ChainProcessorId): void => {
  const doc = docOf(here);
  const processor = doc.processors[id];
  if (!processor) return;
  askChannels({
    title: `What steers the ${processorName(processor).toLowerCase()} of ${who(here)}`,
    label: "Steered by",
    options: channelChoices(doc, [here.channelId]).map((channel) => ({ value: channel.id, label: channel.label })),
    texts: [
      { label: "The detector hears from, Hz", value: "", description: "Empty: from the lowest." },
      { label: "The detector hears up to, Hz", value: "", description: "Empty: to the highest." },
    ],
    does: "Let them steer it",
    onDo: (ids, texts) => {
      const { lowHz, highHz, odd } = readBand(texts);
      if (odd !== undefined) {
        tellRefusal(`“${odd.trim()}” is no frequency from 10 Hz to 40 kHz. Type 200, or 4 kHz.`);
        return false;
      }
      const sideChains = ids.map((fromId) =>
        newSideChain({ id: newIds("side-chain"), fromId: fromId as ChannelId, processorId: id, lowHz, highHz }),
      );
      return here.act({ edits: [{ kind: "sideChains.add", sideChains }] });
    },
  });
};

/** What the palette and the keys have of it. */
const actsIn = (here: Here): readonly Act[] => {
  const [doc, name] = [docOf(here), who(here)];
  const whyNot = processorsOf(doc, here.channelId).length ? undefined : "There is no processor in this chain yet.";
  return [
    { id: "chain-add", label: `Add a processor to ${name}…`, key: keyOf("add"), run: () => askProcessor(here, null) },
    {
      id: "chain-copy",
      label: `Copy the chain of ${name} to…`,
      key: keyOf("copy-chain"),
      whyNot,
      run: () => askCopy(here),
    },
    {
      id: "chain-keep",
      label: `Keep the chain of ${name}…`,
      key: keyOf("keep-chain"),
      whyNot,
      run: () => askKeep(here),
    },
    ...processorChoices(doc, [here.channelId]).map(({ id, label }) => ({
      id: `put ${id}`,
      label: `Add: ${label}`,
      run: () => void putChoice(here, id, null),
    })),
    ...entriesOf(here.desk.getState().studio.chains).map(({ id, name: chain }) => ({
      id: `put ${id}`,
      label: `Put the chain ${chain} on ${name}`,
      run: () => putKept(here, id),
    })),
  ];
};

const chainActs = (here: Here): ChainActs => {
  const { act, actPlanned, channelId } = here;
  return {
    add: (before) => askProcessor(here, before),
    put: (chainId) => putKept(here, chainId),
    forget: (chain) => askForget(here, chain),
    steer: (id) => askSteering(here, id),
    branch: (id) => void actPlanned(branchOff(docOf(here), { processorIds: [id], ids: newIds })),
    remove: (id) => void act({ edits: [{ kind: "entries.remove", table: "processors", ids: [id] }] }),
    bypass: (id) => {
      const bypassed = !docOf(here).processors[id]?.bypassed;
      act({ edits: [{ kind: "entries.set", table: "processors", ids: [id], set: { bypassed } }] });
    },
    move: (id, before) =>
      void act({ edits: [{ kind: "entries.move", table: "processors", ids: [id], parent: channelId, before }] }),
    copy: () => askCopy(here),
    keep: () => askKeep(here),
    pageActs: () => actsIn(here),
  };
};

/** Everything that can be done to the chain of a channel. `onMade` is told which processor was put in. */
export const useChainActs = (channelId: ChannelId, onMade: (id: ChainProcessorId) => void): ChainActs => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  return useMemo(
    () => chainActs({ desk, rig, act, actPlanned, channelId, onMade }),
    [desk, rig, act, actPlanned, channelId, onMade],
  );
};

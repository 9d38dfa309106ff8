import { useCallback } from "react";
import type { ChainId, ChainProcessorId, ChannelId } from "@/core/model/ids";
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
  kindsForAll,
  loopChoices,
  putChain,
  putEffect,
  putInsert,
  putProcessor,
  replacedInWords,
} from "@/core/planning/chain-plans";
import { countChannels } from "@/core/planning/edits/channel-edits";
import { type StudioEdit, studioEditing } from "@/core/planning/edits/studio-editing";
import { processorsOf } from "@/core/queries/chains";
import { readHz } from "@/core/units/hertz";
import type { Act } from "../acts/act-model";
import { askChannels, askChannelsAnd, askOne, askTexts } from "../acts/chain-dialogs";
import { askFirst } from "../acts/route-dialogs";
import { newIds } from "../grid/grid-focus";
import { api } from "../shared/api";
import { tell, tellRefusal } from "../shared/notices";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
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

/** Everything that can be done to the chain of a channel. `onMade` is told which processor was put in. */
export const useChainActs = (channelId: ChannelId, onMade: (id: ChainProcessorId) => void): ChainActs => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  const now = useCallback(() => desk.getState().doc, [desk]);
  const who = useCallback(() => countChannels(now(), [channelId]), [now, channelId]);

  const opened = useCallback(
    (done: boolean, before: ReadonlySet<string>): boolean => {
      const fresh = processorsOf(now(), channelId).find(({ id }) => !before.has(id));
      if (done && fresh) onMade(fresh.id);
      return done;
    },
    [now, channelId, onMade],
  );
  const putKind = useCallback(
    (kind: ProcessorKind, before: ChainProcessorId | null): boolean => {
      const there = new Set<string>(processorsOf(now(), channelId).map(({ id }) => id));
      return opened(actPlanned(putProcessor(now(), { kind, channelIds: [channelId], before, ids: newIds })), there);
    },
    [now, channelId, actPlanned, opened],
  );
  const chosen = useCallback(
    (value: string, before: ChainProcessorId | null): boolean => {
      const doc = now();
      if (value.startsWith(AFTER_EFFECT))
        return actPlanned(
          putEffect(doc, {
            kind: value.slice(AFTER_EFFECT.length) as ProcessorKind,
            channelIds: [channelId],
            ids: newIds,
          }),
        );
      if (!value.startsWith(INSERT)) return putKind(value as ProcessorKind, before);
      const there = new Set<string>(processorsOf(doc, channelId).map(({ id }) => id));
      return opened(
        actPlanned(
          putInsert(doc, rig, { loopId: value.slice(INSERT.length), channelIds: [channelId], before, ids: newIds }),
        ),
        there,
      );
    },
    [now, channelId, rig, actPlanned, putKind, opened],
  );
  const add = useCallback(
    (before: ChainProcessorId | null): void => {
      const doc = now();
      const at = before ? doc.processors[before] : undefined;
      const effects = PROCESSOR_KIND_NAMES.filter((kind) => isEffect(kind, doc, [channelId]));
      askOne({
        title: at ? `Add before the ${processorName(at).toLowerCase()}` : `Add to ${who()}`,
        label: "Processor",
        options: [
          ...kindsForAll(doc, [channelId]).map((kind) => ({
            value: kind,
            label: effects.includes(kind) ? `${KIND_WORDS[kind]} in the chain` : KIND_WORDS[kind],
          })),
          ...effects.map((kind) => ({
            value: `${AFTER_EFFECT}${kind}`,
            label: `${KIND_WORDS[kind]} on a return, with a send`,
          })),
          ...loopChoices(rig).map(({ id, name }) => ({ value: `${INSERT}${id}`, label: `Hardware insert: ${name}` })),
        ],
        does: "Put it in",
        onDo: (value) => chosen(value, before),
      });
    },
    [now, channelId, rig, who, chosen],
  );
  const put = useCallback(
    (chainId: ChainId): void => {
      const says = replacedInWords(now(), [channelId]);
      const { studio } = desk.getState();
      const does = (): void =>
        void actPlanned(putChain(now(), studio, { chainId, channelIds: [channelId], ids: newIds }));
      const name = studio.chains[chainId]?.name ?? "the chain";
      if (says) askFirst({ title: `Put ${name} on ${who()}`, says, does: `Put ${name} on`, onDo: does });
      else does();
    },
    [desk, now, channelId, who, actPlanned],
  );
  const forget = useCallback(
    ({ id, name }: Chain): void =>
      askFirst({
        title: `No longer keep ${name}`,
        says: "It goes from the studio, for all templates. Channels that it was put on keep what they have.",
        does: `Remove ${name}`,
        onDo: () => void editStudio(desk, [{ kind: "entries.remove", table: "chains", ids: [id] }]).catch(told),
      }),
    [desk],
  );
  const keep = useCallback(
    (): void =>
      askTexts({
        title: `Keep the chain of ${who()}`,
        fields: [{ label: "Name", value: who() }],
        does: "Keep the chain",
        says: ([name = ""]) => {
          const same = keptChainNamed(desk.getState().studio, name);
          return same ? `There is a chain called ${same.name}; it is replaced.` : null;
        },
        onDo: ([name = ""]) => {
          const plan = keepChain(now(), desk.getState().studio, { channelId, name, ids: newIds });
          if (!plan.ok) tellRefusal(plan.message);
          else
            void editStudio(desk, plan.edits)
              .then(() => tell(plan.says))
              .catch(told);
          return plan.ok;
        },
      }),
    [desk, now, channelId, who],
  );
  const copy = useCallback((): void => {
    const doc = now();
    askChannels({
      title: `Copy the chain of ${who()}`,
      label: "To",
      options: channelChoices(doc, [channelId]).map(({ id, label }) => ({ value: id, label })),
      does: "Copy the chain",
      says: (ids) => replacedInWords(now(), ids as readonly ChannelId[]),
      onDo: (ids) =>
        actPlanned(copyChain(now(), { fromId: channelId, toIds: ids as readonly ChannelId[], ids: newIds })),
    });
  }, [now, channelId, who, actPlanned]);
  const steer = useCallback(
    (id: ChainProcessorId): void => {
      const doc = now();
      const processor = doc.processors[id];
      if (!processor) return;
      askChannelsAnd({
        title: `What steers the ${processorName(processor).toLowerCase()} of ${who()}`,
        label: "Steered by",
        options: channelChoices(doc, [channelId]).map((channel) => ({ value: channel.id, label: channel.label })),
        texts: [
          { label: "The detector hears from, Hz", value: "", description: "Empty: from the lowest." },
          { label: "The detector hears up to, Hz", value: "", description: "Empty: to the highest." },
        ],
        does: "Let them steer it",
        onDo: (ids, [low = "", high = ""]) => {
          const [lowHz, highHz] = [low, high].map((text) => (text.trim() ? readHz(text) : null)) as [
            number | null,
            number | null,
          ];
          const odd = low.trim() && lowHz === null ? low : high.trim() && highHz === null ? high : null;
          if (odd !== null) tellRefusal(`“${odd.trim()}” is no frequency from 10 Hz to 40 kHz. Type 200, or 4 kHz.`);
          const sideChains = ids.map((fromId) =>
            newSideChain({ id: newIds("side-chain"), fromId: fromId as ChannelId, processorId: id, lowHz, highHz }),
          );
          return odd === null && act({ edits: [{ kind: "sideChains.add", sideChains }] });
        },
      });
    },
    [now, channelId, who, act],
  );
  const branch = useCallback(
    (id: ChainProcessorId): void => void actPlanned(branchOff(now(), { processorIds: [id], ids: newIds })),
    [now, actPlanned],
  );
  const remove = useCallback(
    (id: ChainProcessorId): void => void act({ edits: [{ kind: "entries.remove", table: "processors", ids: [id] }] }),
    [act],
  );
  const bypass = useCallback(
    (id: ChainProcessorId): void =>
      void act({
        edits: [
          { kind: "entries.set", table: "processors", ids: [id], set: { bypassed: !now().processors[id]?.bypassed } },
        ],
      }),
    [act, now],
  );
  const move = useCallback(
    (id: ChainProcessorId, before: ChainProcessorId | null): void =>
      void act({ edits: [{ kind: "entries.move", table: "processors", ids: [id], parent: channelId, before }] }),
    [act, channelId],
  );
  const pageActs = useCallback((): readonly Act[] => {
    const name = who();
    const { studio } = desk.getState();
    return [
      { id: "chain-add", label: `Add a processor to ${name}…`, key: "Alt A", run: () => add(null) },
      ...(processorsOf(now(), channelId).length
        ? [
            { id: "chain-copy", label: `Copy the chain of ${name} to…`, key: "Alt C", run: copy },
            { id: "chain-keep", label: `Keep the chain of ${name}…`, key: "Alt K", run: keep },
          ]
        : []),
      ...kindsForAll(now(), [channelId]).map((kind) => ({
        id: `put ${kind}`,
        label: `Put in: ${KIND_WORDS[kind]}`,
        run: () => void putKind(kind, null),
      })),
      ...entriesOf(studio.chains).map(({ id, name: chain }) => ({
        id: `put ${id}`,
        label: `Put the chain ${chain} on ${name}`,
        run: () => put(id),
      })),
    ];
  }, [desk, now, channelId, who, add, copy, keep, put, putKind]);
  return { add, put, forget, steer, branch, remove, bypass, move, copy, keep, pageActs };
};

import { type Refusal, refuse } from "../../commands/command";
import type { ChainProcessorId, ChannelId } from "../../model/ids";
import { CHAIN_PROCESSORS, type Processor } from "../../model/tables/chain-processors";
import { processorName } from "../../model/tables/processor-names";
import { DYNAMICS, PROCESSOR_KINDS } from "../../model/tables/processor-settings";
import type { Template } from "../../model/template";
import { countChannels } from "./channel-edits";
import type { EditOf, Planners } from "./edit";
import type { Habits, SetEntries } from "./entry-edits";
import { toAll } from "./planner";
import { firstOf, goneFrom, tooMany } from "./refusals";

/** A setting that one of the processors does not have. */
const foreign = (doc: Template, { ids, set }: SetEntries): Refusal | null => {
  for (const id of ids as readonly ChainProcessorId[]) {
    const processor = doc.processors[id];
    const unknown =
      processor &&
      Object.keys(set).find(
        (field) => !(field in CHAIN_PROCESSORS.fields) && !(field in PROCESSOR_KINDS[processor.kind]),
      );
    if (unknown) return refuse("unfit", id, `${processorName(processor)} has no ${unknown}.`);
  }
  return null;
};

const ownersOf = (doc: Template, ids: readonly ChainProcessorId[]): readonly ChannelId[] => [
  ...new Set(ids.flatMap((id) => doc.processors[id]?.channelId ?? [])),
];

/** Those that lie in splits which are moved to another chain go with them. */
const withMembers = (doc: Template, ids: readonly ChainProcessorId[]): readonly ChainProcessorId[] => {
  const splits = new Set<string>(ids.filter((id) => doc.processors[id]?.kind === "split"));
  if (!splits.size) return ids;
  const moved = new Set<string>(ids);
  const members = (Object.values(doc.processors) as readonly Processor[]).flatMap(({ id, splitId }) =>
    splitId && splits.has(splitId) && !moved.has(id) ? [id] : [],
  );
  return [...ids, ...members];
};

/** What plain edits of processors take along: what lies in a split that is moved. */
export const processorHabits: Habits<Template> = {
  set: (doc, edit) => foreign(doc, edit) ?? [{ kind: "set", table: "processors", values: toAll(edit.ids, edit.set) }],
  move: (doc, { ids, parent, before }) => [
    {
      kind: "move",
      table: "processors",
      ids: withMembers(doc, ids as readonly ChainProcessorId[]),
      ...(parent === undefined ? {} : { parent }),
      before,
    },
  ],
};

/** Why a channel can't steer a processor, but for loops, which the document itself refuses. */
const unsteerable = (doc: Template, { sideChains }: EditOf<"sideChains.add">): Refusal | null =>
  firstOf(
    () => (sideChains.length ? null : refuse("empty", "", "Choose what steers it.")),
    () =>
      goneFrom(
        doc.channels,
        sideChains.map(({ fromId }) => fromId),
        "channel",
      ),
    () =>
      goneFrom(
        doc.processors,
        sideChains.map(({ processorId }) => processorId),
        "processor",
      ),
    () => tooMany(doc, { sideChains }),
    () => {
      const main = sideChains.find(({ fromId }) => doc.channels[fromId]?.kind === "main");
      return main
        ? refuse("unfit", main.fromId, "The main bus is last: it can steer nothing that comes before it.")
        : null;
    },
    () => {
      const wrong = sideChains.find(
        ({ processorId }) => !DYNAMICS.some((kind) => kind === doc.processors[processorId]?.kind),
      );
      const processor = wrong && doc.processors[wrong.processorId];
      return processor
        ? refuse(
            "unfit",
            processor.id,
            `${processorName(processor)} can't be steered. A gate, a compressor, a de-esser or a limiter can.`,
          )
        : null;
    },
    () => {
      const own = sideChains.find(({ fromId, processorId }) => doc.processors[processorId]?.channelId === fromId);
      return own
        ? refuse(
            "unfit",
            own.fromId,
            `${countChannels(doc, [own.fromId])} hears itself in its own processor already; choose another channel.`,
          )
        : null;
    },
  );

export const sideChainEdits: Planners<"sideChains"> = {
  "sideChains.add": {
    plan: (doc, edit) => {
      const refusal = unsteerable(doc, edit);
      if (refusal) return refusal;
      const there = new Set(Object.values(doc.sideChains).map(({ fromId, processorId }) => `${fromId} ${processorId}`));
      const fresh = edit.sideChains.filter(({ fromId, processorId }) => !there.has(`${fromId} ${processorId}`));
      const deaf = [...new Set(fresh.map(({ processorId }) => processorId))];
      // What is steered listens to what steers it.
      return fresh.length
        ? [
            { kind: "add", table: "sideChains", entries: fresh },
            { kind: "set", table: "processors", values: toAll(deaf, { listens: "others" }) },
          ]
        : [];
    },
    name: (doc, { sideChains }) =>
      `Steer ${countChannels(
        doc,
        ownersOf(
          doc,
          sideChains.map(({ processorId }) => processorId),
        ),
      )} by ${countChannels(doc, [...new Set(sideChains.map(({ fromId }) => fromId))])}`,
  },
};

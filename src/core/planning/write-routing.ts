import { plain } from "../model/families";
import type { ChannelId, IdSource, SendId } from "../model/ids";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { chainText } from "../queries/chain-text";
import { processorsOf } from "../queries/chains";
import { readSends, sendsOf } from "../queries/sends";
import { copyChain, keptChains, putChain } from "./chain-plans";
import { countChannels } from "./edits/channel-edits";
import type { Edit } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

interface Typed {
  readonly trackIds: readonly ChannelId[];
  readonly text: string;
  readonly ids: IdSource;
  /** Where it is at hand: chains that it keeps can be named. */
  readonly studio?: Studio;
}

/** What is typed into a cell of sends: those of the channels become these, and no others. An empty cell has none. */
export const writeSends = (doc: Template, { trackIds, text, ids }: Typed): Planned => {
  const wanted = readSends(doc, text);
  if (typeof wanted === "string") return unplanned(wanted);
  const gone = trackIds.flatMap((id) =>
    sendsOf(doc, id).flatMap((send) => (wanted.some(({ toId }) => toId === send.toId) ? [] : [send.id])),
  );
  const sends = trackIds.flatMap((fromId) => wanted.map((send) => ({ ...send, id: ids<SendId>("send"), fromId })));
  const edits: readonly Edit[] = [
    ...(gone.length ? [{ kind: "entries.remove", table: "sends", ids: gone } as const] : []),
    ...(sends.length ? [{ kind: "sends.add", sends } as const] : []),
  ];
  return planned(
    edits,
    sends.length
      ? `Set the sends of ${countChannels(doc, trackIds)}`
      : `Take the sends off ${countChannels(doc, trackIds)}`,
  );
};

/**
 * What is typed into a cell of a chain: nothing, the name of a chain that is kept, or that of a channel whose chain it
 * should have.
 */
export const writeChain = (doc: Template, { trackIds, text, ids, studio }: Typed): Planned => {
  const name = plain(text);
  if (!name) {
    const processorIds = trackIds.flatMap((id) => processorsOf(doc, id).map((processor) => processor.id));
    return processorIds.length
      ? planned(
          [{ kind: "entries.remove", table: "processors", ids: processorIds }],
          `Take the chain off ${countChannels(doc, trackIds)}`,
        )
      : planned([]);
  }
  const kept = studio && keptChains(studio).find((chain) => plain(chain.name) === name);
  if (kept && studio) return putChain(doc, studio, { chainId: kept.id, channelIds: trackIds, ids });
  const channels = entriesOf<Channel>(doc.channels).filter(({ id }) => processorsOf(doc, id).length);
  const from =
    channels.find((channel) => plain(channel.name) === name) ??
    channels.find(({ id }) => plain(chainText(doc, id)) === name);
  if (!from)
    return unplanned(
      `No chain is kept under the name ${text.trim()}, and no channel of that name has one. Open the chain in the signal flow to build it.`,
    );
  const toIds = trackIds.filter((id) => id !== from.id);
  return toIds.length ? copyChain(doc, { fromId: from.id, toIds, ids }) : planned([]);
};

import type { DocumentRule, TouchedDocument } from "./describe/table";

type Loose = Readonly<Record<string, unknown>>;

interface Step {
  readonly to: string;
  /** Said where it is no plain output. */
  readonly by: string;
}

const outputOf = (channel: Loose | undefined): string | null => {
  const output = channel?.output as { readonly kind: string; readonly channelId?: string } | undefined;
  return output?.kind === "channel" ? (output.channelId ?? null) : null;
};

/** The bus or instrument that a track records. */
const recordedBus = (channel: Loose | undefined): string | null => {
  const input = channel?.input as
    | { readonly kind: string; readonly busId?: string; readonly instrumentId?: string }
    | undefined;
  return input?.busId ?? input?.instrumentId ?? null;
};

/** What a table's entry that refers to a channel leads to from there; null where it leads nowhere. */
const LEADS: Readonly<Record<string, (entry: Loose, id: string, doc: TouchedDocument) => Step | null>> = {
  sends: (send, id) => (send.fromId === id ? { to: String(send.toId), by: "by a send" } : null),
  channels: (track, id) => (recordedBus(track) === id ? { to: String(track.id), by: "recorded on" } : null),
  sideChains: (side, id, { entry }) => {
    const steered = side.fromId === id ? entry("processors", String(side.processorId)) : undefined;
    return steered ? { to: String(steered.channelId), by: "by a side-chain" } : null;
  },
};

/**
 * Where the sound of a channel goes from there: its output, what records it, its sends and what it steers, those that
 * are off as well, since they can be switched on.
 */
const stepsFrom = (doc: TouchedDocument, id: string): readonly Step[] => {
  const { entry, referrers } = doc;
  const channel = entry("channels", id);
  const output = outputOf(channel);
  const steps: Step[] = output === null ? [] : [{ to: output, by: "" }];
  // Nothing leads on from the last bus, to which nearly all refer.
  if (channel?.kind === "main") return steps;
  for (const key of referrers("channels", id)) {
    const at = key.indexOf("/");
    const table = key.slice(0, at);
    const leads = LEADS[table];
    const from = leads && entry(table, key.slice(at + 1));
    const step = from && leads?.(from, id, doc);
    if (step) steps.push(step);
  }
  return steps;
};

/** Channels that steer a processor which is in another channel than before. */
const steering = ({ touched, entry, had, referrers }: TouchedDocument): readonly string[] =>
  [...(touched.get("processors") ?? [])].flatMap((id) => {
    const [is, was] = [entry("processors", id), had("processors", id)];
    if (!is || is.channelId === was?.channelId) return [];
    return [...referrers("processors", id)].flatMap((key) =>
      key.startsWith("sideChains/") ? [String(entry("sideChains", key.slice("sideChains/".length))?.fromId)] : [],
    );
  });

/** Channels of which something leads elsewhere than before. */
const turned = (doc: TouchedDocument): readonly string[] => [...routed(doc), ...steering(doc)];

const routed = ({ touched, entry, had }: TouchedDocument): readonly string[] => [
  ...[...(touched.get("channels") ?? [])].filter(
    (id) =>
      outputOf(entry("channels", id)) !== null && outputOf(entry("channels", id)) !== outputOf(had("channels", id)),
  ),
  ...[...(touched.get("channels") ?? [])].flatMap((id) => {
    const bus = recordedBus(entry("channels", id));
    return bus !== null && bus !== recordedBus(had("channels", id)) ? [bus] : [];
  }),
  ...[...(touched.get("sideChains") ?? [])].flatMap((id) => {
    const [is, was] = [entry("sideChains", id), had("sideChains", id)];
    return is && (is.fromId !== was?.fromId || is.processorId !== was?.processorId) ? [String(is.fromId)] : [];
  }),
  ...[...(touched.get("sends") ?? [])].flatMap((id) => {
    const [is, was] = [entry("sends", id), had("sends", id)];
    return is && (is.fromId !== was?.fromId || is.toId !== was?.toId) ? [String(is.fromId)] : [];
  }),
];

interface Open extends Step {
  readonly steps: readonly Step[];
  next: number;
}

const inWords = (doc: TouchedDocument, loop: readonly Step[]): string => {
  const called = (id: string) => String(doc.entry("channels", id)?.name || "a channel without a name");
  return `the sound would go round for ever: ${called(loop.at(-1)?.to ?? "")}${loop.map(({ to, by }) => ` → ${by ? `(${by}) ` : ""}${called(to)}`).join("")}`;
};

/**
 * Refuses a way of the sound that comes back to where it was: outputs and sends from channel to channel. Looks only
 * from the channels that lead elsewhere than before, since a loop that is new goes through one of them; depth first,
 * each channel once, so linear in what can be reached. Answers the whole loop in words.
 */
export const noLoop: DocumentRule = (doc) => {
  const done = new Set<string>();
  for (const start of turned(doc)) {
    if (done.has(start)) continue;
    const way: Open[] = [{ to: start, by: "", steps: stepsFrom(doc, start), next: 0 }];
    const onWay = new Map<string, number>([[start, 0]]);
    while (way.length) {
      const at = way.at(-1) as Open;
      const step = at.steps[at.next++];
      if (!step) {
        way.pop();
        onWay.delete(at.to);
        done.add(at.to);
        continue;
      }
      const from = onWay.get(step.to);
      if (from !== undefined) return inWords(doc, [...way.slice(from + 1), step]);
      if (done.has(step.to)) continue;
      onWay.set(step.to, way.length);
      way.push({ ...step, steps: stepsFrom(doc, step.to), next: 0 });
    }
  }
  return null;
};

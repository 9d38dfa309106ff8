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

/** Where the sound of a channel goes from there: its output and its sends, those that are off as well, since they can be switched on. */
const stepsFrom = ({ entry, referrers }: TouchedDocument, id: string): readonly Step[] => {
  const output = outputOf(entry("channels", id));
  const steps: Step[] = output === null ? [] : [{ to: output, by: "" }];
  for (const key of referrers("channels", id)) {
    if (!key.startsWith("sends/")) continue;
    const send = entry("sends", key.slice("sends/".length));
    if (send?.fromId === id) steps.push({ to: String(send.toId), by: "by a send" });
  }
  return steps;
};

/** Channels of which something leads elsewhere than before. */
const turned = ({ touched, entry, had }: TouchedDocument): readonly string[] => [
  ...[...(touched.get("channels") ?? [])].filter((id) => outputOf(entry("channels", id)) !== null && outputOf(entry("channels", id)) !== outputOf(had("channels", id))),
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
 * Refuses a way of the sound that comes back to where it was: outputs and sends from channel to channel. Looks only from the channels that lead elsewhere than
 * before, since a loop that is new goes through one of them; depth first, each channel once, so linear in what can be reached. Answers the whole loop in words.
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

import { describe, expect, it } from "vitest";
import { demoTemplates } from "../demo/templates";
import type { SendId } from "../model/ids";
import { MOST } from "../model/limits";
import { entriesOf } from "../model/table";
import { MAIN_ID } from "../model/tables/channel-fields";
import type { Channel } from "../model/tables/channels";
import { newSend } from "../model/tables/sends";
import { readTemplateJson } from "./document-json";

describe("a template that comes in with a routing that can't be", () => {
  const nine = demoTemplates().find(({ id }) => id === "tidewrack-nine") ?? expect.unreachable();
  const [a, b] = entriesOf(nine.channels).filter(({ kind }) => kind === "bus");
  const routed = (channel: Channel | undefined, channelId: string) => ({
    [channel?.id ?? ""]: { ...channel, output: { kind: "channel", channelId } },
  });
  const read = (change: object) => {
    const made = readTemplateJson(JSON.stringify({ ...nine, ...change }));
    return made.ok ? "" : made.message;
  };
  const sends = Object.fromEntries(
    Array.from({ length: MOST.sends + 1 }, (_, at) => [
      `s${at}`,
      newSend({ id: `s${at}` as SendId, fromId: MAIN_ID, toId: MAIN_ID }),
    ]),
  );

  it.each([
    [
      "a loop",
      { channels: { ...nine.channels, ...routed(a, b?.id ?? ""), ...routed(b, a?.id ?? "") } },
      "the sound would go round for ever: Percussion → Low strings → Percussion",
    ],
    [
      "a bus that is not there",
      { channels: { ...nine.channels, ...routed(a, "gone") } },
      "Percussion is routed to something that can take no sound",
    ],
    [
      "one bus for all folders",
      {
        folders: Object.fromEntries(entriesOf(nine.folders).map((folder) => [folder.id, { ...folder, busId: a?.id }])),
      },
      "sum into one bus",
    ],
    ["more sends than may be", { sends }, "at /sends: It holds more than the 32768 entries that are the most."],
    [
      "a fader far off",
      { channels: { ...nine.channels, main: { ...nine.channels[MAIN_ID], faderDb: 1e9 } } },
      "at /channels/main/faderDb: It is more than 12.",
    ],
  ])("%s is told, and nothing of it is taken", (_what, change, says) => expect(read(change)).toContain(says));
});

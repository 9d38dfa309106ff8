import { generateNKeysBetween } from "fractional-indexing";

/**
 * Files as they come from people who mean no good, or whose program does not: each within the sizes that are taken, or
 * just beyond.
 */
const file = (name, text) => ({ name, text });

const rows = (count, row) => Array.from({ length: count }, (_, at) => row(at)).join("\n");

/** A table of a document: entries by their ids. */
const isTable = (value) =>
  typeof value === "object" &&
  value !== null &&
  !Array.isArray(value) &&
  Object.values(value).every((entry) => typeof entry === "object" && entry !== null && "id" in entry);

/**
 * A template document with so many lines, in so many folders one in another. What each entry holds is taken from the
 * one it is made after, so that it is whole in every version.
 */
export const largeTemplate = (base, lines, depth = 0) => {
  const { document } = base;
  const all = Array.from({ length: lines }, (_, at) => at);
  const keys = generateNKeysBetween(null, null, lines);
  const [line] = Object.values(document.lines);
  const [folder] = Object.values(document.folders);
  const track = Object.values(document.channels).find(({ kind, input }) => kind === "track" && input.kind === "line");
  const bare = Object.fromEntries(Object.entries(document).map(([key, value]) => [key, isTable(value) ? {} : value]));
  return JSON.stringify({
    ...bare,
    folders: Object.fromEntries(
      Array.from({ length: depth }, (_, at) => [
        `f${at}`,
        { ...folder, id: `f${at}`, name: `F${at}`, parentId: at ? `f${at - 1}` : null, order: "a0", busId: null },
      ]),
    ),
    lines: Object.fromEntries(
      all.map((at) => [
        `l${at}`,
        {
          ...line,
          id: `l${at}`,
          source: `Source ${at}`,
          microphone: null,
          portId: null,
          requestedInput: null,
          phantom: false,
          player: "",
        },
      ]),
    ),
    channels: {
      main: { ...document.channels.main, output: { kind: "nowhere" } },
      ...Object.fromEntries(
        all.map((at) => [
          `t${at}`,
          {
            ...track,
            id: `t${at}`,
            name: `Track ${at}`,
            output: { kind: "channel", channelId: "main" },
            folderId: depth ? `f${depth - 1}` : null,
            gangId: null,
            controlIds: [],
            order: keys[at],
            input: { kind: "line", lineId: `l${at}` },
            sharing: null,
          },
        ]),
      ),
    },
  });
};

export const hostileFiles = (base) => [
  file("one row of a million cells.csv", "1,".repeat(1_000_000)),
  file("brackets.csv", `Input,Source\n1,${")".repeat(2_000_000)}`),
  file("dashes left.csv", `Input,Source\n${rows(4000, (at) => `${at},${" -".repeat(450)} left`)}`),
  file("deep folders.csv", `Input,Source,Folder\n1,A,${Array.from({ length: 900 }, (_, at) => `f${at}`).join(" › ")}`),
  file(
    "a thousand folders.csv",
    `Input,Source,Folder\n${rows(4000, (at) => `${at + 1},Source ${at},Folder ${at % 1000}`)}`,
  ),
  file(
    "all stereo.csv",
    `Input,Source,Format\n${rows(4000, (at) => `${at * 2 + 1}-${at * 2 + 2},Source ${at},stereo`)}`,
  ),
  file("ten thousand rows.csv", `Input,Source\n${rows(10_000, (at) => `${at},S`)}`),
  file("no end of a quote.csv", `Input,Source\n1,"${"x".repeat(3_000_000)}`),
  file("quotes.csv", `Input,Source\n${rows(4000, () => '"""",""""""')}`),
  file("letters that grow.csv", `Input,Source\n${rows(4000, () => `1,${"\ufdfa".repeat(190)}`)}`),
  file("bytes.csv", Array.from({ length: 500_000 }, (_, at) => String.fromCharCode((at * 7919) % 255)).join("")),
  file("deep.json", "[".repeat(2_000_000)),
  file("deep objects.json", `{"schema":3,"a":${'{"a":'.repeat(100_000)}`),
  file("one long key.json", `{"schema":3,"${"k".repeat(3_000_000)}":1}`),
  file("folders in folders.json", largeTemplate(base, 20, 1200)),
  file("as large as may be.json", largeTemplate(base, 8192)),
  file("larger than may be.json", largeTemplate(base, 12_000)),
];

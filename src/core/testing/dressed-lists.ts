import { plain } from "../model/families";

/** A source that an engineer would list, as it is known: what a list of it must come out as. */
export interface KnownLine {
  readonly name: string;
  /** How many inputs it takes: one, or the two of a pair. */
  readonly pair: boolean;
  readonly microphone: string;
  readonly phantom: boolean;
  readonly folder: string;
  readonly player: string;
  readonly note: string;
}

/** A cell of a known plan: where it stands, and what it must be. */
export interface KnownTrack {
  readonly name: string;
  readonly inputs: readonly string[];
  readonly microphone: string;
  readonly phantom: boolean;
  readonly pair: boolean;
  readonly folder: string;
  readonly player: string;
  readonly note: string;
}

export interface Dressed {
  readonly text: string;
  readonly tracks: readonly KnownTrack[];
  /** Which of the cells the list says at all. */
  readonly says: ReadonlySet<keyof KnownTrack>;
  /** How it was dressed, for a person who looks at a wrong one. */
  readonly dress: string;
}

/** Chance that can be begun anew: a number from 0 to below 1 each time (mulberry32). */
export const chanceFrom = (seed: number): (() => number) => {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
};

interface Tongue {
  readonly headings: Readonly<
    Record<"input" | "source" | "microphone" | "phantom" | "folder" | "player" | "note" | "format", readonly string[]>
  >;
  readonly yes: readonly string[];
  readonly no: readonly string[];
  readonly sides: readonly (readonly [string, string])[];
  readonly titles: readonly string[];
  readonly greetings: readonly string[];
  readonly endings: readonly string[];
  readonly outputs: string;
  readonly total: string;
}

const TONGUES: readonly Tongue[] = [
  {
    headings: {
      input: ["Input", "Ch", "CH #", "Channel", "In", "#", "Line", "Desk ch", "No."],
      source: ["Source", "Instrument", "Name", "What", "Signal", "Input source", "Source / Quelle"],
      microphone: ["Mic", "Microphone", "Mic / DI", "Mic/DI", "How", "Mic type", "Model"],
      phantom: ["48V", "+48", "Phantom", "+48V", "P48", "Ph. Pwr"],
      folder: ["Group", "Grp", "Section", "Folder"],
      player: ["Player", "Who", "Musician", "Performer"],
      note: ["Notes", "Remarks", "Comment", "Comments", "Note"],
      format: ["Stereo", "Mono/Stereo", "Format"],
    },
    yes: ["x", "yes", "y", "X", "✓", "48V", "on", "√"],
    no: ["", "no", "-", "off", "–"],
    sides: [
      ["L", "R"],
      ["Left", "Right"],
      ["(L)", "(R)"],
      ["SL", "SR"],
      ["LH", "RH"],
    ],
    titles: ["Saturday at the mill", "Input list v3", "Spring evening, 14 March", "Stage plot and input list"],
    greetings: ["Hi Tom,", "Hello Nadia, here is the list for Friday:", "Dear all, please find the inputs below."],
    endings: ["Thanks, Tom", "Best regards", "Cheers"],
    outputs: "Outputs",
    total: "Total",
  },
  {
    headings: {
      input: ["Kanal", "Eingang", "Nr.", "Kan.", "Pult", "Lfd. Nr."],
      source: ["Instrument", "Quelle", "Signal", "Bezeichnung", "Was"],
      microphone: ["Mikrofon", "Mikro", "Mikrofon / DI", "Mic", "Abnahme"],
      phantom: ["48V", "Phantom", "Phantomspeisung", "+48V", "P48"],
      folder: ["Gruppe", "Register", "Bereich"],
      player: ["Musiker", "Wer", "Spieler"],
      note: ["Bemerkung", "Notiz", "Anmerkung", "Hinweis"],
      format: ["Stereo", "Mono/Stereo"],
    },
    yes: ["ja", "x", "j", "X", "✓", "an"],
    no: ["", "nein", "-", "n"],
    sides: [
      ["L", "R"],
      ["links", "rechts"],
      ["Li", "Re"],
      ["li.", "re."],
    ],
    titles: ["Eingangsliste", "Stand: Freitag", "Kanalbelegung Sommerfest"],
    greetings: ["Hallo Tom,", "Liebe Nadia, hier die Liste für Samstag:"],
    endings: ["Viele Grüße", "Danke und bis Samstag"],
    outputs: "Ausgänge",
    total: "Summe",
  },
  {
    headings: {
      input: ["Entrée", "Voie", "Canal", "N°"],
      source: ["Instrument", "Source", "Nom"],
      microphone: ["Micro", "Micro / DI", "Capteur"],
      phantom: ["48V", "Alim 48V", "Fantôme"],
      folder: ["Groupe", "Famille"],
      player: ["Musicien", "Qui", "Interprète"],
      note: ["Remarque", "Remarques", "Commentaire"],
      format: ["Stéréo"],
    },
    yes: ["oui", "x", "X", "✓"],
    no: ["", "non", "-"],
    sides: [
      ["L", "R"],
      ["G", "D"],
      ["gauche", "droite"],
    ],
    titles: ["Patch d'entrées", "Fête du moulin, samedi"],
    greetings: ["Bonjour Tom,", "Salut, voici la liste :"],
    endings: ["Merci", "Cordialement"],
    outputs: "Sorties",
    total: "Total",
  },
  {
    headings: {
      input: ["Entrada", "Canal", "Nº"],
      source: ["Instrumento", "Fuente", "Nombre"],
      microphone: ["Micrófono", "Micro", "Micro / DI"],
      phantom: ["48V", "Phantom", "Alimentación"],
      folder: ["Grupo", "Sección"],
      player: ["Músico", "Quién"],
      note: ["Observaciones", "Notas", "Comentario"],
      format: ["Estéreo"],
    },
    yes: ["sí", "si", "x", "X"],
    no: ["", "no", "-"],
    sides: [
      ["L", "R"],
      ["I", "D"],
      ["izq", "der"],
    ],
    titles: ["Lista de entradas", "Sábado en el molino"],
    greetings: ["Hola Tom,"],
    endings: ["Gracias", "Saludos"],
    outputs: "Salidas",
    total: "Total",
  },
  {
    headings: {
      input: ["Ingresso", "Canale", "N."],
      source: ["Strumento", "Sorgente", "Nome"],
      microphone: ["Microfono", "Micro", "Microfono / DI"],
      phantom: ["48V", "Phantom", "Alimentazione"],
      folder: ["Gruppo", "Sezione"],
      player: ["Musicista", "Chi"],
      note: ["Note", "Nota", "Commento"],
      format: ["Stereo"],
    },
    yes: ["sì", "si", "x", "X"],
    no: ["", "no", "-"],
    sides: [
      ["L", "R"],
      ["sx", "dx"],
      ["S", "D"],
    ],
    titles: ["Lista ingressi", "Sabato al mulino"],
    greetings: ["Ciao Tom,"],
    endings: ["Grazie", "Saluti"],
    outputs: "Uscite",
    total: "Totale",
  },
];

const line = (name: string, microphone: string, more: Partial<KnownLine> = {}): KnownLine => ({
  name,
  microphone,
  pair: false,
  phantom: /LDC|SDC|condenser|active|act\.|omni|lav|headset|boundary|clip|Kondensator|membran|statique|Grenz/i.test(
    microphone,
  ),
  folder: "",
  player: "",
  note: "",
  ...more,
});

/** Known plans: bands, choirs, talks, as people would list them. */
const PLANS: readonly (readonly KnownLine[])[] = [
  [
    line("Kick in", "low moving-coil", { folder: "Drums", player: "Pell Marrow", note: "inside" }),
    line("Kick out", "LDC", { folder: "Drums", player: "Pell Marrow" }),
    line("Snare top", "dyn", { folder: "Drums", player: "Pell Marrow" }),
    line("Snare bottom", "dyn", { folder: "Drums", player: "Pell Marrow" }),
    line("HH", "SDC", { folder: "Drums", player: "Pell Marrow" }),
    line("Floor tom", "dyn", { folder: "Drums", player: "Pell Marrow" }),
    line("OH", "SDC pair", { pair: true, folder: "Drums", player: "Pell Marrow", note: "low" }),
    line("Bass DI", "act. DI", { phantom: true, folder: "Bass", player: "Bram Teller" }),
    line("E-Gtr", "dyn", { folder: "Guitars", player: "Wynn Solari", note: "open back" }),
    line("Ac Gtr", "DI box active", { folder: "Guitars", player: "Juno Ashby" }),
    line("Keys", "line", { pair: true, folder: "Keys", player: "Odile Farr" }),
    line("Tenor sax", "clip-on condenser", { folder: "Horns", player: "Kester Blom" }),
    line("Tpt", "passive ribbon", { folder: "Horns", player: "Mab Tregarth", note: "own stand" }),
    line("Lead vox", "LDC", { folder: "Vocals", player: "Ilse Varga", note: "in the Booth" }),
    line("BV", "dyn", { folder: "Vocals", player: "Juno Ashby" }),
  ],
  [
    line("Soprano", "Kleinmembran", { pair: true, folder: "Choir" }),
    line("Alt", "Kleinmembran", { folder: "Choir" }),
    line("Tenor", "Kleinmembran", { folder: "Choir" }),
    line("Bass", "Kleinmembran", { folder: "Choir" }),
    line("Solistin", "Großmembran", { folder: "Soli", player: "Ilse Varga", note: "Notenpult" }),
    line("Orgel", "Grenzfläche", { pair: true, folder: "Instrumente" }),
    line("Cello", "Bändchen aktiv", { phantom: true, folder: "Instrumente", player: "Wynn Solari" }),
    line("Ansage", "Tauchspule", { folder: "Sprache" }),
  ],
  [
    line("Host", "LDC", { folder: "Table", player: "Nadia Okonjo-Reyes" }),
    line("Guest 1", "dyn", { folder: "Table" }),
    line("Guest 2", "dyn", { folder: "Table", note: "left handed" }),
    line("Narrator", "lav", { folder: "Booth", player: "Tom Hallgarth" }),
    line("Phone", "line", { folder: "Far" }),
    line("Jingle", "line", { pair: true, folder: "Play-ins" }),
  ],
  [
    line("Violin", "SDC", { folder: "Strings" }),
    line("Viola", "SDC", { folder: "Strings" }),
    line("Cello", "LDC", { folder: "Strings", note: "low" }),
    line("Double bass", "clip", { folder: "Strings", player: "Bram Teller" }),
    line("Flute", "omni", { folder: "Winds" }),
    line("Clarinet", "omni", { folder: "Winds", player: "Kester Blom" }),
    line("French horn", "active ribbon", { folder: "Winds" }),
    line("Timpani", "SDC pair", { pair: true, folder: "Percussion" }),
    line("Harp", "LDC", { folder: "Plucked" }),
    line("Piano", "boundary", { pair: true, folder: "Keys", note: "half stick" }),
    line("Main pair", "omni", { pair: true, folder: "Room", note: "over the conductor" }),
  ],
];

const OUTPUTS = ["Wedge 1", "Wedge 2", "IEM drummer", "Side fill"];

interface Dice {
  readonly pick: <T>(of: readonly T[]) => T;
  readonly maybe: (share: number) => boolean;
}

const diceFrom = (seed: number): Dice => {
  const next = chanceFrom(seed);
  return {
    pick: <T>(of: readonly T[]): T => of[Math.floor(next() * of.length)] as T,
    maybe: (share) => next() < share,
  };
};

type Column = "input" | "source" | "microphone" | "phantom" | "folder" | "player" | "note" | "format";

/** One row as it is written; two for a pair that stands on two rows. */
interface Written {
  readonly cells: Readonly<Record<Column, string>>;
  readonly folder: string;
}

const numbered = (lines: readonly KnownLine[], prefix: string): readonly KnownTrack[] => {
  let next = 1;
  return lines.map((one) => {
    const inputs = one.pair ? [`${prefix}${next}`, `${prefix}${next + 1}`] : [`${prefix}${next}`];
    next += inputs.length;
    return { ...one, inputs };
  });
};

const joined = ([a = "", b = ""]: readonly string[], dice: Dice): string => {
  const number = /\d+/.exec(b)?.[0] ?? b;
  return dice.pick([
    `${a}-${number}`,
    `${a}/${number}`,
    `${a}+${number}`,
    `${a} + ${number}`,
    `${a}–${number}`,
    `${a} & ${number}`,
  ]);
};

interface Dressing {
  readonly tongue: Tongue;
  readonly dice: Dice;
  readonly twoRows: boolean;
  readonly yes: string;
  readonly no: string;
  readonly sides: readonly [string, string];
  readonly format: boolean;
}

const rowsOf = (
  track: KnownTrack,
  { tongue: _tongue, dice, twoRows, yes, no, sides, format }: Dressing,
): readonly Written[] => {
  const cells = (input: string, source: string): Written => ({
    cells: {
      input,
      source,
      microphone: track.microphone,
      phantom: track.phantom ? yes : no,
      folder: track.folder,
      player: track.player,
      note: track.note,
      format: track.pair && !twoRows ? "stereo" : "mono",
    },
    folder: track.folder,
  });
  const [left = "", right = ""] = track.inputs;
  if (!track.pair) return [cells(left, track.name)];
  if (twoRows) return [cells(left, `${track.name} ${sides[0]}`), cells(right, `${track.name} ${sides[1]}`)];
  const name = !format && dice.maybe(0.25) ? `${track.name} ${dice.pick(["(st)", "(stereo)", "L/R"])}` : track.name;
  return [cells(joined(track.inputs, dice), name)];
};

const ORDERS: readonly (readonly Column[])[] = [
  ["input", "source", "microphone", "phantom", "player", "folder", "note"],
  ["input", "source", "microphone", "phantom", "note"],
  ["input", "folder", "source", "microphone", "phantom", "note"],
  ["source", "input", "microphone", "phantom"],
  ["input", "source", "player", "microphone", "phantom", "note"],
  ["folder", "input", "source", "microphone", "phantom"],
  ["input", "source", "microphone", "note"],
  ["input", "source", "format", "microphone", "phantom", "note"],
];

const quoted = (cell: string, delimiter: string): string =>
  cell.includes(delimiter) || cell.includes('"') ? `"${cell.replace(/"/g, '""')}"` : cell;

const padded = (rows: readonly (readonly string[])[]): string => {
  const widths = rows.reduce<number[]>((most, row) => {
    for (const [at, cell] of row.entries()) most[at] = Math.max(most[at] ?? 0, cell.length);
    return most;
  }, []);
  return rows
    .map((row) =>
      row.length === 1
        ? (row[0] ?? "")
        : row
            .map((cell, at) => cell.padEnd((widths[at] ?? 0) + 3))
            .join("")
            .trimEnd(),
    )
    .join("\n");
};

/** How the cells are set apart. */
const LAYOUTS = ["\t", ",", ";", "|", "gaps"] as const;

interface Table {
  readonly rows: readonly (readonly string[])[];
  readonly dress: readonly string[];
}

/** The body of a table: folders in a column of their own, given once or each time, or as rows between. */
const bodyOf = (
  written: readonly Written[],
  order: readonly Column[],
  { groups, once }: { readonly groups: boolean; readonly once: boolean },
): readonly (readonly string[])[] => {
  const rows: (readonly string[])[] = [];
  let last = "";
  for (const { cells, folder } of written) {
    if (groups && folder !== last) rows.push([folder, ...order.slice(1).map(() => "")]);
    rows.push(order.map((column) => (column === "folder" && once && folder === last ? "" : cells[column])));
    last = folder;
  }
  return rows;
};

const tableOf = (tracks: readonly KnownTrack[], order: readonly Column[], dressing: Dressing): Table => {
  const { dice, tongue } = dressing;
  const groups = !order.includes("folder") && dice.maybe(0.35);
  const once = dice.maybe(0.4);
  const written = tracks.flatMap((track) => rowsOf(track, dressing));
  const body = bodyOf(written, order, { groups, once });
  const heading = order.map((column) => dice.pick(tongue.headings[column]));
  const rows: (readonly string[])[] = [heading, ...body];
  const dress: string[] = [groups ? "group rows" : "", once ? "folders once" : ""];
  if (dice.maybe(0.3)) {
    rows.unshift([dice.pick(tongue.titles), ...order.slice(1).map(() => "")]);
    dress.push("title");
  }
  if (dice.maybe(0.25)) {
    rows.push(
      order.map(() => ""),
      [tongue.outputs, ...order.slice(1).map(() => "")],
    );
    rows.push(
      ...OUTPUTS.map((name, at) =>
        order.map((column) => (column === "input" ? String(at + 1) : column === "source" ? name : "")),
      ),
    );
    dress.push("outputs below");
  }
  if (dice.maybe(0.12)) {
    rows.push([`${tongue.total}: ${tracks.length}`, ...order.slice(1).map(() => "")]);
    dress.push("total");
  }
  return { rows, dress };
};

const asText = (rows: readonly (readonly string[])[], layout: (typeof LAYOUTS)[number]): string =>
  layout === "gaps"
    ? padded(rows.map((row) => (row.slice(1).every((cell) => !cell) ? [row[0] ?? ""] : row)))
    : rows.map((row) => row.map((cell) => quoted(cell, layout)).join(layout)).join("\n");

/** A mail: each line a number, a name and a tail. */
const mailOf = (tracks: readonly KnownTrack[], { tongue, dice }: Dressing): string => {
  const separator = dice.pick([" - ", ", ", " – "]);
  const dot = dice.pick([".", ")", "", ":"]);
  const lines = tracks.map((track) => {
    const input = track.pair ? joined(track.inputs, dice).replaceAll(" ", "") : track.inputs[0];
    const tail = [track.microphone, track.phantom ? dice.pick(["48V", "+48", "+48V"]) : "", track.player].filter(
      Boolean,
    );
    return `${input}${dot} ${[track.name, ...tail].join(separator)}`;
  });
  return [
    ...(dice.maybe(0.6) ? [dice.pick(tongue.greetings), ""] : []),
    ...lines,
    ...(dice.maybe(0.25) ? ["", `${tongue.outputs}:`, ...OUTPUTS.map((name, at) => `${at + 1} ${name}`)] : []),
    ...(dice.maybe(0.6) ? ["", dice.pick(tongue.endings)] : []),
  ].join("\n");
};

/** A known plan in the dress of a seed: words, language, order, notation, what stands around it. */
export const dressedList = (seed: number): Dressed => {
  const dice = diceFrom(seed * 7919 + 13);
  const plan = dice.pick(PLANS);
  const tongue = dice.pick(TONGUES);
  const mail = dice.maybe(0.2);
  const order = dice.pick(ORDERS);
  const format = order.includes("format") && !mail;
  const dressing: Dressing = {
    tongue,
    dice,
    twoRows: !mail && !format && dice.maybe(0.4),
    yes: dice.pick(tongue.yes),
    no: dice.pick(tongue.no),
    sides: dice.pick(tongue.sides),
    format,
  };
  const tracks = numbered(plan, dice.maybe(0.08) ? "A" : "");
  if (mail)
    return {
      text: mailOf(tracks, dressing),
      tracks,
      says: new Set(["name", "inputs", "microphone", "phantom", "pair", "player"]),
      dress: `mail, ${tongue.outputs}`,
    };
  const layout = dice.pick(LAYOUTS);
  const { rows, dress } = tableOf(tracks, order, dressing);
  const saidFolder = order.includes("folder") || dress.includes("group rows");
  return {
    text: asText(rows, layout),
    tracks,
    says: new Set<keyof KnownTrack>([
      "name",
      "inputs",
      "microphone",
      "pair",
      "phantom",
      ...(order.includes("player") ? (["player"] as const) : []),
      ...(saidFolder ? (["folder"] as const) : []),
      ...(order.includes("note") ? (["note"] as const) : []),
    ]),
    dress: [
      `${layout === "\t" ? "tab" : layout}`,
      order.join(" "),
      tongue.outputs,
      ...dress,
      dressing.twoRows ? "pairs on two rows" : "",
    ]
      .filter(Boolean)
      .join(", "),
  };
};

/** Whether two cells say the same, whatever their capitals and accents. */
export const sameCell = (a: string, b: string): boolean => plain(a) === plain(b);

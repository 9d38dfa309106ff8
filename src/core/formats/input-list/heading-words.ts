import { plain } from "../../model/families";
import { LIST_COLUMNS } from "../../queries/columns";
import type { Meaning } from "./meanings";

/**
 * What a word of a heading makes likely. `sure` ones hold whatever stands below; of the others what stands below
 * decides, since people mean several things by them ("Type", "Line", "Box").
 */
interface Told {
  readonly meaning: Meaning;
  readonly sure: boolean;
}

const words = (text: string): readonly string[] => text.split(", ").map(plain);

/** Headings as a whole that have one meaning. */
const WHOLE: ReadonlyMap<string, Meaning> = new Map(
  LIST_COLUMNS.flatMap((column) => words(column.words).map((word) => [word, column.meaning] as const)),
);

/** Words within a heading, and what they are likely to mean, the surest first; plain, in five languages. */
const WITHIN: readonly (readonly [Meaning, boolean, string])[] = [
  [
    "ignore",
    true,
    "mic stand type, cable, kabel, cavo, insert, comp, compressor, gate, eq, hpf, lo cut, low cut, vca, dca, mute group, fx, bus, aux, monitor, wedge, iem, checked, check, ok, done, erledigt, fait, hecho, fatto, colour tape, length, multicore loom, output, ausgang, sortie, salida, uscita, width m, date, datum",
  ],
  [
    "position",
    true,
    "mic stand, stands, stand, pos, stativ, stative, pied, pieds, pie, pies, asta, aste, soporte, trepied, boom, position, placement, aufstellung, posicion, posizione, standort, mounting",
  ],
  ["gainSet", true, "gain set db, gain set, gain as set, set gain"],
  [
    "gain",
    true,
    "gain, gain db, pre gain, preamp gain, mic gain, verstarkung, vorverstarkung, ganancia, guadagno, gain preampli, trim db",
  ],
  [
    "phantom",
    true,
    "48v, 48 v, 48, +48, +48v, v48, 48volt, 48 volt, p48, phantom, phantom power, phant, ph pwr, phpwr, pp, phantomspeisung, speisung, alim, alim 48v, alimentation, fantome, fantasma, alimentacion, alimentacion fantasma, alimentazione, alimentazione phantom",
  ],
  [
    "polarity",
    true,
    "polarity, phase, pol, inv, invert, ø, o slash, polaritat, polung, polarite, polaridad, polarita, fase, phase flip, phase reverse, pol rev, fase inv, dreher",
  ],
  [
    "pad",
    true,
    "pad, pads, 20 db, attenuator, attenuation, dampfung, vordampfung, attenuateur, atenuador, attenuatore",
  ],
  [
    "format",
    true,
    "stereo, mono stereo, m s, st mono, mono st, layout, format, width, st, ster, estereo, stereofonico, stereo link, link, pair, paar, paire, par, coppia",
  ],
  [
    "microphone",
    true,
    "microphone, mic, mics, mike, mikes, mikrofon, mikrofone, mikro, mikros, micro, micros, microfono, microfoni, microfonos, micrófono, micrófonos, mic di, mic or di, microphone or box, transducer, pickup, capteur, wandler, kapsel, abnahme, captation, prise de son, mikrofonierung, mic choice, mic type, mik, mic model, di",
  ],
  [
    "track",
    true,
    "track, track name, spur, spurname, piste, nom de piste, pista, nome traccia, traccia, nombre de pista, daw track, channel name, ch name, kanalname, nom de voie, label, scribble, kurzname, short name",
  ],
  [
    "source",
    true,
    "source, sources, instrument, instruments, instrumente, instrumento, instrumentos, strumento, strumenti, quelle, quellen, signal, signale, signaux, senal, segnale, sorgente, fuente, was, what, item, bezeichnung, designation, beschreibung, description, descripcion, descrizione, sound source, stimme, name, nom, nombre, nome, input name, input source, naam, assignment, belegung",
  ],
  [
    "player",
    true,
    "player, musician, performer, artist, who, wer, musiker, musikerin, musicien, musiciens, interprete, musico, músico, musicista, spieler, person, people, qui, quien, chi, besetzung, played by, cast, speaker name, sprecher, actor, band member, performed by",
  ],
  [
    "folder",
    true,
    "folder, group, grp, family, section, ordner, gruppe, familie, dossier, groupe, famille, grupo, gruppo, familia, famiglia, sektion, seccion, sezione, register, submix, subgroup, bereich, kategorie, category, stem, instrument group, rubrik",
  ],
  [
    "room",
    true,
    "room, raum, aufnahmeraum, salle, piece, sala, stanza, studio room, live room, location, ort, lieu, lugar",
  ],
  ["colour", true, "colour, color, dye, farbe, couleur, colore, col"],
  ["icon", true, "icon, symbol, icone, icono, icona"],
  [
    "note",
    true,
    "note, notes, remark, remarks, comment, comments, bemerkung, bemerkungen, anmerkung, anmerkungen, notiz, notizen, kommentar, hinweis, remarque, remarques, commentaire, commentaires, observaciones, observacion, obs, nota, notas, notat, comentario, comentarios, commenti, commento, info, infos, misc, sonstiges, divers, extra info, extras, details, special",
  ],
  [
    "input",
    true,
    "input, inputs, in, inp, ch, chan, channel, channels, chnl, no, nr, num, number, numero, nummer, input no, input number, channel number, kanal, kan, kanale, eingang, eing, eingange, kanalnummer, entree, entrees, entrada, entradas, ingresso, ingressi, canal, canale, canali, canales, voie, voies, voix no, n, n°, pos, lfd, lfd nr, desk ch, desk, console, pult, pultkanal, mixer, mixer ch, line no, #",
  ],
  ["input", false, "line, linie, ligne, linea, row, zeile"],
  [
    "input",
    false,
    "patch, box, stage box, stagebox, socket, xlr, buchse, snake, sub snake, sub, multicore, multi, multipin, core, stage, port, jack, boite, boitier, boitier de scene, boitier scene, patching, snake ch, caja, cajetin, ciabatta, frusta, buhne, stagebox ch, preamp, pre, wall, wall box, wallbox, panel, tie line, tieline, stecker, prise, presa, toma",
  ],
  [
    "microphone",
    false,
    "type, typ, model, modell, modele, modelo, modello, how, wie, comment capte, pick up, with, mit, avec, con, art, tipo, di box, source type",
  ],
  ["player", false, "name, names, artist name"],
];

interface Phrase extends Told {
  readonly words: readonly string[];
}

/** By its first word, the longest phrase first; phrases of equal length in the order above. */
const PHRASES: ReadonlyMap<string, readonly Phrase[]> = (() => {
  const found = new Map<string, Phrase[]>();
  for (const [meaning, sure, text] of WITHIN)
    for (const phrase of words(text)) {
      if (!phrase) continue;
      const parts = phrase.split(" ");
      const first = parts[0] ?? "";
      const there = found.get(first) ?? [];
      there.push({ meaning, sure, words: parts });
      found.set(first, there);
    }
  for (const phrases of found.values()) phrases.sort((a, b) => b.words.length - a.words.length);
  return found;
})();

/** Beginnings by which a word that is cut short or misspelt is still known. */
const STEMS: readonly (readonly [RegExp, Meaning])[] = [
  [/^m(?:ic|ik)r/, "microphone"],
  [/^(?:phan|phat|fant)/, "phantom"],
  [/^(?:instr|strum|sourc|quel|bezei|signa)/, "source"],
  [/^(?:bemer|remar|comm|komm|anmer|hinw|obser|notiz)/, "note"],
  [/^(?:musik|musi[cz]|perform|spiel)/, "player"],
  [/^(?:grup|grou|regis)/, "folder"],
  [/^(?:einga|entr|ingr|chan|kana|cana|inpu)/, "input"],
  [/^(?:posi|stati|stand)/, "position"],
];

export interface HeadingWords {
  /** What the whole heading is known for; null when it is not known as a whole. */
  readonly whole: Meaning | null;
  /** What its words tell, from its first to its last; one meaning once. */
  readonly told: readonly Told[];
  /** Share of its words that are known, 0 to 1. */
  readonly known: number;
}

/** Signs that stand for a word in a heading. */
const spelled = (heading: string): string =>
  heading
    .replace(/[Øø∅⌀]/g, " polarity ")
    .replace(/n[°º]/gi, " nr ")
    .replace(/№/g, " nr ")
    .replace(/#/g, " # ")
    .replace(/\+\s?48/g, " 48 ");

const MOST_WORDS = 24;

/**
 * What a heading tells: the longest known phrase from each place on. Two-language headings and headings over two rows
 * ("Source / Quelle") tell the same twice. Linear in the heading.
 */
export const headingWords = (heading: string): HeadingWords => {
  const text = plain(spelled(heading));
  if (!text) return { whole: null, told: [], known: 0 };
  const tokens = text.split(" ").slice(0, MOST_WORDS);
  const told: Told[] = [];
  let known = 0;
  for (let at = 0; at < tokens.length; ) {
    const from = at;
    const phrases = (PHRASES.get(tokens[at] ?? "") ?? []).filter(({ words: parts }) =>
      parts.every((part, n) => tokens[from + n] === part),
    );
    const longest = phrases[0]?.words.length ?? 0;
    for (const { meaning, sure, words: parts } of phrases)
      if (parts.length === longest && !told.some((one) => one.meaning === meaning)) told.push({ meaning, sure });
    const stem = longest ? undefined : STEMS.find(([pattern]) => pattern.test(tokens[from] ?? ""))?.[1];
    if (stem && !told.some((one) => one.meaning === stem)) told.push({ meaning: stem, sure: true });
    known += stem ? 1 : longest;
    at += longest || 1;
  }
  return { whole: WHOLE.get(plain(heading)) ?? WHOLE.get(text) ?? null, told, known: known / tokens.length };
};

import { describe, expect, it } from "vitest";
import type { Family } from "./families";
import { guessFamily } from "./guess-family";

const TABLE: { readonly [F in Family]: string } = {
  percussion:
    "OH, OHs, Sn, Sn T, HH, BD, Bassdrum, FT, Ride, Kick in, Snare bottom, Perc, Rack tom, Hi-Hat, Tom 2, Cajón, Grosse caisse, Caisse claire, Rullante, Bombo, Becken, Pauken, Overhead L, Drum machine",
  "low-strings":
    "Bass DI, E-Bass, EBass, Upright, Upright bass, Double bass, Kontrabass, Contrebasse, Contrabbasso, Bass amp",
  "plucked-strings":
    "Gtr, Gtr 1, EGtr, E-Gtr, Ac Gtr, E-Gitarre, Akustikgitarre, Guitarra, Chitarra, Banjo, Harp, Mandoline, Cimbalom",
  "bowed-strings": "Vln, Vln 1, Violine II, Vla, Bratsche, Vc, Vc., Cello, Fiddle, String quartet, Archi",
  keys: "Synth, Pno, Piano (st), Keys L, Orgel, Fisarmonica, Accordion, Rhythm organ, Stage piano, Upright piano",
  brass: "Tpt, Tbn, French horn, Flugelhorn, Posaune, Tromba, Tuba, Bass trombone, Tenor horn",
  woodwind: "Sax, Tenor sax, Alto sax, Baritone sax, Altsax, Clarinet, Bass clarinet, Alto flute, Querflöte, Oboe",
  voices:
    "BV, BVs, LV, Lead vox, Vox 2, Vocal, Ges. Ilse, Hauptgesang, Voix lead, Voz, Coro, Choir 3, Soprano, Drum vox, Vox Gtr, Guest vox",
  speech: "Host, Guest, Guest 2, Phone, Narrator, Ansage, Moderation, Talkback, Voice over, Récitant, Lectern",
  rooms: "Room, Room L, Amb, Ambience, Audience, Publikum, Hauptsystem, Main pair, Drum room",
  references: "Click, Playback, Jingle, Backing track, Klick, Zuspieler",
};

describe("families by the trade's words in five languages", () => {
  it.each(Object.entries(TABLE).flatMap(([family, names]) => names.split(", ").map((name) => [name, family])))(
    "%s belongs to %s",
    (name, family) => expect(guessFamily(name)).toBe(family),
  );

  it.each(["Wibble", "Gizmo", "Spare", "Ch 12", "Foley table", "Altered state", "Commode", "Ferryman", ""])(
    "%j stays unknown rather than wrong",
    (name) => expect(guessFamily(name)).toBeNull(),
  );
});

describe("words with two meanings", () => {
  const choir = ["Sopran", "Alt", "Tenor", "Bass"];
  const band = ["Kick", "Bass", "Gtr", "Lead vox"];

  it.each([
    ["Bass", { names: choir }, "voices"],
    ["Bass", { names: band }, "low-strings"],
    ["Bass 2", { names: [...choir, "Bass 2"] }, "voices"],
    ["Bass", { names: choir, microphone: "DI" }, "low-strings"],
    ["Tenor", { names: choir }, "voices"],
    ["Tenor", { names: ["Alto sax", "Tpt", "Tenor", "Tbn"] }, "woodwind"],
    ["Tenor sax", { names: choir }, "woodwind"],
    ["Bass", { folder: "Voices", names: ["Bass"] }, "voices"],
    ["Wibble", { folder: "Strings" }, "bowed-strings"],
    ["Wibble 3", { words: new Map<string, Family>([["wibble", "keys"]]) }, "keys"],
    ["Lead", { names: band, microphone: "DI" }, null],
  ] as const)("%s among %j is %s", (name, around, family) => expect(guessFamily(name, around)).toBe(family));
});

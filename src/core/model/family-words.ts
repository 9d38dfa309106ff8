import type { Family } from "./families";

/**
 * Words by which a source is known, of a whole word or of several, without accents and in lower case, in English,
 * German, French, Spanish and Italian, with the trade's short forms. A word of five letters or more also begins one
 * ("trumpet" in "trumpets"); shorter ones stand alone, or before a plural s.
 */
export const FAMILY_WORDS: Readonly<Record<Family, string>> = {
  percussion:
    "drum, drums, drumkit, drum kit, kit, snare, sn, snr, sd, sidestick, side stick, tom, toms, t1, t2, t3, floor tom, floor, rack tom, ft, rt, kick, kik, kck, bd, bass drum, bassdrum, grosse caisse, gc, gran cassa, bombo, cassa, cymbal, cymbals, crash, ride, china, splash, hat, hats, hh, hihat, hi hat, high hat, charleston, charley, perc, percussion, percu, perkussion, percusion, percussioni, shaker, tambourine, tamb, tamburin, pandereta, cajon, djembe, darbuka, bodhran, udu, frame drum, timpani, timp, timpano, glockenspiel, glock, bells, bell, tubular, vibraphone, vibes, vibraphon, vibrafono, marimba, xylophone, xylophon, xylo, triangle, triangel, woodblock, wood block, cowbell, claves, clap, claps, maracas, conga, congas, bongo, bongos, timbales, tabla, gong, tam tam, overhead, overheads, oh, ohs, above, panoramici, over, trommel, pauke, pauken, becken, schlagzeug, schlagwerk, schlagz, batterie, bateria, batteria, caja, caisse, caisse claire, caisse cl, cc, rullante, tamburo, cymbale, cymbales, timbale, platos, platillos, piatti, timbal, redoblante, standtom, hangetom, rahmentrommel, drum machine, drum pad, drumpad, trigger, waschbrett, washboard, foot stomp, stomp",
  "low-strings":
    "double bass, upright bass, upright, bass guitar, bass gtr, bass di, bass amp, bass mic, bass cab, bass line, bass synth, e bass, ebass, electric bass, el bass, acoustic bass, low strings, kontrabass, kontrab, kb, contrebasse, contrabajo, contrabbasso, contrabass, basse, bajo, basso elettrico, basso el, bassgitarre, bass gitarre, guitare basse, bs, ubass, db",
  "plucked-strings":
    "guitar, guitars, gtr, gtrs, gt, git, guit, egtr, e gtr, agtr, a gtr, acgtr, ac gtr, elgtr, el gtr, eg, ag, egit, agit, e git, a git, acoustic, ac guitar, acou, cimbalom, hackbrett, dulcimer, harp, harfe, harpe, arpa, lute, laute, luth, laud, oud, mandolin, mandoline, mandolina, mandolino, mando, banjo, bjo, zither, cithare, ukulele, uke, bouzouki, bouz, charango, sitar, koto, kora, lap steel, pedal steel, steel, slide, gitarre, gitarren, guitarra, guitare, guitares, chitarra, chitarre, plucked, nylon, western, nylon gtr, theorbe, theorbo",
  "bowed-strings":
    "fiddle, fidel, violin, violins, vln, vlns, vl, vn, vni, viola, violas, vla, vle, va, cello, celli, vc, vcl, vlc, violoncello, cellos, strings, string, str, strgs, string quartet, string section, geige, geigen, violine, bratsche, bratschen, streicher, violon, violons, violoncelle, alto solo, bowed, violino, violini, violin, archi, cuerdas, cordes, gambe, viola da gamba, erhu, hurdy gurdy, drehleier, nyckelharpa, streichquartett, quatuor, cuarteto de cuerdas",
  keys: "piano, pno, pft, grand, grand piano, upright piano, organ, orgel, orgue, organo, org, accordion, accord, acc, akk, akkordeon, accordeon, acordeon, fisarmonica, harmonium, melodica, concertina, bandoneon, keys, kys, keyb, kbd, keyboard, keyboards, celesta, celeste, klavier, clavier, clavinet, clav, flugel, electric piano, e piano, epiano, ep, stage piano, synth, synths, synthesizer, synthe, synthi, syn, sintetizador, sinte, teclado, teclados, tastiera, tastiere, tasten, pianoforte, cembalo, harpsichord, clavecin, clavicembalo, spinett, harmonika, orgelpositiv, positiv, truhenorgel, sampler",
  brass:
    "brass, trumpet, trumpets, tpt, tpts, trp, trpt, trmp, tp, cornet, kornett, flugelhorn, flugel horn, fluegelhorn, flgh, flh, horn, horns, hrn, hn, waldhorn, french horn, f horn, tenor horn, alto horn, trombone, trombones, tbn, tbns, trb, trbn, bone, bones, tuba, tba, sousaphone, sousaphon, sousafon, euphonium, euph, baritone horn, baritones, repiano, bass trombone, tenor trombone, winds, wind, bugle, trompete, trompeten, posaune, posaunen, blaser, blech, blechblaser, cuivre, cuivres, trompette, trompettes, cor, cors, tromba, trombe, trompa, trompas, trompeta, trombon, tromboni, corno, corni, ottoni, metales, fliscorno, bombardino, e flat bass, b flat bass, saxhorn, ophicleide, serpent, alphorn, didgeridoo",
  woodwind:
    "clarinet, clar, cl, clt, klar, klarinette, clarinette, clarinete, clarinetto, bass clarinet, bcl, bassklarinette, flute, flutes, fl, flt, flote, floten, querflote, blockflote, flauta, flauto, flauti, piccolo, picc, alto flute, bass flute, oboe, ob, oboes, hautbois, oboi, english horn, cor anglais, englischhorn, corno inglese, bassoon, bsn, fg, fag, fagott, basson, fagot, fagotto, saxophone, sax, saxes, saxofon, saxophon, sassofono, alto sax, alt sax, altsax, altsaxofon, altsaxophon, tenor sax, tenorsax, tenorsaxofon, bari sax, barisax, baritone sax, baritonsax, soprano sax, sopransax, bass sax, asax, tsax, bsax, ssax, a sax, t sax, b sax, s sax, bari, recorder, woodwind, woodwinds, ww, holz, holzblaser, bois, legni, maderas, whistle, tin whistle, low whistle, pipes, bagpipe, uilleann, dudelsack, cornemuse, gaita, shawm, schalmei, pan flute, panflote, harmonica, mundharmonika, armonica, harp mic, duduk, ney, shakuhachi",
  voices:
    "voice, voices, voc, vocs, vocal, vocals, vox, vx, singer, singers, choir, choeur, choeurs, coro, cori, coros, coristes, choriste, chor, chorus, chorister, backing vocal, backing vox, backing, bv, bvs, bvox, bgv, bgvs, bg vox, bg, lv, ld vox, lead vox, lead vocal, lead voice, lead singer, second voice, mezzo, sopran, soprano, sopranos, sop, mezzosoprano, countertenor, solistin, solist, solisten, soliste, solista, solistas, stimme, stimmen, gesang, ges, hauptgesang, leadgesang, backgroundgesang, backings, sanger, sangerin, voix, chant, chanteur, chanteuse, choriste, voz, voces, voce, voci, cantante, cantanti, canto, hauptstimme, rap, rapper, beatbox, tutti, schola, kinderchor, descant, treble voice, dr vox, drum vox, gtr vox, key vox, keys vox, bass vox, bass vocal, bass voice, drum vocal, guitar vocal, keys vocal, drummer vox",
  speech:
    "narrator, narration, narr, presenter, presentation, conductor, speaker, speech, actor, actress, announcer, announce, ansage, ansager, sprecher, sprecherin, sprache, erzahler, erzahlerin, erz, moderation, moderator, moderatorin, mod, narrateur, narratrice, parole, presentateur, presentatrice, conteur, conteuse, recitant, recitante, comedien, comedienne, host, cohost, co host, guest, guests, gast, gaste, invite, invitee, invitado, invitada, ospite, ospiti, presentador, presentadora, presentatore, conduttore, conduttrice, narrador, narradora, narratore, narratrice, locutor, locutora, locutore, attore, attrice, actriz, interview, interviewer, interviewee, panel, panelist, lectern, pulpit, rednerpult, pult, pupitre, atril, leggio, dialog, dialogue, voice over, vo, telephone, phone, telefon, telefono, caller,  dirigent, dirigentin, talkback, tb mic, mc mic, podcast, priest, pfarrer, lecteur, lectrice, leser, lesung, souffleur",
  rooms:
    "room, rooms, rm, roommic, room mic, hall, main pair, outrigger, outriggers, ambience, ambiance, ambient, amb, ambi, audience, aud, crowd, raum, saal, publikum, publ, applaus, applause, salle, public, publico, pubblico, atmosphere, atmo, atmos, sala, ambiente, raummikro, raummikrofon, tree, hauptmikro, hauptmikrofon, hauptsystem, couple, coppia, spill mic, far pair, church, nave, kirche, river, stair, chamber, hallraum",
  references:
    "click, klick, clic, metronome, metronom, metronomo, playback, playbacks, pb, pbk, backing track, backing tracks, tracks, trax, loop, loops, jingle, jingles, sting, bumper, music bed, bed, reference, ref, referenz, guide, guide track, sequencer, sequenz, seq, timecode, smpte, ltc, zuspieler, zuspielung, zuspiel, einspieler, laptop, computer, pc, tablet, player, cd, usb, media player, bande, base, basi, bases, pista, pistas, secuencia, sequenze, music, musik, musique, sfx, sound effects, effekte, samples, stems",
};

/** Words that belong to one family among their like and to another in a band: they decide only where nothing else does. */
export const UNSURE_WORDS: Readonly<Record<string, { readonly band: Family | null; readonly singers: Family }>> = {
  bass: { band: "low-strings", singers: "voices" },
  basses: { band: null, singers: "voices" },
  basse: { band: "low-strings", singers: "voices" },
  basso: { band: "low-strings", singers: "voices" },
  bassi: { band: null, singers: "voices" },
  bajo: { band: "low-strings", singers: "voices" },
  bajos: { band: null, singers: "voices" },
  alto: { band: "woodwind", singers: "voices" },
  altos: { band: null, singers: "voices" },
  alt: { band: "woodwind", singers: "voices" },
  contralto: { band: "voices", singers: "voices" },
  tenor: { band: "woodwind", singers: "voices" },
  tenors: { band: null, singers: "voices" },
  tenore: { band: "woodwind", singers: "voices" },
  tenori: { band: null, singers: "voices" },
  tenore1: { band: null, singers: "voices" },
  baritone: { band: "woodwind", singers: "voices" },
  bariton: { band: "woodwind", singers: "voices" },
  baryton: { band: "woodwind", singers: "voices" },
  baritono: { band: "woodwind", singers: "voices" },
  lead: { band: "voices", singers: "voices" },
  main: { band: null, singers: "rooms" as Family },
  solo: { band: null, singers: "voices" },
};

/** Words of which one at least, and another beside it, make a list one of singers: the parts of a choir. */
export const CHOIR_PARTS: ReadonlySet<string> = new Set(
  "soprano sopranos sopran soprani mezzo alto altos alti alt contralto tenor tenors tenore tenori tenor1 basses bassi bajos bariton baritono baryton choir chor choeur coro".split(
    " ",
  ),
);

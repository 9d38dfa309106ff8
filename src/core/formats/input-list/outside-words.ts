import { plain } from "../../model/families";

/** What a block of a list that holds no inputs is about. */
export type Outside = "outputs" | "monitors" | "returns" | "other";

const BLOCK_WORDS: readonly (readonly [Exclude<Outside, "other">, RegExp])[] = [
  [
    "returns",
    /^(?:(?:fx|effects?|effekt(?:e|wege)?|reverb|hall|desk|stereo|stage|mon) )?(?:returns?|rtns?|ruckwege?|effektruckwege?|retours?|retornos?|ritorni|ritorno|fx)(?: (?:fx|effects?|effets|effekte|efectos|effetti|list|to stage))?$/,
  ],
  [
    "monitors",
    /^(?:(?:stage|stereo|buhnen?|floor|personal) )?(?:monitors?|monitoring|mons?|monitor ?mix(?:es|e)?|monitor ?wege?|monitor sends|mix(?:es)?|wedges?|aux(?:es)?|aux sends?|iems?|in ?ears?|in ear (?:mixes|monitors|monitoring|wege|systems)|headphones?|phones|cans|cue mix(?:es)?|cues|kopfhorer(?:wege|mischungen|mixe)?|casques?|ecoutes?|retours? (?:casque|scene)|retours de scene|auriculares|monitores|cuffie|ascolti|spie|monitorwege)(?: (?:list|liste|mix(?:es)?|sends|lista|stage|buhne))?$/,
  ],
  [
    "outputs",
    /^(?:(?:desk|stage|console|analog|analogue|pult|system) )?(?:outputs?|outs|output list|ausgange?|ausgangsliste|ausgangsbelegung|sorties?|liste des sorties|salidas?|lista de salidas|uscite|uscita|lista uscite|matrix|matrices|pa|foh outputs?|sends|busses|buses|dcas?|vcas?|mute groups?|groups? outputs?)(?: (?:list|liste|patch|lista|stage|foh))?$/,
  ],
];

/** The words of a title without its signs, numbers and what stands in brackets. */
const titleWords = (text: string): string =>
  plain(text.replace(/\([^)]{0,60}\)/g, " "))
    .replace(/[#+]/g, " ")
    .replace(/\b\d{1,3}\b/g, " ")
    .replace(/ {2,}/g, " ")
    .trim();

/** What a row that stands alone says follows, where that is no inputs; "and" and slashes join several of them. */
export const outsideTitle = (text: string): Outside | null => {
  if (text.length > 60) return null;
  const parts = text
    .split(/[/&+,]|\b(?:and|und|et|y|e)\b/i)
    .map(titleWords)
    .filter(Boolean);
  const kinds = parts.map((part) => BLOCK_WORDS.find(([, pattern]) => pattern.test(part))?.[0] ?? null);
  return parts.length && kinds.every((kind) => kind !== null) ? (kinds[0] ?? null) : null;
};

const INPUT_TITLE =
  /^(?:(?:desk|stage|mic|console|analog|analogue) )?(?:inputs?|input list|input patch|inputliste|eingange?|eingangsliste|kanalliste|kanalbelegung|entrees?|liste des entrees|patch d entrees|entradas?|lista de entradas|ingressi|ingresso|lista ingressi|channel list|channels|mics|sources|lines|tracks)(?: (?:list|liste|patch|lista))?$/;

/** A title that says that inputs follow. */
export const isInputTitle = (text: string): boolean => INPUT_TITLE.test(titleWords(text));

const OUTPUT_HEADING =
  /\b(?:outputs?|outs?|out|mix|aux|send|bus|matrix|ausgang|ausgange|sortie|salida|uscita|destination|ziel|feeds|speaker|lautsprecher|monitor|wedge|iem|ohren|wer hort)\b/;

/** Whether a row of headings stands over outputs rather than inputs: it names them, and no input and no microphone. */
export const isOutputHeading = (cells: readonly string[]): boolean => {
  const texts = cells.map(plain).filter(Boolean);
  return (
    OUTPUT_HEADING.test(texts[0] ?? "") &&
    !texts.some((text) => /\b(?:mic|micro|mikro|mikrofon|48v?|input|di)\b/.test(text))
  );
};

const OUTPUT_NAME =
  /^(?:(?:stage|floor|bass|drum|vocal|vox|lead) )?(?:wedges?|monitor(?: mix| send)?|mon(?: mix)?|iems?|in ears?|aux(?: send)?|mix|fb|foldback|side ?fills?|drum ?fill|front ?fills?|main (?:l|r|lr|left|right|out|mix)|pa (?:l|r|lr|left|right)|subs?|delays? (?:l|r)|foh (?:l|r|out)|headphones?|phones|kopfhorer|cans|casque|cuffie|cuffia|auriculares|matrix|rec(?:ord)? out|broadcast|stream|lobby|output|out|ausgang|sortie|salida|uscita|spia|retour)\b/;

/** Whether a row names something to listen on rather than to record: "Wedge 1", "IEM drummer", "Aux 3". */
export const isOutputName = (name: string): boolean => OUTPUT_NAME.test(plain(name));

const TOTAL =
  /^(?:totals?|sum|summe|gesamt|insgesamt|somme|suma|somma|totale|in total|inputs total|total inputs)\b|^\d{1,3} (?:inputs?|channels?|ch|lines|kanale|eingange|voies|entrees|canales|canali|entradas|ingressi)(?: (?:total|in total|gesamt|insgesamt|au total|en total|in totale))?$/;
const PAGE = /^(?:page|seite|pagina|p|s|blatt|sheet|feuille|hoja) ?\d{1,3}(?: ?(?:of|von|sur|de|di|\/)? ?\d{1,3})?$/;

export const isTotal = (text: string): boolean => TOTAL.test(plain(text));
export const isPageFoot = (text: string): boolean => PAGE.test(plain(text));

/** A row of lines and dots only, as stand under headings. */
export const isRule = (cells: readonly string[]): boolean => {
  const text = cells.join("");
  return text.length >= 2 && /^[-=_*~.:|+\s–—─━═┄]+$/.test(text);
};

import { plain } from "../../model/families";

/** Words that name a microphone or box by themselves. */
const CORE = new Set(
  (
    "dyn din dynamic dynamics dynamisch dynamique dinamico dynamik coil tauchspule condenser cond kondensator condensateur condensatore condensador statique statico " +
    "ldc sdc ldcs sdcs omni omnis cardioid kugel niere kugelmikro richtrohr shotgun canon ribbon ribbons ruban bandchen nastro cinta rib lav lavs lavalier lavaliere headset headsets nackenbugel " +
    "pzm boundary grenzflache grenzfl clip clipon ansteck ansteckmikro pinza cravate pince kleinmembran kleinmembraner grossmembran grossmembraner di dis dibox electret elektret handheld " +
    "wireless radio funk funkmikro funkmikrofon serretete archetto diadema xlr klinke trs jack reamp hf line linie ligne linea"
  ).split(" "),
);
/** Words that describe one, or say how many. */
const BESIDE = new Set(
  (
    "active passive aktiv passiv aktive passive act pass actif active passif attivo attivi attiva passivo passiva activo activa pasivo large small low moving pair pairs paar paare stereo matched on valve tube rohre rohren own supply box mic mics mike " +
    "mikro mikrofon micro mikrofone membran klein gross diaphragm grand grande petit petite membrane a b c x 2x 4x 1x spaced xy ortf ab ms blumlein figure 8 fig eight super hyper supercardioid hypercardioid over ear contact " +
    "membrana kapsel"
  ).split(" "),
);
/** Boxes and cables: they follow names as part of them as well ("Bass DI"). */
const IN_NAMES = new Set(["di", "dis", "xlr", "jack", "klinke", "trs", "reamp"]);

const isCount = (token: string): boolean => /^\d{1,2}x?$|^x\d{1,2}$|^[ab]\d?$/.test(token);
const tokens = (text: string): readonly string[] => plain(text.replace(/[+/&]/g, " ")).split(" ").filter(Boolean);

/** Whether a text tells of a microphone or a box and of nothing else: "2x SDC", "active ribbon", "moving-coil 3". */
export const isMicrophone = (text: string): boolean => {
  const all = tokens(text);
  return (
    all.length > 0 &&
    all.length <= 8 &&
    all.some((token) => CORE.has(token)) &&
    all.every((token) => CORE.has(token) || BESIDE.has(token) || isCount(token))
  );
};

/** Whether a text has a word that only a microphone or box is called by. */
export const tellsMicrophone = (text: string): boolean => tokens(text).some((token) => CORE.has(token));

/**
 * A name and the words of a microphone behind it, parted: "Lead vox LDC" is "Lead vox" with "LDC". A box stays in the
 * name as well, since it tells two lines of one instrument apart ("Bass DI"). Null when none follows.
 */
export const nameAndMicrophone = (text: string): { readonly name: string; readonly microphone: string } | null => {
  const parts = text.split(/\s+/).filter(Boolean);
  let from = parts.length;
  while (from > 1) {
    const token = plain(parts[from - 1] ?? "");
    const sub = token.split(" ");
    if (!sub.every((one) => CORE.has(one) || BESIDE.has(one) || isCount(one))) break;
    from--;
  }
  // What only counts or describes at the front of the tail belongs to the name: "Vox 2 dyn", "Overhead pair SDC".
  while (from < parts.length && /^\d+$|^[a-c]$|^[x×]\d+$/i.test(parts[from] ?? "")) from++;
  const tail = parts.slice(from);
  if (!tail.length || !tellsMicrophone(tail.join(" "))) return null;
  const name = parts.slice(0, from).join(" ");
  const onlyBox = tokens(tail.join(" ")).every((token) => IN_NAMES.has(token));
  return { name: onlyBox ? text : name, microphone: tail.join(" ").replace(/^[([]|[)\]]$/g, "") };
};

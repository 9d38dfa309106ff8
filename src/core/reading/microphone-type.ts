import { plain } from "../model/families";
import type { MicrophoneKind } from "../model/microphone-kinds";

/** Whether a text in plain words has one of these: alone, or as the beginning of a word where a star follows it. */
const anyOf = (words: string): { readonly test: (text: string) => boolean } => {
  const parts = words.split(", ").map((word) => (word.endsWith("*") ? ` ${word.slice(0, -1)}` : ` ${word} `));
  return {
    test: (text) => {
      const whole = ` ${text} `;
      return parts.some((part) => whole.includes(part));
    },
  };
};

const ACTIVE = anyOf("active, act, aktiv*, actif, active, attiv*, activ*");
const RIBBON = anyOf("ribbon*, bandchen*, ruban*, nastro, nastri, cinta, cintas, rib");
const BOX = anyOf("di, dis, dibox*, direct box, direct inject*, d i, boite de direct");
const OWN_SUPPLY = anyOf(
  "own supply, power supply, eigenes netzteil, mit netzteil, netzteil, valve*, tube, tubes, rohre*, alimentation propre, statique a lampe, lampe, valvola*, valvula*, psu, battery, batterie, wireless, radio, funk*, sans fil, senza fili, inalambric*, hf",
);
const CONDENSER = anyOf(
  "condenser*, kondensator*, statique*, statico, kleinmembran*, grossmembran*, klein membran*, gross membran*, boundary, grenzfl*, clip, clips, clip on, clipon, ansteck*, lavalier*, lav, lavs, cond, electret*, elektret*, ldc, sdc, ldcs, sdcs, omni, omnis, headset*, shotgun*, pzm, condensat*, condensad*, cravate, pinza, archetto, diadema, serre tete, richtrohr*, canon, kugel*, nackenbugel*, large diaphragm, small diaphragm, grande membrane, petite membrane, membrana grande, membrana pequena",
);
const MOVING_COIL = anyOf(
  "moving coil*, tauchspule*, dynami*, dinami*, dyn, dyns, din, bobine mobile, bobina mobile, bobina movil",
);
const LINE = anyOf("line, linie, ligne, linea, lines");

/**
 * Kind of a microphone or box by what it is called: "Bändchen passiv", "SDC pair", "act. DI"; null when no word tells. A
 * ribbon not said to be active counts as passive, a box likewise: the careful reading. What is wireless or has a supply
 * of its own needs no phantom.
 */
export const microphoneType = (name: string): MicrophoneKind | null => {
  const words = plain(name);
  if (RIBBON.test(words)) return ACTIVE.test(words) ? "ribbon-active" : "ribbon-passive";
  if (BOX.test(words)) return ACTIVE.test(words) ? "di-active" : "di-passive";
  if (OWN_SUPPLY.test(words)) return "condenser-supplied";
  if (CONDENSER.test(words)) return "condenser";
  if (MOVING_COIL.test(words)) return "moving-coil";
  return LINE.test(words) ? "line-source" : null;
};

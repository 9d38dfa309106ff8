import { applyAll } from "../commands/apply";
import { planImport } from "../formats/input-list/plan-import";
import { readInputList } from "../formats/input-list/read-input-list";
import { type IdSource, sequentialIds, type TemplateId } from "../model/ids";
import { monitorOutputs } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { emptyTemplate, type SessionKind, type Template } from "../model/template";
import { duoRig, wholeMill } from "./rigs";

/** The Nine as the engineer wrote them down. The clarinet's active ribbon was left without phantom: the checks tell it. */
const NINE = `Input,Source,Microphone,Phantom,Player,Folder,Colour,Note
1,Bass drum,Low moving-coil,no,Pell Marrow,Percussion,madder,inside the shell
2,Frame drum,Moving-coil 1,no,Pell Marrow,Percussion,madder,
3,Snare,Moving-coil 2,no,Pell Marrow,Percussion,madder,
4,Shaker table,Moving-coil 3,no,Pell Marrow,Percussion,madder,
5-6,Above,Small condenser pair,yes,Pell Marrow,Percussion,madder,
7,Double bass DI,DI box active,yes,Bram Teller,Low strings,walnut,
8,Double bass,Large condenser A,yes,Bram Teller,Low strings,walnut,blend with the DI
11-12,Cimbalom,Passive ribbon pair,no,Juno Ashby,Strings,weld,no phantom
9,Fiddle,Clip-on condenser 1,yes,Wynn Solari,Strings,weld,
13-14,Accordion,Moving-coil 4 + Moving-coil 5,no,Odile Farr,Keys,verdigris,
E1,Clarinet,Active ribbon,no,Kester Blom,Winds,ochre,
10,Trumpet,Moving-coil 6,no,Mab Tregarth,Winds,ochre,
E2,Sousaphone,Clip-on condenser 2,yes,Hob Linley,Winds,ochre,
E3,Lead voice,Large condenser B,yes,Ilse Varga,Voices,cochineal,
E4,Second voice,Boundary condenser,yes,Juno Ashby,Voices,cochineal,
`;

const POCKET = `Input,Source,Microphone,Phantom,Player,Colour,Note
1,Guitar,,no,Nadia Okonjo-Reyes,weld,straight in at instrument level
2,Voice,Moving-coil 1,no,Nadia Okonjo-Reyes,cochineal,
`;

interface FromList {
  readonly id: string;
  readonly name: string;
  readonly kind: SessionKind;
  readonly rig: Rig;
  readonly list: string;
  readonly ids: IdSource;
}

/** A template made of an input list. Throws when the list can't be read: the lists here are ours. */
export const templateFromList = ({ id, name, kind, rig, list, ids }: FromList): Template => {
  const read = readInputList(list);
  if (!read.ok) throw new Error(`expected a readable list for ${name}, got: ${read.message}`);
  const empty = emptyTemplate({ id: id as TemplateId, name, kind, rigId: rig.id, mainOutputs: monitorOutputs(rig) });
  const made = applyAll(empty, planImport(read.list, rig, ids).commands);
  if (!made.ok) throw new Error(`expected the list of ${name} to apply, got: ${made.refusal.message}`);
  return made.doc;
};

/** The templates that a new library starts with. */
export const demoTemplates = (): readonly Template[] => [
  templateFromList({ id: "pocket-sketch", name: "Pocket sketch", kind: "solo", rig: duoRig, list: POCKET, ids: sequentialIds() }),
  templateFromList({ id: "tidewrack-nine", name: "The Tidewrack Nine", kind: "band", rig: wholeMill, list: NINE, ids: sequentialIds() }),
];

import { downBy } from "../levels/headroom";
import { mixLevels } from "../levels/mix-levels";
import { worstPeakDb } from "../levels/sides";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { Template } from "../model/template";
import { graphOf } from "../routing/graph";
import { orderOf } from "../routing/order";
import { dB } from "../units/decibels";
import type { Edit } from "./edits/edit";
import { applyAll } from "./edits/template-editing";

/**
 * Trims of every bus on the way, and of the main bus at last, as far as everything at once asks for, with the template
 * as it is then.
 */
export const trimsFor = (
  doc: Template,
  gear: { readonly rig: Rig; readonly studio: Studio },
): { readonly doc: Template; readonly edits: readonly Edit[] } => {
  const edits: Edit[] = [];
  let now = doc;
  for (const id of orderOf(graphOf(doc)).ids) {
    const channel = now.channels[id];
    const sides = mixLevels(now, gear).channels.get(id)?.after;
    const by = sides && channel && ["bus", "return", "main"].includes(channel.kind) ? downBy(worstPeakDb(sides)) : 0;
    if (!by || !channel) continue;
    const trim: Edit = { kind: "entries.set", table: "channels", ids: [id], set: { trimDb: dB(channel.trimDb - by) } };
    const done = applyAll(now, [trim]);
    if (!done.ok) break;
    now = done.doc;
    edits.push(trim);
  }
  return { doc: now, edits };
};

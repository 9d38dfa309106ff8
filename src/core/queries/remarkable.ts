import { perDocument } from "../model/per-document";
import { listOf } from "../model/table";
import type { Processor, ProcessorOf } from "../model/tables/chain-processors";
import type { Template } from "../model/template";

/**
 * Processors by what can be said of them: nearly all are none of these, and one pass over the table finds them for all
 * checks, kept for as long as no processor changes.
 */
export const remarkable = perDocument((processors: Template["processors"]) => {
  const found = {
    effects: [] as Processor[],
    listening: [] as Processor[],
    asking: [] as Processor[],
    splits: [] as ProcessorOf<"split">[],
    inserts: [] as ProcessorOf<"insert">[],
    moved: [] as Processor[],
    gates: [] as Processor[],
  };
  for (const processor of listOf<Processor>(processors)) {
    if (processor.installed) found.asking.push(processor);
    if (processor.steering) found.moved.push(processor);
    if (processor.bypassed) continue;
    if (processor.kind === "reverb" || processor.kind === "delay") found.effects.push(processor);
    else if (processor.kind === "insert") found.inserts.push(processor);
    else if (processor.kind === "split") found.splits.push(processor);
    else if ("listens" in processor && processor.listens === "others") found.listening.push(processor);
  }
  found.gates = listOf<Processor>(processors).filter(({ kind, bypassed }) => kind === "gate" && !bypassed);
  return found;
});

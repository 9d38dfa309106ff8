import type { LineId } from "../model/ids";
import { linesOf } from "../model/read-template";
import type { Template } from "../model/template";
import { causeOf } from "./cause";
import { changedReads, readsAnyOf } from "./changed-reads";
import type { Check, CheckContext, Finding } from "./finding";
import { Nameless } from "./nameless";
import type { Read } from "./reads";
import { Speaking } from "./spoken";

export interface AcceptedFinding {
  readonly finding: Finding;
  readonly reason: string;
}

export interface Evaluation {
  /** What nobody has accepted, problems before hints, in the order of the rules. */
  readonly open: readonly Finding[];
  /** What the engineer lives with, for as long as its cause stays the same. */
  readonly accepted: readonly AcceptedFinding[];
}

/** Names themselves are what some rules are about. */
const isAboutNames = (read: Read): boolean =>
  read === "channels.name" || read === "folders.name" || read === "cues.name" || read === "passes.name";

const sameSurroundings = (a: CheckContext, b: CheckContext): boolean =>
  a.rig === b.rig &&
  a.studio === b.studio &&
  a.rigMissing === b.rigMissing &&
  (a.ownColours === b.ownColours ||
    (a.ownColours?.length === b.ownColours?.length &&
      (a.ownColours ?? []).every((one, at) => one === b.ownColours?.[at]))) &&
  a.otherRigs.length === b.otherRigs.length &&
  a.otherRigs.every((rig, at) => rig === b.otherRigs[at]);

/**
 * What the rules have to say of a template, kept beside it from edit to edit: a rule is asked again when something that
 * it reads has changed, and else has said what it says. The same as asking all of them again.
 */
export class Judgement {
  private nameless = new Nameless();
  private speaking = new Speaking(this.nameless);
  private said = new Map<Check, readonly Finding[]>();
  private ofLines = new Map<string, ReadonlyMap<LineId, readonly Finding[]>>();
  private last: CheckContext | null = null;

  constructor(private readonly rules: readonly Check[]) {}

  /** What has changed since the last time; null where everything has to be asked again. */
  private changes(context: CheckContext): ReadonlySet<string> | null {
    if (this.last && sameSurroundings(this.last, context)) return changedReads(this.last.doc, context.doc);
    this.nameless = new Nameless();
    this.speaking = new Speaking(this.nameless);
    this.said = new Map();
    this.ofLines = new Map();
    return null;
  }

  /** What is said of each line, as far as it can be taken over: only the lines that changed are asked about again. */
  private askOfLines(
    rule: Check & Required<Pick<Check, "ofLine">>,
    context: CheckContext,
    changed: ReadonlySet<string> | null,
  ): readonly Finding[] {
    const was = this.ofLines.get(rule.id);
    const own = new Set<string>(rule.ofLine.reads);
    const around = rule.reads.filter((read) => !own.has(read));
    const before =
      was && changed && this.last && !readsAnyOf(around, changed) ? { said: was, lines: this.last.doc.lines } : null;
    const now = new Map<LineId, readonly Finding[]>();
    for (const line of linesOf(context.doc)) {
      const known = before?.lines[line.id] === line ? before.said.get(line.id) : undefined;
      now.set(line.id, known ?? rule.ofLine.say(context, line));
    }
    this.ofLines.set(rule.id, now);
    return [...now.values()].flat();
  }

  private ask(
    rule: Check,
    contexts: { readonly named: CheckContext; readonly nameless: CheckContext },
    changed: ReadonlySet<string> | null,
  ): readonly Finding[] {
    const known = this.said.get(rule);
    if (known && changed && !readsAnyOf(rule.reads, changed)) return known;
    const context = rule.reads.some(isAboutNames) ? contexts.named : contexts.nameless;
    const { ofLine } = rule;
    const found = ofLine ? this.askOfLines({ ...rule, ofLine }, context, changed) : rule.check(context);
    this.said.set(rule, found);
    return found;
  }

  /** Everything the rules have to say, with what was accepted apart. */
  of(context: CheckContext): Evaluation {
    const changed = this.changes(context);
    const view: Template = this.nameless.view(context.doc);
    const contexts = { named: context, nameless: { ...context, doc: view } };
    const accepted: AcceptedFinding[] = [];
    const [problems, hints]: [Finding[], Finding[]] = [[], []];
    for (const rule of this.rules) {
      if (context.rigMissing && !rule.withoutRig) continue;
      for (const raw of this.ask(rule, contexts, changed)) {
        const finding = this.speaking.finding(raw, context.doc);
        const entry = context.doc.accepted[finding.id];
        if (entry && entry.cause === causeOf(context, finding)) accepted.push({ finding, reason: entry.reason });
        else (finding.severity === "problem" ? problems : hints).push(finding);
      }
    }
    this.last = context;
    return { open: [...problems, ...hints], accepted };
  }
}

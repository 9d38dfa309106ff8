import { evaluate } from "@/core/checks";
import { alikeAsOne } from "@/core/checks/alike";
import { countFindings, type Finding } from "@/core/checks/finding";
import type { LineId, PortId, TemplateId } from "@/core/model/ids";
import { entriesOf } from "@/core/model/table";
import { contextIn, type Seen } from "./kinds";

const allFindings = (seen: Seen): readonly Finding[] => evaluate(contextIn(seen));

export interface Judged {
  readonly problems: number;
  readonly hints: number;
}

/** The findings as JSON, those that are alike as one with its members, which goes on to the window as it is. */
export const findingsOf = (seen: Seen): string => JSON.stringify(alikeAsOne(allFindings(seen)));

export const judge = (seen: Seen): Judged => countFindings(alikeAsOne(allFindings(seen)));

export interface Touched extends Judged {
  readonly id: TemplateId;
  readonly name: string;
  readonly lines: readonly { readonly id: LineId; readonly portId: PortId | null }[];
}

/** A template as a change of its rig would touch it. */
export const touched = (seen: Seen): Touched => {
  const context = contextIn(seen);
  const { id, name, lines } = context.doc;
  return {
    id,
    name,
    lines: entriesOf(lines).map(({ id: lineId, portId }) => ({ id: lineId, portId })),
    ...countFindings(alikeAsOne(evaluate(context))),
  };
};

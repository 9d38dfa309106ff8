/** What is added besides tracks by a word before its name. */
export type OtherKind = "bus" | "return" | "instrument" | "reference";

export interface Other {
  readonly kind: OtherKind;
  readonly name: string;
  /** Of instruments: how many outputs. */
  readonly outputs: number;
}

const KIND = /^(bus|return|instrument|reference) (?=\S)(.{1,200})$/i;
const OUTPUTS = /[ ,(]{1,2}(\d{1,2}) ?(?:x )?(?:outs?|outputs?)\)?$/i;
const BEYOND_BRACKETS = /[,;](?![^(]{0,100}\))/;

const otherOf = (part: string): Other | null => {
  const found = KIND.exec(part.trim().replace(/\s+/g, " "));
  if (!found) return null;
  const kind = (found[1] ?? "").toLowerCase() as OtherKind;
  const text = (found[2] ?? "").trim();
  const outputs = kind === "instrument" ? OUTPUTS.exec(text) : null;
  return {
    kind,
    name: (outputs ? text.slice(0, outputs.index) : text).trim(),
    outputs: outputs ? Math.min(64, Math.max(1, Number(outputs[1]))) : 1,
  };
};

/**
 * Takes what is no track out of a text: "bus Drums", "return Plate", "instrument Pads 4 outs", "reference Guide", each
 * between commas or on a line of its own. The rest keeps its lines.
 */
export const takeKinds = (text: string): { readonly rest: string; readonly others: readonly Other[] } => {
  const others: Other[] = [];
  const rest = text.split(/\r\n?|\n/).map((line) => {
    if (line.includes("\t")) return line;
    const kept = line.split(BEYOND_BRACKETS).filter((part) => {
      const other = otherOf(part);
      if (other) others.push(other);
      return other === null;
    });
    return kept.length === line.split(BEYOND_BRACKETS).length ? line : kept.join(",");
  });
  return { rest: rest.join("\n"), others };
};

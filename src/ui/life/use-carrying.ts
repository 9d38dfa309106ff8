import { nanoid } from "nanoid";
import { useEffect, useState } from "react";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { patchesOf, withNeeds, withoutNeeding } from "@/core/difference/carry";
import { counted } from "@/core/units/counted";
import { api, ServiceError } from "../shared/api";
import { useGo } from "../shared/going";
import { tell, tellRefusal } from "../shared/notices";
import { useDesk, useDoing } from "../state/desk-context";
import type { Compared, Side } from "./use-compared";

/** Which differences are chosen: what one needs comes with it, what needs one goes with it, and both are told. */
export const useChosen = (compared: Compared | null) => {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const ids = compared?.told.map(({ id }) => id).join(" ") ?? "";
  // biome-ignore lint/correctness/useExhaustiveDependencies: begins anew with other differences
  useEffect(() => {
    if (!compared) return;
    // Of one descent what only the other one changed is meant to be carried; else nothing is.
    setChosen(
      new Set(compared.descent ? compared.told.filter(({ side }) => side === "theirs").map(({ id }) => id) : []),
    );
  }, [ids]);
  const toggle = (id: string): void => {
    if (!compared) return;
    if (chosen.has(id)) {
      const left = withoutNeeding(compared.changes, chosen, id);
      const more = chosen.size - left.size - 1;
      if (more > 0)
        tell(
          `${counted(more, "difference")} that ${more === 1 ? "needs" : "need"} it ${more === 1 ? "is" : "are"} left as well.`,
        );
      setChosen(left);
      return;
    }
    const found = withNeeds(compared.changes, [...chosen, id]);
    const shown = compared.told.filter((change) => found.has(change.id) && !chosen.has(change.id) && change.id !== id);
    if (shown.length) tell(`Chosen with it, as it needs them: ${shown.map(({ who }) => who).join(", ")}.`);
    setChosen(new Set([...chosen, id, ...shown.map((change) => change.id)]));
  };
  return { chosen, setChosen, toggle };
};

/** Carries what is chosen onto the template as it is, or onto an older revision as a template of its own. */
export const useCarrying = () => {
  const { act } = useDoing();
  const go = useGo();
  const id = useDesk((desk) => desk.doc.id);
  const own = useDesk((desk) => desk.doc.name);
  const [busy, setBusy] = useState(false);
  const carry = async (
    compared: Compared,
    chosen: ReadonlySet<string>,
    left: Side,
    rightName: string,
  ): Promise<void> => {
    const patches = patchesOf(compared.changes, chosen);
    const name = `Carry ${counted(chosen.size, "difference")} from ${rightName}`;
    if (left.kind === "now") {
      if (act({ edits: [{ kind: "changes.carry", name, patches }] })) tell(`${name}: done. Ctrl Z takes it back.`);
      return;
    }
    if (left.kind !== "revision") return;
    setBusy(true);
    try {
      const made = await api.createTemplate({
        copyOf: id,
        copyRevision: left.revision,
        name: `${own.slice(0, 150)}, carried on`,
      });
      await api.templates.save(made.document.id, {
        base: made.revision,
        baseSavedAt: made.savedAt,
        batch: nanoid(12),
        made: GESTURE_VERSION,
        name,
        commands: [{ kind: "restore", undoes: name.slice(0, 400), carries: true, patches }],
      });
      go(`/templates/${made.document.id}/inputs`);
    } catch (failure) {
      if (!(failure instanceof ServiceError)) throw failure;
      tellRefusal(failure.message);
    } finally {
      setBusy(false);
    }
  };
  return { busy, carry };
};

import { useCallback } from "react";
import type { ChannelId, FolderId } from "@/core/model/ids";
import { monitorOutputs } from "@/core/model/read-rig";
import { outermostFolder } from "@/core/model/read-template";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import type { Template } from "@/core/model/template";
import { addFamily } from "@/core/planning/add-family";
import { addInstrument, midiChoices } from "@/core/planning/add-instrument";
import { countChannels } from "@/core/planning/edits/channel-edits";
import { droppedInWords, droppedWith } from "@/core/planning/edits/drop-family";
import type { Edit } from "@/core/planning/edits/edit";
import { planned } from "@/core/planning/gesture";
import { alsoHeard, cueNeighbour } from "@/core/planning/join-cues";
import { dyeOf, routeByName, routeChoices, sendByName, sendChoices, takesAlong } from "@/core/planning/route";
import { outputChoices } from "@/core/queries/outputs";
import type { Act, Acts } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { askInstrument } from "../acts/instrument-dialog";
import { askAdd, askFirst, askNewFamily, askRoute, askSend } from "../acts/route-dialogs";
import { useSumming } from "../acts/use-summing";
import { newIds } from "../grid/grid-focus";
import { focusSoon } from "../shared/focus-soon";
import { useGo } from "../shared/going";
import { type Doing, useDeskStore, useDoing, usePlace, useRig } from "../state/desk-context";
import { useWeavingActs } from "./use-weaving-acts";

/** The outermost folder that all of these lie in; null when there is none. */
const familyOf = (doc: Template, ids: readonly ChannelId[]): FolderId | null => {
  const [first, ...others] = [...new Set(ids.map((id) => outermostFolder(doc, id)))];
  return first && !others.length ? first : null;
};

/** What acts look at and what they do it with, as of the moment they are gathered. */
interface On {
  readonly doc: Template;
  readonly selected: readonly ChannelId[];
  readonly rig: Rig;
  readonly now: () => Template;
  readonly families: () => Studio["families"];
  readonly act: Doing["act"];
  readonly actPlanned: Doing["actPlanned"];
}

const passingOf = ({ doc, selected }: On): readonly ChannelId[] =>
  selected.filter((id) => doc.channels[id]?.kind !== "main");
const outputsOf = ({ doc, rig }: On): readonly string[] => outputChoices(doc, rig).map(({ label }) => label);

const SOME = "Select a track, bus or return first.";

/** Where what is selected goes. */
const routingActs = (on: On): readonly Act[] => {
  const { doc, selected, rig, now, actPlanned } = on;
  const who = countChannels(doc, selected);
  const passing = passingOf(on);
  const route = (): void =>
    askRoute({
      who,
      known: routeChoices(doc, rig, selected),
      there: outputsOf(on),
      onDo: (name) => actPlanned(routeByName(now(), rig, { channelIds: selected, name, ids: newIds })),
    });
  const send = (): void =>
    askSend({
      who,
      like: cueNeighbour(doc, { kind: "return", feedIds: passing }),
      known: sendChoices(doc),
      onDo: ({ likeId, ...sent }) =>
        actPlanned(
          alsoHeard(now(), sendByName(now(), { ...sent, channelIds: passing, ids: newIds }), { likeId, ids: newIds }),
        ),
    });
  return [
    {
      id: "route",
      label: `Route ${who}…`,
      key: keyOf("route"),
      first: true,
      whyNot: selected.length ? undefined : SOME,
      run: route,
    },
    {
      id: "send",
      label: `Send ${who}…`,
      key: keyOf("send"),
      first: true,
      whyNot: passing.length ? undefined : SOME,
      run: send,
    },
  ];
};

/** What goes, and families as a whole. */
const removingActs = (on: On, summing: (folderId: FolderId, on: boolean) => void): readonly Act[] => {
  const { doc, selected, act } = on;
  const passing = passingOf(on);
  const folderId = familyOf(doc, selected);
  const folder = folderId ? doc.folders[folderId] : undefined;
  const remove = (): void => {
    const gone = (): void => void act({ edits: [{ kind: "entries.remove", table: "channels", ids: passing }] });
    const says = takesAlong(doc, passing);
    if (says)
      askFirst({
        title: `Remove ${countChannels(doc, passing)}`,
        says,
        does: `Remove ${countChannels(doc, passing)}`,
        onDo: gone,
      });
    else gone();
  };
  const sum = (): void => void (folderId && summing(folderId, !folder?.busId));
  const drop = (): void => {
    if (!folder) return;
    const goes: Edit = { kind: "folders.drop", folderId: folder.id };
    askFirst({
      title: `Drop the family ${folder.name}`,
      says: droppedInWords(doc, droppedWith(doc, folder.id)),
      does: `Drop ${folder.name}`,
      onDo: () => void act({ edits: [goes] }),
    });
  };
  const OF_FOLDER = "Select tracks of one folder first.";
  const stays = selected.length > passing.length ? "The main bus stays: every template has one." : SOME;
  return [
    {
      id: "sum",
      label: folder ? `Sum ${folder.name} into a bus` : "Sum the folder into a bus",
      key: keyOf("sum"),
      whyNot: !folder ? OF_FOLDER : folder.busId ? `${folder.name} has a bus already.` : undefined,
      run: sum,
    },
    {
      id: "unsum",
      label: folder ? `Take the bus off ${folder.name}…` : "Take the bus off the folder…",
      key: keyOf("unsum"),
      whyNot: !folder ? OF_FOLDER : folder.busId ? undefined : `${folder.name} has no bus.`,
      run: sum,
    },
    {
      id: "remove",
      label: `Remove ${countChannels(doc, passing)}`,
      key: keyOf("remove"),
      whyNot: passing.length && passing.length === selected.length ? undefined : stays,
      run: remove,
    },
    {
      id: "drop",
      label: folder ? `Drop the family ${folder.name}…` : "Drop the family…",
      key: keyOf("remove-whole"),
      whyNot: folder ? undefined : OF_FOLDER,
      run: drop,
    },
  ];
};

/** What is added. */
const addingActs = (on: On): readonly Act[] => {
  const { doc, selected, rig, now, families, actPlanned } = on;
  const who = countChannels(doc, selected);
  const passing = passingOf(on);
  const add = (): void =>
    askAdd({
      who: passing.length ? who : null,
      like: cueNeighbour(doc, { kind: "return" }),
      onDo: (kind, name, likeId) => {
        // What is only listened to goes past the main bus.
        const portIds = monitorOutputs(rig);
        const past = kind === "reference" && portIds.length ? { output: { kind: "hardware", portIds } as const } : {};
        const feedIds = kind === "bus" ? passing : [];
        const made = planned([
          {
            kind: "channels.add",
            channels: [{ kind, id: newIds("bus"), name, colour: dyeOf(doc, feedIds), ...past }],
            feedIds,
          },
        ]);
        return actPlanned(alsoHeard(now(), made, { likeId, ids: newIds }));
      },
    });
  const instrument = (): void =>
    askInstrument({
      ports: midiChoices(rig),
      folders: entriesOf(doc.folders).map(({ name }) => name),
      outputs: outputsOf(on),
      like: cueNeighbour(doc, { kind: "track" }),
      onDo: ({ likeId, ...asked }) =>
        actPlanned(alsoHeard(now(), addInstrument(now(), rig, { ...asked, ids: newIds }), { likeId, ids: newIds })),
    });
  const family = (): void =>
    askNewFamily({
      like: cueNeighbour(doc, { kind: "track" }),
      onDo: (name, countText, likeId) =>
        actPlanned(
          alsoHeard(now(), addFamily({ name, countText, ids: newIds, styles: families() }), {
            likeId,
            ids: newIds,
          }),
        ),
    });
  return [
    { id: "add", label: "Add a bus, a return or a reference…", key: keyOf("add"), run: add },
    { id: "instrument", label: "Add instruments…", key: keyOf("instruments"), run: instrument },
    { id: "family", label: "Add a family…", key: keyOf("new-family"), run: family },
  ];
};

/** To the name in the inspector. */
const focusName = (): void => focusSoon("main aside input");

/** Everything that can be done to what is selected in the picture, as of the moment it is asked. */
export const useFlowActs = (): Acts => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  const summing = useSumming();
  const weaving = useWeavingActs();
  const go = useGo();
  const place = usePlace();
  return useCallback(() => {
    const { doc, selected } = desk.getState();
    const now = () => desk.getState().doc;
    const on: On = { doc, selected, rig, now, families: () => desk.getState().studio.families, act, actPlanned };
    const [only] = selected;
    const who = countChannels(doc, selected);
    const one = only && selected.length === 1 ? undefined : "Select one track, bus or return first.";
    return [
      {
        id: "chain",
        label: one ? "Open the chain" : `Open the chain of ${who}`,
        key: keyOf("chain"),
        first: true,
        whyNot: one,
        run: () => go(`${place}/flow/${only}`),
      },
      {
        id: "edit",
        label: one ? "Rename" : `Rename ${who}`,
        key: keyOf("edit"),
        whyNot: one,
        run: focusName,
      },
      ...routingActs(on),
      ...weaving(selected),
      ...removingActs(on, summing),
      ...addingActs(on),
    ];
  }, [desk, rig, go, place, act, actPlanned, summing, weaving]);
};

import { Button, Group } from "@mantine/core";
import { notifications } from "@mantine/notifications";
import type { ChannelId } from "@/core/model/ids";
import { tracksOf } from "@/core/model/read-template";
import type { Template } from "@/core/model/template";
import { planned } from "@/core/planning/gesture";
import { cueNeighbour, heardLike } from "@/core/planning/join-cues";
import { counted } from "@/core/units/counted";
import { tellRefusal } from "../shared/notices";
import { type DeskStore, doPlanned } from "../state/desk-store";
import { newIds } from "./grid-focus";

const NOTICE = "in-no-cue";
/** Tracks that came in one after the other while nobody has answered yet. */
const waiting = new WeakMap<DeskStore, readonly ChannelId[]>();

/**
 * Tracks that were typed or pasted are asked about once they are there, as typing goes on: no cue hears them, and one
 * press brings all of them in as their neighbour is.
 */
export const offerCues = (desk: DeskStore, before: Template): void => {
  const { doc } = desk.getState();
  const fresh = tracksOf(doc).filter(({ id }) => !before.channels[id]);
  const like = cueNeighbour(before, { kind: "track", folderId: fresh[0]?.folderId ?? null });
  if (!fresh.length || !like) return;
  const ids = [...(waiting.get(desk) ?? []), ...fresh.map(({ id }) => id)].filter((id) => doc.channels[id]);
  waiting.set(desk, ids);
  const over = (): void => void waiting.delete(desk);
  const join = (): void => {
    const now = desk.getState().doc;
    const sourceIds = ids.filter((id) => now.channels[id]);
    const name = `Bring ${counted(sourceIds.length, "new track")} into the cues`;
    const edits = heardLike(now, { sourceIds, likeId: like.id, ids: newIds });
    const refusal =
      sourceIds.length && edits.length
        ? doPlanned(desk, planned(edits, name))
        : "The new tracks, or what they were to be heard like, are not there any more.";
    if (refusal) tellRefusal(refusal);
    notifications.hide(NOTICE);
    over();
  };
  const notice = {
    id: NOTICE,
    autoClose: 20_000,
    withBorder: true,
    onClose: over,
    message: (
      <Group gap="xs">
        {counted(ids.length, "new track")} in no cue yet.
        <Button size="compact-sm" variant="default" onClick={join}>
          Bring in {like.says}
        </Button>
      </Group>
    ),
  };
  notifications.update(notice);
  notifications.show(notice);
};

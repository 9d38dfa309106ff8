import equal from "fast-deep-equal";
import { useEffect, useState } from "react";
import type { OwnColour } from "@/core/model/tables/own-colours";
import { api } from "../shared/api";
import { watchChanges } from "../state/changes";

/**
 * The studio's own dyes as they are now. A window is opened with them, and goes from screen to screen without being
 * opened anew: a dye that was added or changed meanwhile, here or in another window, is asked for when that is told.
 */
export const useOwnColours = (opened: readonly OwnColour[]): readonly OwnColour[] => {
  const [colours, setColours] = useState(opened);
  useEffect(() => {
    let [missed, asked] = [false, 0];
    const look = async (): Promise<void> => {
      const mine = ++asked;
      const { document } = await api.loadStudio();
      const now = Object.values(document.colours);
      if (mine === asked) setColours((before) => (equal(before, now) ? before : now));
    };
    return watchChanges((told) => {
      if (told === "away") missed = true;
      else if (told === "again" ? missed : told.kind === "studio") {
        missed = false;
        void look().catch(() => {
          missed = true;
        });
      }
    });
  }, []);
  return colours;
};

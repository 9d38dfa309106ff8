"use client";

import { Spotlight, type SpotlightActionData } from "@mantine/spotlight";
import { IconSearch } from "@tabler/icons-react";
import { useEffect } from "react";
import { alsoCalled } from "@/core/reading/sought";
import { typeAhead } from "../shared/typed-ahead";
import { markFirst, paletteStore } from "./palette-store";

interface PaletteProps {
  readonly does: SpotlightActionData[];
  readonly finds: SpotlightActionData[];
  /** Told what is typed, where there is more to be found than is offered from the start. */
  readonly onQuery?: (query: string) => void;
}

/** It opens from within fields as well: with Ctrl nothing is typed. */
const NOWHERE: string[] = [];

/** With the trade's other words for it: whoever looks for "delete" finds what removes. */
const alsoFound = (action: SpotlightActionData): SpotlightActionData => ({
  ...action,
  keywords: [...alsoCalled(action.label ?? ""), ...(Array.isArray(action.keywords) ? action.keywords : [])],
});

/** One place for everything that can be done and found, opened with Ctrl K. */
export const Palette = ({ does, finds, onQuery }: PaletteProps) => {
  // biome-ignore lint/correctness/useExhaustiveDependencies: something may have been found
  useEffect(markFirst, [finds]);
  useEffect(() => {
    let open = false;
    return paletteStore.subscribe(({ opened }) => {
      if (opened && !open) typeAhead();
      open = opened;
    });
  }, []);
  return (
    <Spotlight
      store={paletteStore}
      actions={[
        { group: "Do", actions: does.map(alsoFound) },
        { group: "Find", actions: finds.map(alsoFound) },
      ]}
      shortcut="mod + K"
      tagsToIgnore={NOWHERE}
      {...(onQuery ? { onQueryChange: onQuery } : {})}
      nothingFound="No match"
      highlightQuery
      limit={24}
      scrollable
      scrollAreaProps={{ viewportProps: { tabIndex: 0, "aria-label": "What was found" } }}
      maxHeight={420}
      attributes={{ content: { "aria-label": "Do or find" } }}
      searchProps={{
        leftSection: <IconSearch size={18} stroke={1.6} aria-hidden />,
        placeholder: "Do or find…",
        "aria-label": "Do or find",
      }}
    />
  );
};

"use client";

import { Spotlight, type SpotlightActionData } from "@mantine/spotlight";
import { IconSearch } from "@tabler/icons-react";
import { useEffect } from "react";
import { markFirst, paletteStore } from "./palette-store";

interface PaletteProps {
  readonly does: SpotlightActionData[];
  readonly finds: SpotlightActionData[];
  /** Told what is typed, where there is more to be found than is offered from the start. */
  readonly onQuery?: (query: string) => void;
}

/** One place for everything that can be done and found, opened with Ctrl K. */
export const Palette = ({ does, finds, onQuery }: PaletteProps) => {
  // biome-ignore lint/correctness/useExhaustiveDependencies: something may have been found
  useEffect(markFirst, [finds]);
  return (
    <Spotlight
      store={paletteStore}
      actions={[
        { group: "Do", actions: does },
        { group: "Find", actions: finds },
      ]}
      shortcut="mod + K"
      {...(onQuery ? { onQueryChange: onQuery } : {})}
      nothingFound="Nothing here is called so."
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

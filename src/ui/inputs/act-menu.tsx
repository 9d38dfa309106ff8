"use client";

import { Menu } from "@mantine/core";
import { POPUPS } from "../shared/combobox";
import { focusGrid } from "./grid-focus";
import type { Act } from "./use-acts";

interface ActMenuProps {
  readonly at: { readonly x: number; readonly y: number } | null;
  readonly acts: readonly Act[];
  readonly onClose: () => void;
}

/** What can be done to what is selected, where the pointer is. */
export const ActMenu = ({ at, acts, onClose }: ActMenuProps) => (
  <Menu
    opened={at !== null}
    onClose={() => {
      onClose();
      focusGrid();
    }}
    position="bottom-start"
    portalProps={{ target: `#${POPUPS}` }}
    width={300}
    shadow="md"
    returnFocus={false}
    withInitialFocusPlaceholder={false}
  >
    <Menu.Target>
      <span aria-hidden="true" style={{ position: "fixed", left: at?.x ?? 0, top: at?.y ?? 0, width: 1, height: 1 }} />
    </Menu.Target>
    <Menu.Dropdown aria-label="What can be done here">
      {acts
        .filter((act) => act.possible && act.scope !== "list")
        .map((act) => (
          <Menu.Item key={act.id} rightSection={act.key ? <kbd>{act.key}</kbd> : undefined} onClick={act.run}>
            {act.label}
          </Menu.Item>
        ))}
    </Menu.Dropdown>
  </Menu>
);

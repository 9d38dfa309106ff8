"use client";

import { Menu } from "@mantine/core";
import { focusGrid } from "../grid/grid-focus";
import { POPUPS } from "../shared/combobox";
import { type Acts, canBeDone } from "./act-model";

interface ActMenuProps {
  readonly at: { readonly x: number; readonly y: number } | null;
  readonly acts: Acts;
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
      {(at ? acts() : [])
        .filter((act) => canBeDone(act) && act.scope !== "list")
        .map((act) => (
          <Menu.Item key={act.id} rightSection={<kbd>{act.key}</kbd>} onClick={act.run}>
            {act.label}
          </Menu.Item>
        ))}
    </Menu.Dropdown>
  </Menu>
);

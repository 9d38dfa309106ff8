"use client";

import { Button, Checkbox, CloseButton, Popover, SegmentedControl, Stack } from "@mantine/core";
import { IconColumns3, IconFilter } from "@tabler/icons-react";
import { useStore } from "zustand";
import type { Row } from "@/core/layout/rows";
import { counted } from "@/core/units/counted";
import { GRID_COLUMNS } from "../../core/queries/columns";
import { unseen, unseenInWords } from "../acts/act";
import { useDesk, useDeskStore } from "../state/desk-context";
import { FILTER_FIELD, focusGrid } from "./grid-focus";
import classes from "./grid-toolbar.module.css";
import type { Columns } from "./use-columns";
import { trackIdsIn } from "./use-grid-selection";
import type { RowSetting } from "./use-row-height";

interface GridToolbarProps {
  readonly rows: readonly Row[];
  readonly columns: Columns;
  readonly rowSetting: RowSetting;
  readonly onRowSetting: (setting: RowSetting) => void;
}

const Filter = ({ rows }: Pick<GridToolbarProps, "rows">) => {
  const filter = useDesk((desk) => desk.filter);
  const desk = useDeskStore();
  const set = (text: string) => desk.setState({ filter: text });
  return (
    <div className={classes.filter}>
      <IconFilter size={16} stroke={1.7} aria-hidden />
      <input
        id={FILTER_FIELD}
        aria-label="Filter the rows"
        aria-describedby="filter-says"
        placeholder="Filter: name, input, microphone, player…"
        value={filter}
        maxLength={100}
        onChange={(event) => set(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Escape") set("");
          if (event.key === "Escape" || event.key === "Enter") focusGrid();
        }}
      />
      {filter && <CloseButton size="sm" aria-label="Show all rows" onClick={() => set("")} />}
      <output id="filter-says" className={classes.says}>
        {filter ? counted(trackIdsIn(rows).length, "track") : ""}
      </output>
    </div>
  );
};

const View = ({
  columns,
  rowSetting,
  onRowSetting,
}: Pick<GridToolbarProps, "columns" | "rowSetting" | "onRowSetting">) => (
  <Popover position="bottom-end" shadow="md" width={260} trapFocus onClose={focusGrid}>
    <Popover.Target>
      <Button
        variant="subtle"
        color="gray"
        size="compact-sm"
        leftSection={<IconColumns3 size={16} stroke={1.7} aria-hidden />}
        className={classes.button}
      >
        Columns and rows
      </Button>
    </Popover.Target>
    <Popover.Dropdown>
      <Stack gap={6}>
        <strong id="row-height">Row height</strong>
        <SegmentedControl
          aria-labelledby="row-height"
          size="xs"
          value={rowSetting}
          onChange={(value) => onRowSetting(value as RowSetting)}
          data={[
            { value: "narrow", label: "Low" },
            { value: "usual", label: "Usual" },
            { value: "wide", label: "High" },
            { value: "fit", label: "All in view" },
          ]}
        />
        <strong>Columns</strong>
        {GRID_COLUMNS.filter((column) => column.id !== "name").map((column) => (
          <Checkbox
            key={column.id}
            size="xs"
            label={column.heading}
            checked={columns.shown.some((shown) => shown.id === column.id)}
            onChange={() => columns.toggle(column.id)}
          />
        ))}
        <Button variant="default" size="compact-sm" mt={4} onClick={columns.reset}>
          As they were at first
        </Button>
      </Stack>
    </Popover.Dropdown>
  </Popover>
);

/**
 * How many tracks are selected, and how many of them are above or below what is seen: what is done next reaches those
 * as well.
 */
const SelectionSays = ({ rows }: Pick<GridToolbarProps, "rows">) => {
  const selected = useDesk((desk) => desk.selected);
  const seen = useStore(useDesk((desk) => desk.view));
  const out = unseen(rows, new Set(selected), seen).length;
  if (selected.length < 2 && !out) return null;
  return (
    <output className={classes.selection} data-beyond={out > 0 || undefined}>
      {counted(selected.length, "track")} selected{unseenInWords(selected.length, out)}
    </output>
  );
};

/** What stands over the grid: filter, columns, row height. */
export const GridToolbar = ({ rows, columns, rowSetting, onRowSetting }: GridToolbarProps) => (
  <div className={classes.bar}>
    <Filter rows={rows} />
    <View columns={columns} rowSetting={rowSetting} onRowSetting={onRowSetting} />
    <SelectionSays rows={rows} />
  </div>
);

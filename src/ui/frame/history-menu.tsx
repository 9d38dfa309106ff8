"use client";

import { ActionIcon, Popover, Tooltip } from "@mantine/core";
import { IconHistory } from "@tabler/icons-react";
import { PageLink } from "../shared/page-link";
import { useDoc, useDocContext } from "../state/doc-context";
import classes from "./history-menu.module.css";

/** How many of the last edits are listed. */
const SHOWN = 40;

const Log = () => {
  const log = useDoc((state) => state.log);
  if (!log.length) return <p className={classes.none}>Nothing yet since this window was opened.</p>;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls must be reachable by keyboard
    <ol className={classes.list} tabIndex={0} aria-label="Edits, newest first">
      {log
        .slice(-SHOWN)
        .reverse()
        .map((entry, at) => (
          <li key={`${entry.id} ${at}`}>
            <span>{entry.name}</span>
            {entry.by === "elsewhere" && <em>{entry.who || "another window"}</em>}
          </li>
        ))}
    </ol>
  );
};

/** To everything that was ever done to it, with who and when. */
const AllOfIt = () => {
  const id = useDoc((state) => state.doc.id);
  const { what } = useDocContext();
  return what === "template" ? (
    <PageLink href={`/templates/${id}/life`}>All that was ever done, with who and when</PageLink>
  ) : null;
};

/** What was done while this window watched, newest first: here, and in other windows. */
export const HistoryMenu = () => (
  <Popover position="bottom-end" shadow="md" width={340} trapFocus>
    <Popover.Target>
      <Tooltip label="What was done">
        <ActionIcon variant="subtle" color="gray" aria-label="What was done">
          <IconHistory size={19} stroke={1.7} color="var(--ink)" />
        </ActionIcon>
      </Tooltip>
    </Popover.Target>
    <Popover.Dropdown aria-label="What was done">
      <Log />
      <AllOfIt />
    </Popover.Dropdown>
  </Popover>
);

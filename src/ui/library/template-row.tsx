"use client";

import { ActionIcon, Menu } from "@mantine/core";
import {
  IconAlertTriangle,
  IconCalendarPlus,
  IconCheck,
  IconCopy,
  IconDots,
  IconDownload,
  IconGitBranch,
  IconPencil,
  IconTrash,
} from "@tabler/icons-react";
import { useEffect, useState } from "react";
import type { TemplateSummary } from "@/contracts/answers";
import { SESSION_KIND_NAMES } from "@/core/model/session-kinds";
import { counted } from "@/core/units/counted";
import { sayDate } from "../shared/format-date";
import { PageLink } from "../shared/page-link";
import { Selvedge } from "../shared/selvedge";
import tones from "../shared/tone.module.css";
import classes from "./library.module.css";

interface TemplateRowProps {
  readonly template: TemplateSummary;
  /** The keys, or the pointer, are on it. */
  readonly onHeld: () => void;
  readonly onRename: () => void;
  readonly onDuplicate: () => void;
  readonly onDelete: () => void;
}

const Findings = ({
  problems,
  hints,
  unreadable,
  unjudged,
}: Pick<TemplateSummary, "problems" | "hints" | "unreadable" | "unjudged">) => {
  if (unreadable)
    return (
      <span className={`${classes.state} ${tones.problem}`} title={unreadable}>
        <IconAlertTriangle size={16} stroke={1.8} aria-hidden />
        can’t be read
      </span>
    );
  if (unjudged)
    return (
      <span className={classes.state} title={unjudged}>
        <IconAlertTriangle size={16} stroke={1.8} aria-hidden />
        can’t be checked
      </span>
    );
  if (problems === null) return <span className={classes.state}>being checked…</span>;
  const [tone, words] = problems
    ? [tones.problem, counted(problems, "problem")]
    : hints
      ? [tones.hint, counted(hints, "hint")]
      : [tones.clear, "no findings"];
  const Glyph = problems || hints ? IconAlertTriangle : IconCheck;
  return (
    <span className={`${classes.state} ${tone}`}>
      <Glyph size={16} stroke={1.8} aria-hidden />
      {words}
    </span>
  );
};

/** Dates are said in the reader's own time zone, which only the browser knows. */
const ChangedAt = ({ iso }: { readonly iso: string }) => {
  const [words, setWords] = useState("");
  useEffect(() => setWords(sayDate(iso)), [iso]);
  return (
    <time dateTime={iso} title="Last change">
      {words}
    </time>
  );
};

export const TemplateRow = ({ template, onHeld, onRename, onDuplicate, onDelete }: TemplateRowProps) => (
  <li className={classes.row} onFocus={onHeld} onContextMenu={onHeld}>
    <div>
      <PageLink className={classes.open} href={`/templates/${template.id}/inputs`}>
        {template.name}
      </PageLink>
      <span className={classes.meta}>
        {template.unreadable ??
          `${SESSION_KIND_NAMES[template.kind]} · ${template.rateAndDepth} · ${template.rig.name || "its rig was deleted"}${template.tags.map((tag) => ` · ${tag}`).join("")}`}
      </span>
    </div>
    <Selvedge colours={template.selvedge} />
    <span>
      {template.inputs} in
      <span className={classes.meta}>{counted(template.tracks, "track")}</span>
    </span>
    <Findings {...template} />
    <ChangedAt iso={template.changedAt} />
    <Menu position="bottom-end">
      <Menu.Target>
        <ActionIcon
          className={classes.menu ?? ""}
          variant="subtle"
          color="gray"
          aria-label={`More for ${template.name}`}
        >
          <IconDots size={18} color="var(--soft)" />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        {!template.unreadable && (
          <>
            <Menu.Item leftSection={<IconPencil size={16} aria-hidden />} onClick={onRename}>
              Rename…
            </Menu.Item>
            <Menu.Item
              leftSection={<IconCalendarPlus size={16} aria-hidden />}
              component={PageLink}
              href={`/templates/${template.id}/life?start=1`}
            >
              Start session…
            </Menu.Item>
            <Menu.Item
              leftSection={<IconGitBranch size={16} aria-hidden />}
              component={PageLink}
              href={`/templates/${template.id}/life`}
            >
              Versions and sessions
            </Menu.Item>
            <Menu.Item leftSection={<IconCopy size={16} aria-hidden />} onClick={onDuplicate}>
              Duplicate
            </Menu.Item>
          </>
        )}
        <Menu.Item
          leftSection={<IconDownload size={16} aria-hidden />}
          component="a"
          href={`/api/templates/${template.id}/export?format=${template.unreadable ? "raw" : "json"}`}
          download
        >
          {template.unreadable ? "Save as it is stored" : "Save as JSON"}
        </Menu.Item>
        <Menu.Divider />
        <Menu.Item leftSection={<IconTrash size={16} aria-hidden />} onClick={onDelete}>
          Delete
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  </li>
);

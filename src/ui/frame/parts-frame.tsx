"use client";

import { IconChevronRight } from "@tabler/icons-react";
import type { ReactNode } from "react";
import { POPUPS } from "../shared/combobox";
import { Mark } from "../shared/mark";
import { PageLink } from "../shared/page-link";
import { ThemeToggle } from "../shared/theme-toggle";
import { DocumentName } from "./document-name";
import classes from "./frame.module.css";
import { HistoryMenu } from "./history-menu";
import { LostNotice } from "./lost-notice";
import { KeysButton, OverPage } from "./over-page";
import { PaletteButton } from "./palette-button";
import { PartedNotice } from "./parted-notice";
import { SavedState } from "./saved-state";
import { UndoRedo } from "./undo-redo";
import { useDeskKeys } from "./use-desk-keys";

interface PartsFrameProps {
  /** A template that the screen was opened from, to go back to. */
  readonly from?: { readonly href: string; readonly name: string } | undefined;
  readonly palette: ReactNode;
  readonly children: ReactNode;
}

/** The slim bar over the screens of rig and studio. */
export const PartsFrame = ({ from, palette, children }: PartsFrameProps) => {
  useDeskKeys();
  return (
    <div className={classes.frame}>
      <header className={classes.bar}>
        <PageLink href="/" className={classes.brand} aria-label="Wandel, to the library">
          <Mark />
          <span className={classes.word}>wandel</span>
        </PageLink>
        <div className={classes.where}>
          <PageLink href="/" className={classes.crumb}>
            Library
          </PageLink>
          <IconChevronRight size={14} aria-hidden color="var(--soft)" />
          {from && (
            <>
              <PageLink href={from.href} className={classes.crumb}>
                {from.name}
              </PageLink>
              <IconChevronRight size={14} aria-hidden color="var(--soft)" />
            </>
          )}
          <DocumentName />
          <SavedState />
        </div>
        <UndoRedo />
        <HistoryMenu />
        <PaletteButton />
        <KeysButton />
        <ThemeToggle />
      </header>
      <PartedNotice />
      <LostNotice />
      <main className={classes.main}>
        {children}
        <div id={POPUPS} />
      </main>
      <OverPage />
      {palette}
    </div>
  );
};

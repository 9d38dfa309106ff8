"use client";

import { ActionIcon, Tooltip } from "@mantine/core";
import { IconKeyboard } from "@tabler/icons-react";
import { useEffect } from "react";
import { useStore } from "zustand";
import { ActMenu } from "../acts/act-menu";
import { type Acts, chordOf } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { takesText } from "../shared/takes-text";
import classes from "./frame.module.css";
import { KeySheet } from "./key-sheet";
import { openKeys, openMenu, overPage, pageActs } from "./page-acts";

/** The panel at the right of a screen: what is selected, what was found, what is tried. */
const panelOf = (): HTMLElement | null => document.querySelector<HTMLElement>("main aside:not([inert])");

const TABBABLE =
  "input:not([disabled]):not([type=hidden]), button:not([disabled]), select, textarea, a[href], [tabindex]:not([tabindex='-1'])";

let left: HTMLElement | null = null;

/** To the first field of the panel, and back to where the keys were. */
const toPanelOrBack = (): void => {
  const panel = panelOf();
  const from = document.activeElement;
  if (panel && from instanceof HTMLElement && panel.contains(from)) {
    const back = left?.isConnected
      ? left
      : document.querySelector<HTMLElement>("main [role=grid], main [tabindex='0']");
    back?.focus();
    return;
  }
  const to = panel && (panel.querySelector<HTMLElement>(TABBABLE) ?? panel);
  if (!to) return;
  left = from instanceof HTMLElement && from !== document.body ? from : null;
  if (to === panel) panel.tabIndex = -1;
  to.focus();
};

const NOW_AND_THEN_MS = 500;

/**
 * What had the keys last, with what it lay in. Where it is gone, removed by what it did itself, the keys go to the
 * nearest that is left of it: they are never on the page alone, from where Tab would begin at its top.
 */
const useKeptFocus = (): void =>
  useEffect(() => {
    let around: readonly Element[] = [];
    const focused = ({ target }: FocusEvent): void => {
      const found: Element[] = [];
      for (let at = target instanceof Element ? target : null; at && at !== document.body; at = at.parentElement)
        found.push(at);
      around = found;
    };
    const look = (): void => {
      const [last] = around;
      if (document.activeElement !== document.body || !last || last.isConnected) return;
      const there = around.find((element) => element.isConnected && element.matches("main, main *"));
      const to = there?.matches("[tabindex='0'], [role=grid]") ? there : there?.querySelector(TABBABLE);
      (
        (to as HTMLElement | null | undefined) ??
        document.querySelector<HTMLElement>("main [role=grid], main [tabindex='0']")
      )?.focus({
        preventScroll: true,
      });
    };
    let timer: ReturnType<typeof setTimeout> | undefined;
    const soon = (): void => {
      clearTimeout(timer);
      timer = setTimeout(look, 120);
    };
    // Drawn anew by what came from elsewhere: no key and no click tells of that.
    const looking = setInterval(look, NOW_AND_THEN_MS);
    document.addEventListener("focusin", focused);
    window.addEventListener("keyup", soon);
    window.addEventListener("click", soon);
    return () => {
      clearTimeout(timer);
      clearInterval(looking);
      document.removeEventListener("focusin", focused);
      window.removeEventListener("keyup", soon);
      window.removeEventListener("click", soon);
    };
  }, []);

const NO_ACTS: Acts = () => [];

/** Keys that every screen has, beside those of its acts. */
const useEverywhere = (): void =>
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const chord = chordOf(event);
      if (document.querySelector("[aria-modal=true]")) return;
      if (chord === keyOf("inspector")) {
        event.preventDefault();
        toPanelOrBack();
      } else if (chord === keyOf("keys") && !takesText(event.target)) {
        event.preventDefault();
        openKeys();
      }
    };
    /** By the right button, Shift F10 or the menu key: where it is pressed, or at what has the keys. */
    const menu = (event: MouseEvent): void => {
      const { target } = event;
      if (event.defaultPrevented || !(target instanceof Element) || takesText(target)) return;
      if (!target.closest("main") || target.closest("[aria-modal=true]") || !pageActs.getState().gather?.().length)
        return;
      event.preventDefault();
      const byKey = event.button !== 2;
      const active = document.getElementById(
        document.activeElement?.getAttribute("aria-activedescendant") ?? document.activeElement?.id ?? "",
      );
      const box = byKey ? (active ?? document.activeElement ?? target).getBoundingClientRect() : null;
      openMenu(
        box
          ? { x: Math.min(box.left + 12, innerWidth - 40), y: Math.min(box.bottom - 4, innerHeight - 40) }
          : { x: event.clientX, y: event.clientY },
      );
    };
    window.addEventListener("keydown", press);
    window.addEventListener("contextmenu", menu);
    return () => {
      window.removeEventListener("keydown", press);
      window.removeEventListener("contextmenu", menu);
    };
  }, []);

/** What opens over every screen: the menu of what can be done, and the list of its keys. */
export const OverPage = () => {
  useEverywhere();
  useKeptFocus();
  const menu = useStore(overPage, (state) => state.menu);
  const gather = useStore(pageActs, (state) => state.gather) ?? NO_ACTS;
  return (
    <>
      <ActMenu at={menu} acts={gather} onClose={() => overPage.setState({ menu: null })} />
      <KeySheet />
    </>
  );
};

/** Opens the list of all keys. */
export const KeysButton = () => (
  <Tooltip label="All keys (?)">
    <ActionIcon
      variant="subtle"
      color="gray"
      size={32}
      className={classes.keys ?? ""}
      aria-label="All keys"
      onClick={openKeys}
    >
      <IconKeyboard size={19} stroke={1.6} color="var(--ink)" />
    </ActionIcon>
  </Tooltip>
);

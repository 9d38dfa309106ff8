"use client";

import { useRouter } from "next/navigation";
import { useCallback } from "react";
import { asItIsLeft, dropNoticesOfOthers } from "./notices";

/** So long a page may take to come; then keys are for the one that is there again. */
const LONGEST_MS = 10_000;

let ends: ReturnType<typeof setTimeout> | null = null;

const swallow = (event: KeyboardEvent): void => {
  if (event.ctrlKey || event.metaKey || /^F\d/.test(event.key)) return;
  event.preventDefault();
  event.stopImmediatePropagation();
};

const stopWaiting = (): void => {
  if (ends) clearTimeout(ends);
  ends = null;
  window.removeEventListener("keydown", swallow, { capture: true });
};

/**
 * Leaves the field that has the keys, so that what is typed in it is kept as by any other leaving; what can't be taken
 * is told on the page that comes.
 */
const keepTyped = (): void => {
  const field = document.activeElement;
  if (field instanceof HTMLElement && field.matches("input, textarea")) asItIsLeft(() => field.blur());
};

/** Whatever way a window is left: by another address, anew, or closed. */
export const keepOnLeaving = (): (() => void) => {
  window.addEventListener("beforeunload", keepTyped);
  window.addEventListener("pagehide", keepTyped);
  return () => {
    window.removeEventListener("beforeunload", keepTyped);
    window.removeEventListener("pagehide", keepTyped);
  };
};

/** The page that was gone to is there: what was said of the one that was left goes with it. */
export const arrived = (): void => {
  dropNoticesOfOthers();
  stopWaiting();
};

/** Another page is on its way: what is pressed meanwhile is not for the one that is left. */
export const leaveFor = (href: string): void => {
  if (new URL(href, window.location.href).pathname === window.location.pathname) return;
  keepTyped();
  stopWaiting();
  window.addEventListener("keydown", swallow, { capture: true });
  ends = setTimeout(stopWaiting, LONGEST_MS);
};

/** Goes to another page. */
export const useGo = (): ((href: string) => void) => {
  const router = useRouter();
  return useCallback(
    (href) => {
      leaveFor(href);
      router.push(href);
    },
    [router],
  );
};

"use client";

import { useRouter } from "next/navigation";
import { useCallback } from "react";

/** So long a page may take to come; then keys are for the one that is there again. */
const LONGEST_MS = 10_000;

let ends: ReturnType<typeof setTimeout> | null = null;

const swallow = (event: KeyboardEvent): void => {
  if (event.ctrlKey || event.metaKey || /^F\d/.test(event.key)) return;
  event.preventDefault();
  event.stopImmediatePropagation();
};

/** The page that was gone to is there. */
export const arrived = (): void => {
  if (ends) clearTimeout(ends);
  ends = null;
  window.removeEventListener("keydown", swallow, { capture: true });
};

/** Another page is on its way: what is pressed meanwhile is not for the one that is left. */
export const leaveFor = (href: string): void => {
  if (new URL(href, window.location.href).pathname === window.location.pathname) return;
  arrived();
  window.addEventListener("keydown", swallow, { capture: true });
  ends = setTimeout(arrived, LONGEST_MS);
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

import alike from "fast-deep-equal/es6";
import { useCallback, useLayoutEffect, useRef } from "react";

/**
 * One function for as long as a component lives; it does what the one that was drawn last does. What it is handed to is
 * not drawn anew for it.
 */
export const useSteady = <A extends readonly unknown[], R>(does: (...args: A) => R): ((...args: A) => R) => {
  const latest = useRef(does);
  useLayoutEffect(() => {
    latest.current = does;
  });
  return useCallback((...args: A): R => latest.current(...args), []);
};

/** A list with the very objects that it had before, wherever they say the same; the same list where all do. */
export const kept = <T>(was: readonly T[], is: readonly T[]): readonly T[] => {
  const list = is.map((one, at) => (at < was.length && alike(was[at], one) ? (was[at] as T) : one));
  return list.length === was.length && list.every((one, at) => one === was[at]) ? was : list;
};

/**
 * The objects of the last drawing for as long as they say the same, so that what hangs on one of them is drawn anew
 * only when it changes.
 */
export const useKept = <T>(is: readonly T[]): readonly T[] => {
  const last = useRef<readonly T[]>(is);
  last.current = kept(last.current, is);
  return last.current;
};

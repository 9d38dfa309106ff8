import { useMemo, useRef } from "react";

/**
 * Where the mouse was pressed last, until the cursor is elsewhere. What was pressed was in sight, and stays under the hand: were it brought wholly into
 * view, the second of two presses would meet another place.
 */
export const usePressed = () => {
  const place = useRef<string | null>(null);
  return useMemo(
    () => ({
      press: (pressed: string): void => {
        place.current = pressed;
      },
      was: (cursor: string): boolean => {
        if (place.current !== cursor) place.current = null;
        return place.current !== null;
      },
    }),
    [],
  );
};

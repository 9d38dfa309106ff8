/**
 * Lists that drop down open inside the page's main part, where screen readers look for them, and scroll by themselves.
 * Those that are closed are not there: a screen has dozens.
 */
export const POPUPS = "popups";

export const dropDown = (width: number, position: "bottom-start" | "bottom-end" = "bottom-start") =>
  ({
    withScrollArea: false,
    styles: { options: { maxHeight: 260, overflowY: "auto" } },
    comboboxProps: {
      keepMounted: false,
      width,
      position,
      transitionProps: { duration: 0 },
      portalProps: { target: `#${POPUPS}` },
    },
  }) as const;

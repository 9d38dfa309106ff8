"use client";

import { UnstyledButton } from "@mantine/core";
import { IconSearch } from "@tabler/icons-react";
import classes from "./frame.module.css";
import { palette } from "./palette-store";

export const PaletteButton = () => (
  <UnstyledButton className={classes.palette} onClick={() => palette.open()}>
    <IconSearch size={15} stroke={1.8} aria-hidden />
    <span>Do or find…</span> <kbd>Ctrl K</kbd>
  </UnstyledButton>
);

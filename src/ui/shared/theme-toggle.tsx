"use client";

import { ActionIcon, Tooltip, useComputedColorScheme, useMantineColorScheme } from "@mantine/core";
import { IconMoon, IconSun } from "@tabler/icons-react";
import { useEffect, useState } from "react";

/** From cloth to night and back. Which one is shown is only known in the browser, so it waits for it. */
export const ThemeToggle = () => {
  const { setColorScheme } = useMantineColorScheme();
  const scheme = useComputedColorScheme("light");
  const [here, setHere] = useState(false);
  useEffect(() => setHere(true), []);
  const night = here && scheme === "dark";
  const label = night ? "Light surface" : "Dark surface";
  return (
    <Tooltip label={label}>
      <ActionIcon
        variant="subtle"
        color="gray"
        aria-label={label}
        onClick={() => setColorScheme(night ? "light" : "dark")}
      >
        {night ? (
          <IconSun size={18} stroke={1.7} color="var(--soft)" />
        ) : (
          <IconMoon size={18} stroke={1.7} color="var(--soft)" />
        )}
      </ActionIcon>
    </Tooltip>
  );
};

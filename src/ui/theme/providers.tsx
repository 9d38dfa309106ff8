"use client";

import { MantineProvider } from "@mantine/core";
import { ModalsProvider } from "@mantine/modals";
import { Notifications } from "@mantine/notifications";
import { setNonce } from "get-nonce";
import { usePathname } from "next/navigation";
import { type ReactNode, useEffect, useMemo } from "react";
import type { OwnColour } from "@/core/model/tables/own-colours";
import { arrived, keepOnLeaving } from "../shared/going";
import { tellLostBefore } from "../shared/notices";
import { theme, variablesWith } from "./theme";
import { useOwnColours } from "./use-own-colours";

/**
 * Stands last, after the screen. Says at the root element which screen answers keys, which tests wait for: what the
 * screen does once it is there is done before. Its element holds the place of the screens: without it the next screen
 * is put behind everything that opens over the page, and dialogs and menus come before it for whoever reads or tabs.
 */
const Last = () => {
  const path = usePathname();
  useEffect(() => {
    document.documentElement.dataset.awake = path;
    arrived();
  }, [path]);
  useEffect(() => {
    tellLostBefore();
    return keepOnLeaving();
  }, []);
  return <span hidden />;
};

/** Theme, dialogs and notices. The nonce lets their styles through the content security policy. */
export const Providers = ({
  nonce,
  ownColours,
  children,
}: {
  readonly nonce: string;
  readonly ownColours: readonly OwnColour[];
  readonly children: ReactNode;
}) => {
  if (typeof window !== "undefined") setNonce(nonce);
  const dyes = useOwnColours(ownColours);
  const resolver = useMemo(() => variablesWith(dyes), [dyes]);
  return (
    <MantineProvider
      theme={theme}
      cssVariablesResolver={resolver}
      defaultColorScheme="auto"
      getStyleNonce={() => nonce}
    >
      <ModalsProvider>
        <Notifications position="bottom-center" limit={3} />
        {children}
        <Last />
      </ModalsProvider>
    </MantineProvider>
  );
};

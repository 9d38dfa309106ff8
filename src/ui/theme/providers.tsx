"use client";

import { MantineProvider } from "@mantine/core";
import { ModalsProvider } from "@mantine/modals";
import { Notifications } from "@mantine/notifications";
import { setNonce } from "get-nonce";
import { type ReactNode, useEffect, useMemo } from "react";
import type { OwnColour } from "@/core/model/tables/own-colours";
import { theme, variablesWith } from "./theme";
import { useOwnColours } from "./use-own-colours";

/** Theme, dialogs and notices. The root element is marked awake once the page answers keys, which tests wait for. The nonce lets their styles through the content security policy. */
export const Providers = ({ nonce, ownColours, children }: { readonly nonce: string; readonly ownColours: readonly OwnColour[]; readonly children: ReactNode }) => {
  if (typeof window !== "undefined") setNonce(nonce);
  const dyes = useOwnColours(ownColours);
  const resolver = useMemo(() => variablesWith(dyes), [dyes]);
  useEffect(() => {
    document.documentElement.dataset.awake = "true";
  }, []);
  return (
    <MantineProvider theme={theme} cssVariablesResolver={resolver} defaultColorScheme="auto" getStyleNonce={() => nonce}>
      <ModalsProvider>
        <Notifications position="bottom-center" limit={3} />
        {children}
      </ModalsProvider>
    </MantineProvider>
  );
};

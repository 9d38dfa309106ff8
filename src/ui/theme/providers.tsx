"use client";

import { MantineProvider } from "@mantine/core";
import { ModalsProvider } from "@mantine/modals";
import { Notifications } from "@mantine/notifications";
import { setNonce } from "get-nonce";
import { type ReactNode, useEffect, useMemo } from "react";
import type { OwnDye } from "@/core/model/dyes";
import { theme, variablesWith } from "./theme";

/** Theme, dialogs and notices. The root element is marked awake once the page answers keys, which tests wait for. The nonce lets their styles through the content security policy. */
export const Providers = ({ nonce, ownDyes, children }: { readonly nonce: string; readonly ownDyes: readonly OwnDye[]; readonly children: ReactNode }) => {
  if (typeof window !== "undefined") setNonce(nonce);
  const resolver = useMemo(() => variablesWith(ownDyes), [ownDyes]);
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

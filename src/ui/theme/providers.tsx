"use client";

import { MantineProvider } from "@mantine/core";
import { ModalsProvider } from "@mantine/modals";
import { Notifications } from "@mantine/notifications";
import { setNonce } from "get-nonce";
import { type ReactNode, useEffect } from "react";
import { resolveVariables, theme } from "./theme";

/** Theme, dialogs and notices. The root element is marked awake once the page answers keys, which tests wait for. The nonce lets their styles through the content security policy. */
export const Providers = ({ nonce, children }: { readonly nonce: string; readonly children: ReactNode }) => {
  if (typeof window !== "undefined") setNonce(nonce);
  useEffect(() => {
    document.documentElement.dataset.awake = "true";
  }, []);
  return (
    <MantineProvider theme={theme} cssVariablesResolver={resolveVariables} defaultColorScheme="auto" getStyleNonce={() => nonce}>
      <ModalsProvider>
        <Notifications position="bottom-center" limit={3} />
        {children}
      </ModalsProvider>
    </MantineProvider>
  );
};

"use client";

import { MantineProvider } from "@mantine/core";
import { ModalsProvider } from "@mantine/modals";
import { Notifications } from "@mantine/notifications";
import { setNonce } from "get-nonce";
import type { ReactNode } from "react";
import { resolveVariables, theme } from "./theme";

/** Theme, dialogs and notices. The nonce lets their styles through the content security policy. */
export const Providers = ({ nonce, children }: { readonly nonce: string; readonly children: ReactNode }) => {
  if (typeof window !== "undefined") setNonce(nonce);
  return (
    <MantineProvider theme={theme} cssVariablesResolver={resolveVariables} defaultColorScheme="auto" getStyleNonce={() => nonce}>
      <ModalsProvider>
        <Notifications position="bottom-center" limit={3} />
        {children}
      </ModalsProvider>
    </MantineProvider>
  );
};

import "@fontsource-variable/archivo/wdth.css";
import "@fontsource-variable/spline-sans-mono/wght.css";
import "@/ui/theme/mantine-styles";
import "@mantine/notifications/styles.css";
import "@mantine/spotlight/styles.css";
import "@/ui/theme/global.css";
import { ColorSchemeScript, mantineHtmlProps } from "@mantine/core";
import type { Metadata, Viewport } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import { database } from "@/server/db/database";
import { studioOrDefault } from "@/server/services/studio";
import { Providers } from "@/ui/theme/providers";

export const metadata: Metadata = {
  title: { default: "Wandel", template: "%s · Wandel" },
  description: "Tracking templates for recording sessions",
};
export const viewport: Viewport = { width: "device-width", initialScale: 1 };

export default async function RootLayout({ children }: { readonly children: ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? "";
  const studio = await studioOrDefault(database());
  return (
    <html lang="en" {...mantineHtmlProps}>
      <head>
        <ColorSchemeScript nonce={nonce} defaultColorScheme="auto" />
      </head>
      <body>
        <Providers nonce={nonce} ownColours={Object.values(studio.colours)}>
          {children}
        </Providers>
      </body>
    </html>
  );
}

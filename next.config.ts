import type { NextConfig } from "next";

const config: NextConfig = {
  serverExternalPackages: ["pg", "piscina"],
  poweredByHeader: false,
  devIndicators: false,
  // Types and lint are checked by npm run check, once, for every tsconfig.
  typescript: { ignoreBuildErrors: true },
};

export default config;

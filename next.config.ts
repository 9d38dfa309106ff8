import type { NextConfig } from "next";

const config: NextConfig = {
  serverExternalPackages: ["pg", "piscina"],
  poweredByHeader: false,
  devIndicators: false,
  // Types and lint are checked by npm run check, once, for every tsconfig.
  typescript: { ignoreBuildErrors: true },
  experimental: {
    // Nothing looks into maps of a build.
    turbopackSourceMaps: process.env.NODE_ENV !== "production",
    turbopackInputSourceMaps: process.env.NODE_ENV !== "production",
    // What a build remembers for the next one costs a third of it: scripts/lib/build.mjs says whether there will be one.
    turbopackFileSystemCacheForBuild: process.env.WANDEL_BUILDS_AGAIN === "1",
  },
};

export default config;

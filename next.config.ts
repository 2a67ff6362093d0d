import type { NextConfig } from "next";

const config: NextConfig = {
  turbopack: { root: import.meta.dirname },
  serverExternalPackages: ["pg", "pino", "@react-pdf/renderer", "sharp", "modbus-serial", "serialport", "mqtt"],
  // `npm test` checks the types by themselves; whoever starts the app need not wait for that.
  typescript: { ignoreBuildErrors: true },
  poweredByHeader: false,
  devIndicators: false,
  // Above every limit of a route: what is longer arrives cut off here, and is refused there as too long.
  experimental: { proxyClientMaxBodySize: "16mb" },
  // Every picture is one's own and comes from a route of its own; nothing is fetched and resized for others.
  images: { unoptimized: true },
  // As they were called before: links that people kept, and lines that a browser of the last version still sends.
  redirects: async () => [
    { source: "/jobs/:jobId/run", destination: "/jobs/:jobId/visit", permanent: true },
    { source: "/api/v1/jobs/:jobId/run", destination: "/api/v1/jobs/:jobId/visit", permanent: true },
  ],
  headers: async () => [
    {
      source: "/:path*",
      headers: [
        { key: "X-Content-Type-Options", value: "nosniff" },
        { key: "X-Frame-Options", value: "DENY" },
        { key: "Referrer-Policy", value: "no-referrer" },
        { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
        { key: "Cross-Origin-Resource-Policy", value: "same-origin" },
        { key: "Permissions-Policy", value: "camera=(self), microphone=(), geolocation=()" },
      ],
    },
  ],
};

export default config;

import type { NextConfig } from "next";

const config: NextConfig = {
  turbopack: { root: import.meta.dirname },
  serverExternalPackages: ["pg", "pino", "@react-pdf/renderer"],
  // The types are checked by `npm test` and by the editor; a build for the demo need not wait for them again.
  typescript: { ignoreBuildErrors: true },
  poweredByHeader: false,
  devIndicators: false,
  headers: async () => [{
    source: "/:path*",
    headers: [
      { key: "X-Content-Type-Options", value: "nosniff" },
      { key: "X-Frame-Options", value: "DENY" },
      { key: "Referrer-Policy", value: "no-referrer" },
    ],
  }],
};

export default config;

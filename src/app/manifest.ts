import type { MetadataRoute } from "next";

/** What a phone needs to know to have the app among its own. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: "Gormit",
    short_name: "Gormit",
    description: "Where every CT goes, what each meter should read, and what is wrong when it does not.",
    start_url: "/jobs",
    display: "standalone",
    background_color: "#fcf9f2",
    theme_color: "#7d2860",
    icons: [
      { src: "/favicon.svg", sizes: "any", type: "image/svg+xml" },
      { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "any" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
    ],
  };
}

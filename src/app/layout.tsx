import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "@/app/globals.css";
import type { Metadata, Viewport } from "next";
import { cookies } from "next/headers";
import type { ReactNode } from "react";
import { buildId } from "@/app/buildId";
import { AppKeeper } from "@/ui/parts/browser/AppKeeper";
import { THEME_COOKIE, themeSchema } from "@/ui/parts/browser/theme";
import { APP_WORDS } from "@/ui/words/appWords";
import { APP_LANGUAGE } from "@/ui/words/inLanguage";

export const metadata: Metadata = {
  title: { default: APP_WORDS.gormit, template: "%s · Gormit" },
  description: APP_WORDS.whereEveryCtGoesWhatEachMeter,
  icons: { icon: "/favicon.svg", apple: "/icon-192.png" },
  appleWebApp: { capable: true, title: APP_WORDS.gormit },
};

export const viewport: Viewport = { width: "device-width", initialScale: 1, themeColor: "#7d2860" };

export default async function RootLayout({ children }: { children: ReactNode }) {
  const chosen = themeSchema.safeParse((await cookies()).get(THEME_COOKIE)?.value);
  // Without a choice there is no attribute, and the style sheet follows the system's preference.
  const theme = chosen.success && chosen.data !== "system" ? chosen.data : undefined;
  const build = await buildId();
  return (
    <html lang={APP_LANGUAGE} data-theme={theme}>
      <body>
        {children}
        {build !== undefined && <AppKeeper build={build} />}
      </body>
    </html>
  );
}

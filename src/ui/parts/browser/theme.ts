import { z } from "zod";

export const THEME_COOKIE = "gormit-theme";

export const themeSchema = z.enum(["system", "paper", "plant-room"]);

export type Theme = z.output<typeof themeSchema>;

const A_YEAR_S = 31_536_000;

/** Remember a theme and show it at once. */
export function chooseTheme(theme: Theme): void {
  document.cookie = `${THEME_COOKIE}=${theme}; path=/; max-age=${A_YEAR_S}; samesite=lax`;
  if (theme === "system") document.documentElement.removeAttribute("data-theme");
  else document.documentElement.setAttribute("data-theme", theme);
}

/** The theme that was chosen on this device. */
export function chosenTheme(): Theme {
  const entry = document.cookie.split("; ").find((part) => part.startsWith(`${THEME_COOKIE}=`));
  const parsed = themeSchema.safeParse(entry?.slice(THEME_COOKIE.length + 1));
  return parsed.success ? parsed.data : "system";
}

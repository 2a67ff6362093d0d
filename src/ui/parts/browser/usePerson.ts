"use client";

import { z } from "zod";
import { browserSetting, useBrowserSetting } from "@/ui/parts/browser/browserSetting";

const setting = browserSetting("gormit-person", z.string(), () => "");

/** Who works on this device; empty until somebody said. */
export function readPerson(): string {
  return setting.read();
}

/** Who works on this device: typed or picked once, and on every entry from then on. */
export function usePerson(): { readonly person: string; readonly setPerson: (name: string) => void } {
  return { person: useBrowserSetting(setting, ""), setPerson: setting.choose };
}

import { z } from "zod";
import { text } from "@/core/text";

/** A network's name and its passphrase, as they are kept: 32 octets and 63 characters at most (IEEE Std 802.11). */
export const wifiSecretSchema = z.strictObject({
  name: text().trim().min(1, "type the network's name").max(32, "at most 32 characters").describe("Name"),
  passphrase: text().min(1, "type the passphrase").max(63, "at most 63 characters").describe("Passphrase"),
});

/** Whether one is kept, and since when; never what it is. */
export const keptSecretSchema = z.strictObject({ keptAt: z.iso.datetime().nullable() });

/** A network's name and its passphrase. */
export type WifiSecret = z.output<typeof wifiSecretSchema>;

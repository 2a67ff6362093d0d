import { openApi } from "@/app/api/description/openApi";

/** It does not change while the program runs, and takes a while to be made. */
let described: string | undefined;

export function GET(): Response {
  described ??= JSON.stringify(openApi());
  return new Response(described, { headers: { "content-type": "application/json" } });
}

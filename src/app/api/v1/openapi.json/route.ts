import { openApi } from "@/app/api/description/openApi";

export function GET(): Response {
  return Response.json(openApi());
}

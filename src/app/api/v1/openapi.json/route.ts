import { openApi } from "@/app/api/openApi";

export function GET(): Response {
  return Response.json(openApi());
}

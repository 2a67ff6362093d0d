import { computeRoute } from "@/app/api/computeRoute";

export const POST = computeRoute("online");

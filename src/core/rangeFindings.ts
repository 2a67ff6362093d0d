import { said } from "@/core/sentence";
import type { z } from "zod";
import type { Finding, FindingStage } from "@/core/findings";
import { pathText } from "@/core/problem";

/**
 * What of a request that was made from a plan lies outside what its computation is made for. What a person typed is
 * never refused on the way into a computation; it is found, and the page goes on.
 *
 * For example: `rangeFindings(canRequestSchema, { …, bitrate: 300 }, of)` gives one finding: "bitrate: Too small …"
 */
export function rangeFindings(
  schema: z.ZodType,
  request: unknown,
  of: {
    readonly id: string;
    readonly name: string;
    readonly stage: FindingStage;
    readonly subject: Finding["subject"];
  },
): readonly Finding[] {
  const parsed = schema.safeParse(request);
  if (parsed.success) return [];
  return parsed.error.issues.map(({ path, message }) => ({
    id: `out-of-range:${of.id}:${pathText(path)}`,
    code: "out-of-range",
    severity: "fix",
    stage: of.stage,
    subject: of.subject,
    title: "A value is out of range",
    detail: said`${of.name}, ${pathText(path)}: ${message}. What is computed with it is not to be trusted.`,
    cure: said`Put the value right: ${of.name}`,
    source: "Range that the computation is made for",
  }));
}

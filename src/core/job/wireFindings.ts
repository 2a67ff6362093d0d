import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { siteLinkFindings } from "@/core/links/check/siteLinkFindings";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

/** What is wrong with the links of a job, or that there are none where the kits ask for some. */
export function wireFindings(plan: ResolvedPlan): readonly Finding[] {
  if (plan.links.length > 0) return siteLinkFindings(plan);
  const wanted = proposeLinks(plan);
  if (wanted.length === 0) return [];
  return [
    {
      id: "no-links",
      code: "no-links",
      severity: "note",
      stage: "wire",
      subject: { kind: "job" },
      title: "No link is planned yet",
      detail: together(
        said`The kits of this plan ask for ${wanted.length} link${wanted.length === 1 ? "" : "s"}: `,
        said`${wanted.map((link) => link.name).join("; ")}.`,
      ),
      cure: "Open Wire and take the links that are proposed",
      source: "Ports of the kits and the places of the plan",
    },
  ];
}

import { alikeTogether } from "@/core/job/alikeTogether";
import { deviceChecks } from "@/core/plan/deviceChecks";
import { hostChecks } from "@/core/plan/hostChecks";
import { nameChecks } from "@/core/plan/nameChecks";
import type { Check } from "@/core/plan/resolvedPlan";
import { clampChecks } from "@/core/sensing/clampChecks";
import { mainFuseChecks } from "@/core/sensing/mainFuseChecks";
import { meterChecks } from "@/core/sensing/meterChecks";
import { roleChecks } from "@/core/sensing/roleChecks";

/** Everything that is looked at in a plan before anyone is on site. A further check is added here, and nowhere else. */
export const PLAN_CHECKS: readonly Check[] = [
  roleChecks,
  (plan) => alikeTogether(clampChecks(plan)),
  deviceChecks,
  hostChecks,
  mainFuseChecks,
  meterChecks,
  nameChecks,
];

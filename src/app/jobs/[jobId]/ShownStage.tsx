"use client";

import dynamic from "next/dynamic";
import { useSearchParams } from "next/navigation";
import { useEffect } from "react";
import { startOf } from "@/app/jobs/[jobId]/startOf";
import { useMoves, useStage } from "@/ui/workspace/frame/stageMoves";

const load = {
  plan: () => import("@/ui/plan/PlanStage").then(({ PlanStage }) => PlanStage),
  place: () => import("@/ui/place/PlaceStage").then(({ PlaceStage }) => PlaceStage),
  wire: () => import("@/ui/wire/WireStage").then(({ WireStage }) => WireStage),
  visit: () => import("@/ui/visit/VisitStage").then(({ VisitStage }) => VisitStage),
  prove: () => import("@/ui/prove/ProveStage").then(({ ProveStage }) => ProveStage),
  limit: () => import("@/ui/limit/LimitStage").then(({ LimitStage }) => LimitStage),
  divert: () => import("@/ui/divert/DivertStage").then(({ DivertStage }) => DivertStage),
  online: () => import("@/ui/online/OnlineStage").then(({ OnlineStage }) => OnlineStage),
  handover: () => import("@/ui/handover/HandoverStage").then(({ HandoverStage }) => HandoverStage),
  bench: () => import("@/ui/bench/BenchStage").then(({ BenchStage }) => BenchStage),
};
const PlanStage = dynamic(load.plan);
const PlaceStage = dynamic(load.place);
const WireStage = dynamic(load.wire);
const VisitStage = dynamic(load.visit);
const ProveStage = dynamic(load.prove);
const LimitStage = dynamic(load.limit);
const DivertStage = dynamic(load.divert);
const OnlineStage = dynamic(load.online);
const HandoverStage = dynamic(load.handover);
const BenchStage = dynamic(load.bench);

/** The stage that the address names, at what its link leads to; another link to the same stage starts it anew. */
export function ShownStage() {
  const stage = useStage();
  const params = useSearchParams();
  const start = startOf(params);
  const key = `${useMoves()} ${JSON.stringify(start)}`;
  // All of them are fetched while there is a connection: a stage is changed where there may be none.
  useEffect(() => {
    for (const fetchOne of Object.values(load)) fetchOne().catch(() => undefined);
  }, []);
  switch (stage) {
    case "plan":
      return <PlanStage key={key} start={start?.kind === "step" ? undefined : start} />;
    case "place":
      return <PlaceStage key={key} start={start?.kind === "input" ? start : undefined} />;
    case "wire":
      return <WireStage />;
    case "visit":
      return <VisitStage key={key} step={start?.kind === "step" ? start.step : undefined} />;
    case "prove":
      return <ProveStage key={key} step={start?.kind === "step" ? start.step : undefined} />;
    case "limit":
      return <LimitStage />;
    case "divert":
      return <DivertStage />;
    case "online":
      return <OnlineStage />;
    case "handover":
      return <HandoverStage />;
    case "bench":
      return <BenchStage />;
    default:
      return null;
  }
}

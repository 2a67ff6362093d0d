import { LimitStage } from "@/ui/limit/LimitStage";

export default function Page() {
  return <LimitStage />;
}

import { ProveStage } from "@/ui/prove/ProveStage";

export default function Page() {
  return <ProveStage />;
}

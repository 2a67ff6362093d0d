import { DivertStage } from "@/ui/divert/DivertStage";

export default function Page() {
  return <DivertStage />;
}

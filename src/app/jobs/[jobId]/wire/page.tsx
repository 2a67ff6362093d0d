import { WireStage } from "@/ui/wire/WireStage";

export default function Page() {
  return <WireStage />;
}

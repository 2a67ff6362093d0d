import { PlaceStage } from "@/ui/place/PlaceStage";

export default function Page() {
  return <PlaceStage />;
}

import { notFound } from "next/navigation";
import { STAGES } from "@/core/stages";

/** Every stage is shown by the open job itself, which changes them without asking anybody; here only its name is. */
export default async function Page({ params }: { params: Promise<{ stage: string }> }) {
  const { stage } = await params;
  if (!STAGES.some(({ id }) => id === stage)) notFound();
  return null;
}

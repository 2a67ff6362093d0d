import { ArrowLeft, ArrowRight, Minus } from "lucide-react";
import { powerText } from "@/core/units";
import { flowWord } from "@/core/site/flowWords";
import { Say } from "@/ui/parts/show/Say";
import type { Site } from "@/core/site/planSchema";

/** An arrow that points right into the site or left toward the grid. */
export function FlowArrow({ towardLoadW, size = 18 }: { towardLoadW: number; size?: number }) {
  if (Math.abs(towardLoadW) < 0.5) return <Minus size={size} aria-hidden />;
  return towardLoadW > 0 ? <ArrowRight size={size} aria-hidden /> : <ArrowLeft size={size} aria-hidden />;
}

interface Props {
  readonly site: Site;
  /** The run whose kind gives the word. */
  readonly run: string;
  /** The number to show, with the sign that the meter gives it. */
  readonly shownW: number;
  readonly towardLoadW: number;
}

/** A power with its sign, its arrow and its word: never the sign alone. */
export function FlowValue({ site, run, shownW, towardLoadW }: Props) {
  return (
    <span className="inline-flex items-center gap-x-1 whitespace-nowrap max-md:flex-wrap max-md:justify-end">
      <span className="reading inline-block min-w-[4.9rem] text-right font-semibold">
        <Say>{powerText(shownW)}</Say>
      </span>
      <FlowArrow towardLoadW={towardLoadW} />
      <span className="text-sm">{flowWord(site, run, towardLoadW)}</span>
    </span>
  );
}

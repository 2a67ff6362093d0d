import { BOARD_WORDS } from "@/ui/words/boardWords";

/** On a phone the rail board is wider than the screen: it is there for those who ask for it, the circuits before it. */
export function BoardSwitch({ isBoard, onSwitch }: { isBoard: boolean; onSwitch: () => void }) {
  return (
    <button type="button" className="btn btn-ghost press mx-3 mt-2 md:hidden" onClick={onSwitch}>
      {isBoard ? BOARD_WORDS.showTheCircuitsAsAList : BOARD_WORDS.showTheRailBoard}
    </button>
  );
}

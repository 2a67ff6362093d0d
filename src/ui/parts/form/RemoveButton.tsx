import { Trash2 } from "lucide-react";

interface Props {
  /** What pressing it does, with the name of what goes: "Remove Garage". */
  readonly label: string;
  readonly onRemove: () => void;
}

/** Takes one row away; undo brings it back. */
export function RemoveButton({ label, onRemove }: Props) {
  return (
    <button type="button" className="btn btn-ghost press px-2" title={label} onClick={onRemove}>
      <Trash2 size={18} aria-hidden />
      <span className="sr-only">{label}</span>
    </button>
  );
}

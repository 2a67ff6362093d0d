import type { ReactNode } from "react";

interface Props {
  readonly checked: boolean;
  readonly isDisabled?: boolean;
  readonly onCheck: (isChecked: boolean) => void;
  /** What is so where it is ticked. */
  readonly children: ReactNode;
}

/** One thing that is so or is not, large enough for a thumb. */
export function CheckField({ checked, isDisabled = false, onCheck, children }: Props) {
  return (
    <label className="press flex w-fit items-center gap-2 text-sm">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={checked}
        disabled={isDisabled}
        onChange={(event) => onCheck(event.target.checked)}
      />
      <span>{children}</span>
    </label>
  );
}

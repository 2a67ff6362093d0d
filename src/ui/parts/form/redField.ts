/**
 * Whether a field of a form, or of what is around an element, is red; the first of them has the hand then, since
 * nothing is made of what cannot be read.
 */
export function goToRed(around: ParentNode): boolean {
  const red = around.querySelector<HTMLElement>('[aria-invalid="true"]');
  red?.scrollIntoView({ block: "center" });
  red?.focus({ preventScroll: true });
  return red !== null;
}

/** That something could not be computed, and why; nothing where it could. */
export function Failure({ of, why }: { of: string; why: string | undefined }) {
  if (why === undefined) return null;
  return (
    <p role="alert" className="rounded border-2 border-error p-2 text-sm">
      <b>{of} cannot be computed.</b> {why}. Put the value right; the findings name it.
    </p>
  );
}

import { SIGNATURE_BOX, SIGNER_WORDS, strokePath, type Signature } from "@/core/handover/version/signature";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

/** A signature as it was drawn, with for whom and by whom. */
export function SignatureDrawing({ signature: { role, name, strokes } }: { signature: Signature }) {
  return (
    <figure className="w-40">
      <svg
        role="img"
        aria-label={HANDOVER_WORDS.signatureOf(name)}
        className="w-full rounded bg-white text-black"
        viewBox={`0 0 ${SIGNATURE_BOX.width} ${SIGNATURE_BOX.height}`}
      >
        {strokes.map((stroke, at) => (
          <path
            key={at}
            d={strokePath(stroke)}
            stroke="currentColor"
            strokeWidth={8}
            fill="none"
            strokeLinecap="round"
          />
        ))}
      </svg>
      <figcaption className="text-sm">
        {SIGNER_WORDS[role]}: {name}
      </figcaption>
    </figure>
  );
}

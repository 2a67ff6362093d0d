"use client";

interface Props {
  readonly name: string;
  readonly passphrase: string;
  readonly onKept: (kept: { readonly name: string; readonly passphrase: string }) => void;
}

export function KeptPassphrase(_: Props) {
  return null;
}

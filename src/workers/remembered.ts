/**
 * A function that remembers its last answers, by a key of what it was asked; the one asked for longest ago goes first.
 *
 * @example const square = remembered((n: number) => n * n, String, 100); square(3); square(3) // computed once
 */
export function remembered<Q, A>(
  answer: (question: Q) => A,
  keyOf: (question: Q) => string,
  most: number,
): (question: Q) => A {
  const known = new Map<string, { readonly answer: A }>();
  return (question) => {
    const key = keyOf(question);
    const found = known.get(key) ?? { answer: answer(question) };
    // Put in anew, so that the first key is always the one not asked for for longest.
    known.delete(key);
    known.set(key, found);
    if (known.size > most) known.delete(known.keys().next().value!);
    return found.answer;
  };
}

/**
 * A circle in a graph of needs, as the steps along it; undefined when there is none.
 *
 * @param needs Per step, the steps that come before it.
 * @example findCycle([[1], [2], [0]]) // [0, 1, 2]
 */
export function findCycle(needs: readonly (readonly number[])[]): readonly number[] | undefined {
  const state = new Uint8Array(needs.length);
  const path: number[] = [];
  const visit = (step: number): readonly number[] | undefined => {
    state[step] = 1;
    path.push(step);
    for (const need of needs[step]!) {
      if (state[need] === 1) return path.slice(path.indexOf(need));
      if (state[need] === 0) {
        const found = visit(need);
        if (found) return found;
      }
    }
    path.pop();
    state[step] = 2;
    return undefined;
  };
  for (let step = 0; step < needs.length; step++) {
    if (state[step] === 0) {
      const found = visit(step);
      if (found) return found;
    }
  }
  return undefined;
}

/**
 * Steps with everything they need before them; among those that could come next, the first of the list.
 *
 * @example topologicalOrder([[1], []]) // [1, 0]
 */
export function topologicalOrder(needs: readonly (readonly number[])[]): readonly number[] {
  const left = needs.map((own) => own.length);
  const followers = needs.map((): number[] => []);
  needs.forEach((own, step) => {
    for (const need of own) followers[need]!.push(step);
  });
  const ready = left.flatMap((count, step) => (count === 0 ? [step] : []));
  const order: number[] = [];
  while (ready.length > 0) {
    const at = ready.reduce((best, step, index) => (step < ready[best]! ? index : best), 0);
    const [step] = ready.splice(at, 1);
    order.push(step!);
    for (const follower of followers[step!]!) if (--left[follower]! === 0) ready.push(follower);
  }
  return order;
}

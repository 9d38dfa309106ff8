import { startTransition, useEffect, useRef, useState } from "react";
import type { StoreApi } from "zustand/vanilla";

/**
 * Something of a store, drawn after what was edited, in pieces that a key can interrupt: whatever stands beside the
 * place where one works must not hold up what is seen there. `select` answers the same for the same state.
 */
export const useLater = <S, T>(store: StoreApi<S>, select: (state: S) => T): T => {
  const [value, setValue] = useState(() => select(store.getState()));
  const latest = useRef(select);
  latest.current = select;
  useEffect(() => {
    let last: T | undefined;
    const follow = (): void => {
      const next = latest.current(store.getState());
      if (Object.is(next, last)) return;
      last = next;
      startTransition(() => setValue(() => next));
    };
    follow();
    return store.subscribe(follow);
  }, [store]);
  return value;
};

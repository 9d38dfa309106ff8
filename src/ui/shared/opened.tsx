"use client";

import { Button } from "@mantine/core";
import { type ReactNode, useCallback, useEffect, useState } from "react";
import { ServiceError } from "./api";
import classes from "./opened.module.css";

interface OpenedProps<S> {
  /** What came with the page; null for a document so large that the page asks for it once it is there. */
  readonly initial: S | null;
  readonly load: () => Promise<S>;
  readonly name: string;
  readonly children: (state: S) => ReactNode;
}

/**
 * A document that came with its page, or is fetched by it: a large one does not keep the server busy drawing what the
 * browser draws anyway.
 */
export const Opened = <S,>({ initial, load, name, children }: OpenedProps<S>) => {
  const [state, setState] = useState<S | null>(initial);
  const [error, setError] = useState<string | null>(null);
  const open = useCallback(async () => {
    setError(null);
    try {
      setState(await load());
    } catch (failure) {
      if (!(failure instanceof ServiceError)) throw failure;
      setError(failure.message);
    }
  }, [load]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the page is there
  useEffect(() => {
    if (!state) void open();
  }, []);
  if (state) return children(state);
  return (
    <main className={classes.opening}>
      <h1>{name}</h1>
      {error ? (
        <>
          <p role="alert">It could not be opened: {error}</p>
          <Button onClick={() => void open()}>Try again</Button>
        </>
      ) : (
        <output>Opening {name}. It is a large one; this takes a moment …</output>
      )}
    </main>
  );
};

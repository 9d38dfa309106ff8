import { evaluateAll } from "@/core/checks";
import type { CheckContext } from "@/core/checks/finding";

export interface Asked {
  readonly number: number;
  readonly context: CheckContext;
}

interface Port {
  onmessage: ((event: { readonly data: Asked }) => void) | null;
  postMessage(message: unknown): void;
}

const port = globalThis as unknown as Port;

/** Looks at a template away from the screen, so that no edit waits for the checks. */
port.onmessage = ({ data: { number, context } }) => port.postMessage({ number, evaluation: evaluateAll(context) });

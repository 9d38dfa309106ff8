import { type Asked, type Judged, judge } from "./judge";

interface Port {
  onmessage: ((event: { readonly data: Asked }) => void) | null;
  postMessage(message: Judged): void;
}

const port = globalThis as unknown as Port;
const judged = judge();

/** Looks at a template away from the screen, so that no edit waits for the checks. */
port.onmessage = ({ data }) => port.postMessage(judged(data));

import { onChange } from "../services/changes";

const HEARTBEAT_MS = 15_000;

/**
 * Server-sent events: one for every saved revision of any document, with its kind, id and number. A comment now and
 * then keeps the line open.
 */
export const eventStream = (signal: AbortSignal): Response => {
  const encoder = new TextEncoder();
  let stop = () => {};
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => controller.enqueue(encoder.encode(text));
      const end = () => {
        stop();
        try {
          controller.close();
        } catch {
          // Closed by the window already.
        }
      };
      const unsubscribe = onChange(
        (change) =>
          send(
            typeof change === "string"
              ? `event: ${change}\ndata: {}\n\n`
              : `event: change\ndata: ${JSON.stringify(change)}\n\n`,
          ),
        end,
      );
      const heartbeat = setInterval(() => send(": here\n\n"), HEARTBEAT_MS);
      stop = () => {
        unsubscribe();
        clearInterval(heartbeat);
      };
      signal.addEventListener("abort", end);
      send("retry: 1000\n\n");
    },
    cancel: () => stop(),
  });
  return new Response(body, {
    headers: {
      "content-type": "text/event-stream",
      "cache-control": "no-cache, no-transform",
      connection: "keep-alive",
    },
  });
};

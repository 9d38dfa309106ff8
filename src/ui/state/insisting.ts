import pRetry from "p-retry";
import { ServiceError } from "../shared/api";

/**
 * How long is waited after a server that was away: longer each time, and not every window alike, so that they do not
 * all come back at once.
 */
const BACK_OFF = { retries: Number.POSITIVE_INFINITY, minTimeout: 500, factor: 1.6, maxTimeout: 5000, randomize: true };

export const isAway = (error: unknown): boolean => error instanceof ServiceError && error.away;

/** Sends again and again for as long as the server is away. */
export class Insisting {
  /** Ends the wait for a server that was away; null while none is on. */
  private wake: (() => void) | null = null;

  /** Ends the wait that is on, if one is: what waited is done with. */
  hurry(): void {
    this.wake?.();
  }

  /**
   * Ends when it was sent, or when somebody could not wait. `onAway` is told why it has to wait each time, and answers
   * whether it is still wanted. Any other error is thrown.
   */
  async until(send: () => Promise<void>, onAway: (why: string) => boolean): Promise<void> {
    const waiting = new AbortController();
    const once = async (): Promise<void> => {
      this.wake = null;
      await send();
    };
    try {
      await pRetry(once, {
        ...BACK_OFF,
        signal: waiting.signal,
        shouldRetry: ({ error }) => isAway(error),
        onFailedAttempt: ({ error }) => {
          if (!isAway(error)) return;
          this.wake = () => waiting.abort();
          if (!onAway(error.message)) waiting.abort();
        },
      });
    } catch (error) {
      if (!waiting.signal.aborted) throw error;
    } finally {
      this.wake = null;
    }
  }
}

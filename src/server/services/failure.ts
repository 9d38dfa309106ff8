import type { Newer } from "@/contracts/answers";
import type { FieldError } from "@/contracts/validate";

interface Extra {
  readonly errors?: readonly FieldError[];
  readonly newer?: readonly Newer[];
  /** The newest revision here; comes with 409. */
  readonly head?: number;
  /** The revision the sender builds on is not the one of that number here. */
  readonly parted?: boolean;
  /** Window and server are of different age. */
  readonly renewed?: boolean;
}

/** What was sent may stand in a sentence about it, and be as long as a book. */
const MOST_LETTERS = 1000;
const MOST_ERRORS = 50;
const short = (text: string): string => (text.length > MOST_LETTERS ? `${text.slice(0, MOST_LETTERS)}…` : text);

/**
 * What the service can't do, with the status it is answered with and a sentence for a person. Anything else that is
 * thrown is a bug.
 */
export class Failure extends Error {
  readonly extra: Extra;
  /** What is built apart (routes, and what was begun at the start) has each a class of its own: told by this mark. */
  readonly isFailure = true;

  static override [Symbol.hasInstance](value: unknown): boolean {
    return value instanceof Error && "isFailure" in value && value.isFailure === true;
  }

  constructor(
    readonly status: 400 | 403 | 404 | 409 | 413 | 415 | 422 | 499 | 503,
    readonly title: string,
    message: string,
    extra: Extra = {},
  ) {
    super(short(message));
    this.extra = extra.errors
      ? {
          ...extra,
          errors: extra.errors
            .slice(0, MOST_ERRORS)
            .map(({ pointer, detail }) => ({ pointer: short(pointer), detail: short(detail) })),
        }
      : extra;
  }
}

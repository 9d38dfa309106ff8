import type { NewerRevision } from "@/contracts/answers";
import type { FieldError } from "@/contracts/validate";

interface Extra {
  readonly errors?: readonly FieldError[];
  readonly newer?: readonly NewerRevision[];
  /** The newest revision here; comes with 409. */
  readonly head?: number;
  /** The revision the sender builds on is not the one of that number here. */
  readonly parted?: boolean;
}

/** What the service can't do, with the status it is answered with and a sentence for a person. Anything else that is thrown is a bug. */
export class Failure extends Error {
  constructor(
    readonly status: 400 | 403 | 404 | 409 | 413 | 415 | 422 | 499 | 503,
    readonly title: string,
    message: string,
    readonly extra: Extra = {},
  ) {
    super(message);
  }
}

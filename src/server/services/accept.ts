import type { FieldError, Parsed } from "@/contracts/validate";
import { Failure } from "./failure";

const malformed = (errors: readonly FieldError[]): Failure =>
  new Failure(
    400,
    "Malformed request",
    errors
      .slice(0, 3)
      .map((error) => `${error.pointer}: ${error.detail}`)
      .join("; "),
    { errors: errors.slice(0, 50) },
  );

/** What was held to its class, or a failure that says where it does not fit. */
export const accept = <T>(parsed: Parsed<T>): T => {
  if (!parsed.ok) throw malformed(parsed.errors);
  return parsed.value;
};

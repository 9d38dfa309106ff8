import { useState } from "react";
import { ServiceError } from "./api";

/**
 * What a dialog does when its button is pressed: busy meanwhile, and when the service refuses the reason stands in the
 * dialog, which stays open.
 */
export const useSubmit = () => {
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const submit = async (act: () => Promise<void>): Promise<void> => {
    setBusy(true);
    setError(null);
    try {
      await act();
    } catch (failure) {
      if (!(failure instanceof ServiceError)) throw failure;
      setError(failure.message);
    } finally {
      setBusy(false);
    }
  };
  return { busy, error, setError, submit };
};

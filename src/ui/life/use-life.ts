import { useCallback, useEffect, useState } from "react";
import type { LessonsAnswer, Life } from "@/contracts/answers";
import { api, ServiceError } from "../shared/api";
import { useDesk } from "../state/desk-context";

interface Looked {
  readonly life: Life | null;
  readonly lessons: LessonsAnswer | null;
  /** Why it could not be looked up. */
  readonly error: string | null;
  readonly reload: () => Promise<void>;
}

/** The life of the template that is open: looked up as the screen opens, and again when the template was saved. */
export const useLife = (): Looked => {
  const id = useDesk((desk) => desk.doc.id);
  const revision = useDesk((desk) => desk.base.revision);
  const [looked, setLooked] = useState<Omit<Looked, "reload">>({ life: null, lessons: null, error: null });
  const reload = useCallback(async () => {
    try {
      const life = await api.life(id);
      setLooked((before) => ({ ...before, life, error: null }));
      const lessons = await api.lessons(id);
      setLooked({ life, lessons, error: null });
    } catch (failure) {
      if (!(failure instanceof ServiceError)) throw failure;
      setLooked((before) => ({ ...before, error: failure.message }));
    }
  }, [id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was saved may be told there
  useEffect(() => void reload(), [reload, revision]);
  return { ...looked, reload };
};

"use client";

import { useCallback } from "react";
import { entriesOf } from "@/core/model/table";
import { api, ServiceError } from "../shared/api";
import { useGo } from "../shared/going";
import { openModal } from "../shared/open-modal";
import { useDeskStore, useSaver } from "../state/desk-context";
import { StartSessionDialog } from "./start-session-dialog";

/** Opens the dialog from which a session of the template that is open is started. */
export const useStartSession = (): (() => void) => {
  const desk = useDeskStore();
  const saver = useSaver();
  const go = useGo();
  return useCallback(() => {
    const { doc, rigs, studio } = desk.getState();
    openModal({
      title: `Start a session of ${doc.name}`,
      children: (
        <StartSessionDialog
          doc={doc}
          rigs={rigs}
          people={entriesOf(studio.people).map(({ name }) => name)}
          onStart={async (fields) => {
            if (!(await saver.flush()))
              throw new ServiceError(
                503,
                "The last edits are not saved yet, because the server is away. Try again when it is back.",
              );
            const { document } = await api.startSession({ ...fields, templateId: doc.id });
            go(`/templates/${document.id}/inputs`);
          }}
        />
      ),
    });
  }, [desk, saver, go]);
};

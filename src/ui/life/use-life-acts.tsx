"use client";

import { useMemo } from "react";
import type { SessionSummary, Version } from "@/contracts/answers";
import { allPatches } from "@/core/difference/carry";
import { changesBetween } from "@/core/difference/changes-between";
import type { Lesson } from "@/core/lessons/lessons";
import { type SessionState, TEMPLATE } from "@/core/model/template";
import { templateEditing } from "@/core/planning/edits/template-editing";
import { counted } from "@/core/units/counted";
import { api, ServiceError, type VersionFields } from "../shared/api";
import { useGo } from "../shared/going";
import { tell, tellRefusal } from "../shared/notices";
import { openModal } from "../shared/open-modal";
import { useDeskStore, useDoing, useSaver } from "../state/desk-context";
import { editElsewhere } from "../state/edit-elsewhere";
import { VersionDialog } from "./version-dialog";

const UNSAVED = "The last edits are not saved yet, because the server is away. Try again when it is back.";

/** What can be done with the life of the template that is open. */
export const useLifeActs = (reload: () => Promise<void>) => {
  const desk = useDeskStore();
  const saver = useSaver();
  const { act } = useDoing();
  const go = useGo();
  return useMemo(() => {
    const { id } = desk.getState().doc;
    /** Does something at the service; why it could not be done is told. */
    const run = async (does: () => Promise<unknown>): Promise<void> => {
      try {
        await does();
      } catch (failure) {
        if (!(failure instanceof ServiceError)) throw failure;
        tellRefusal(failure.message);
      }
      await reload();
    };
    const keep = async (fields: VersionFields): Promise<void> => {
      if (!(await saver.flush())) throw new ServiceError(503, UNSAVED);
      await api.keepVersion(id, fields);
      await reload();
      tell(`Kept as ${fields.name}.`);
    };
    return {
      read: (revision: number) => go(`/revisions/${id}/${revision}/inputs`),
      compare: (revision: number) => go(`/templates/${id}/compare?left=${revision}`),
      askKeep: (name: string) =>
        openModal({
          title: "Keep this version",
          children: <VersionDialog does="Keep this version" first={{ name, note: "", tried: "" }} onKeep={keep} />,
        }),
      askKeepOlder: (revision: number, version?: Version) =>
        openModal({
          title: version ? `Name and note of ${version.name}` : `Keep revision ${revision}`,
          children: (
            <VersionDialog
              does={version ? "Keep name and note" : "Keep this version"}
              first={{ name: version?.name ?? "", note: version?.note ?? "", tried: version?.tried ?? "" }}
              onKeep={(fields) => keep({ ...fields, revision })}
            />
          ),
        }),
      unname: (version: Version) => run(() => api.dropVersion(id, version.revision)),
      /** The template as it was then, as a new revision: one gesture that can be undone. */
      bringBack: (revision: number, name: string) =>
        run(async () => {
          const { document } = await api.revision(id, revision);
          const changes = changesBetween(TEMPLATE, { here: desk.getState().doc, there: document });
          const patches = allPatches(changes);
          if (!patches.length) return tell(`The template is as it was in ${name} already.`);
          if (act({ edits: [{ kind: "changes.carry", name: `Bring back ${name}`, patches }] }))
            tell(`The template is as it was in ${name}. Ctrl Z takes it back.`);
        }),
      /** A template of its own that remembers where it came from. */
      ownTemplate: (revision: number, name: string) =>
        run(async () => {
          const { document } = await api.createTemplate({
            copyOf: id,
            copyRevision: revision,
            name: `${desk.getState().doc.name.slice(0, 150)}, ${name}`.slice(0, 200),
          });
          go(`/templates/${document.id}/inputs`);
        }),
      takeOver: (lessons: readonly Lesson[]) => {
        const [only] = lessons;
        const name =
          lessons.length === 1 && only
            ? `${only.label}: ${only.who}`
            : `Take over ${counted(lessons.length, "lesson")}`;
        act({ name, edits: lessons.flatMap(({ edits }) => edits) });
      },
      setState: (session: SessionSummary, state: string) =>
        run(() =>
          editElsewhere({ remote: api.templates, editing: templateEditing, id: session.id }, [
            { kind: "settings.set", set: { session: { state: state as SessionState } } },
          ]),
        ),
      keepAsTemplate: (session: SessionSummary) =>
        run(async () => {
          const { document } = await api.createTemplate({ copyOf: session.id, name: session.name, asTemplate: true });
          go(`/templates/${document.id}/inputs`);
        }),
      remove: (session: SessionSummary) =>
        run(async () => {
          await api.deleted("template", session.id);
          tell(`${session.name} was deleted. It lies in the bin at the foot of the library.`);
        }),
    };
  }, [desk, saver, act, go, reload]);
};

export type LifeActs = ReturnType<typeof useLifeActs>;

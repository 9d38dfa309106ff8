"use client";

import { Button } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { notifications } from "@mantine/notifications";
import { useCallback, useEffect, useState } from "react";
import type { RigList, TemplateList, TemplateSummary } from "@/contracts/answers";
import { templateEditing } from "@/core/planning/edits/template-editing";
import { api, ServiceError } from "../shared/api";
import { tell, tellRefusal } from "../shared/notices";
import { watchChanges } from "../state/changes";
import { editElsewhere } from "../state/edit-elsewhere";
import classes from "./library.module.css";

const sayError = (error: unknown): void => {
  if (!(error instanceof ServiceError)) throw error;
  tellRefusal(error.message);
};

/** Many changes close together are one look. */
const SETTLE_MS = 400;

/** So often it is looked whether what is being checked is. */
const CHECKING_MS = 350;

/** The list as it is on the server, for a search and a kind; more pages on demand. */
export const useTemplates = (initial: TemplateList) => {
  const [list, setList] = useState(initial);
  const [query, setQuery] = useState("");
  const [kind, setKind] = useState<string | null>(null);
  const [asked] = useDebouncedValue(query, 150);
  const load = useCallback(
    async (signal?: AbortSignal) => {
      try {
        setList(await api.listTemplates({ query: asked, ...(kind ? { kind } : {}) }, signal));
      } catch (error) {
        if (!signal?.aborted) sayError(error);
      }
    },
    [asked, kind],
  );
  const reloadAll = useCallback(
    async (rows: number, signal: AbortSignal) => {
      try {
        const filter = { query: asked, ...(kind ? { kind } : {}) };
        let whole = await api.listTemplates(filter, signal);
        while (whole.cursor && whole.templates.length < rows) {
          const next = await api.listTemplates({ ...filter, cursor: whole.cursor }, signal);
          whole = { ...next, templates: [...whole.templates, ...next.templates] };
        }
        setList(whole);
      } catch {
        // Away: the rows that are shown stay, and are looked at again when it is back.
      }
    },
    [asked, kind],
  );
  const shown = list.templates.length;
  // What other windows save, delete and bring back is seen here as well; as many rows as are shown are asked for again.
  useEffect(() => {
    const controller = new AbortController();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = watchChanges((told) => {
      if (typeof told === "object" && told.kind !== "template") return;
      clearTimeout(timer);
      timer = setTimeout(() => void reloadAll(shown, controller.signal), SETTLE_MS);
    });
    return () => {
      clearTimeout(timer);
      controller.abort();
      stop();
    };
  }, [reloadAll, shown]);
  useEffect(() => {
    const controller = new AbortController();
    // Also at first: a page the browser kept from an earlier visit shows an older list.
    void load(controller.signal);
    return () => controller.abort();
  }, [load]);
  // What is being checked is filled in as soon as it is.
  const waits = list.templates.some(
    ({ problems, unjudged, unreadable }) => problems === null && unjudged === null && unreadable === null,
  );
  useEffect(() => {
    if (!waits) return;
    const controller = new AbortController();
    const timer = setInterval(() => void reloadAll(shown, controller.signal), CHECKING_MS);
    return () => {
      clearInterval(timer);
      controller.abort();
    };
  }, [waits, reloadAll, shown]);
  const more = async () => {
    if (!list.cursor) return;
    try {
      const next = await api.listTemplates({ query: asked, cursor: list.cursor, ...(kind ? { kind } : {}) });
      setList({ ...next, templates: [...list.templates, ...next.templates] });
    } catch (error) {
      sayError(error);
    }
  };
  return { list, query, setQuery, kind, setKind, reload: load, more, filtered: asked !== "" || kind !== null };
};

/**
 * The list may be older than the template: another window may have saved since. The rename goes onto whatever is
 * newest.
 */
const renameHead = (id: string, name: string): Promise<void> =>
  editElsewhere({ remote: api.templates, editing: templateEditing, id }, [{ kind: "document.rename", name }]);

export const useLibraryActs = (reload: () => Promise<void>) => {
  const run = async (act: () => Promise<unknown>) => {
    try {
      await act();
    } catch (error) {
      sayError(error);
    }
    await reload();
  };
  const bringBack = (template: TemplateSummary, notice: string) =>
    run(async () => {
      notifications.hide(notice);
      const { rigBroughtBack } = await api.bringBack(template.id);
      if (rigBroughtBack)
        tell(`${rigBroughtBack}, the rig of ${template.name}, was deleted as well, and is back with it.`);
    });
  return {
    duplicate: (template: TemplateSummary) => run(() => api.createTemplate({ copyOf: template.id })),
    rename: (template: TemplateSummary, name: string) => run(() => renameHead(template.id, name)),
    remove: (template: TemplateSummary) =>
      run(async () => {
        await api.deleted("template", template.id);
        const notice = `deleted-${template.id}`;
        notifications.show({
          id: notice,
          autoClose: 20_000,
          withBorder: true,
          color: "act",
          message: (
            <span className={classes.notice}>
              {template.name} was deleted.
              <Button size="compact-sm" variant="default" onClick={() => void bringBack(template, notice)}>
                Undo
              </Button>
            </span>
          ),
        });
      }),
  };
};

/** The rigs of the studio, looked at again when one of them changes anywhere. */
export const useRigs = (first: RigList["rigs"]) => {
  const [rigs, setRigs] = useState(first);
  const reload = useCallback(async () => {
    try {
      setRigs((await api.listRigs()).rigs);
    } catch (error) {
      sayError(error);
    }
  }, []);
  useEffect(() => watchChanges((told) => void (typeof told === "object" && told.kind === "rig" && reload())), [reload]);
  return { rigs, reload };
};

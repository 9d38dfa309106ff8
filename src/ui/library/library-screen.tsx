"use client";

import { Button, Kbd, TextInput, UnstyledButton } from "@mantine/core";
import { useDebouncedValue, useHotkeys } from "@mantine/hooks";
import { modals } from "@mantine/modals";
import { notifications } from "@mantine/notifications";
import { IconFileImport, IconPlus, IconSearch } from "@tabler/icons-react";
import dynamic from "next/dynamic";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useRef, useState } from "react";
import { useDropzone } from "react-dropzone";
import type { RigList, TemplateList, TemplateSummary } from "@/contracts/answers";
import { SESSION_KIND_NAMES, SESSION_KINDS } from "@/core/model/session-kinds";
import { templateEditing } from "@/core/planning/edits/template-editing";
import type { Starter } from "@/core/starters/starters";
import { counted } from "@/core/units/counted";
import { api, ServiceError } from "../shared/api";
import { Mark } from "../shared/mark";
import { tell, tellRefusal } from "../shared/notices";
import { PageLink } from "../shared/page-link";
import { ThemeToggle } from "../shared/theme-toggle";
import { watchChanges } from "../state/changes";
import { editElsewhere } from "../state/edit-elsewhere";
import classes from "./library.module.css";
import { LibraryPalette } from "./library-palette";
import { PasteDialog } from "./paste-dialog";
import { RigsSection } from "./rigs-section";
import { NewTemplateDialog, RenameDialog } from "./template-dialogs";
import { TemplateRow } from "./template-row";
import { WaitingNotice } from "./waiting-notice";

const ImportDialog = dynamic(() => import("./import-dialog").then((dialog) => dialog.ImportDialog), {
  ssr: false,
  loading: () => <p role="status">Reading the file…</p>,
});

interface LibraryScreenProps {
  readonly initial: TemplateList;
  readonly rigs: RigList["rigs"];
  /** Starters the studio wants to see. */
  readonly starters: readonly Starter[];
}

const sayError = (error: unknown): void => {
  if (!(error instanceof ServiceError)) throw error;
  tellRefusal(error.message);
};

/** Many changes close together are one look. */
const SETTLE_MS = 400;

/** So often it is looked whether what is being checked is. */
const CHECKING_MS = 350;

/** The list as it is on the server, for a search and a kind; more pages on demand. */
const useTemplates = (initial: TemplateList) => {
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

const useLibraryActs = (reload: () => Promise<void>) => {
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

const counts = (list: TemplateList, rigs: number, filtered: boolean): string =>
  `${counted(list.total, "template")}${filtered ? " found" : ""} · ${counted(rigs, "rig")}`;

/** Text with several lines pasted onto the page is an input list. */
const usePastedList = (onText: (text: string) => void): void => {
  useEffect(() => {
    const paste = (event: ClipboardEvent): void => {
      const text = event.clipboardData?.getData("text/plain") ?? "";
      const inField = event.target instanceof HTMLElement && event.target.closest("input, textarea, select") !== null;
      if (!inField && text.trim().includes("\n")) onText(text);
    };
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, [onText]);
};

/** The rigs of the studio, looked at again when one of them changes anywhere. */
const useRigs = (first: RigList["rigs"]) => {
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

const Starters = ({
  starters,
  onChoose,
}: {
  readonly starters: readonly Starter[];
  readonly onChoose: (starter: Starter) => void;
}) => (
  <ul className={classes.starters} aria-label="Starters">
    {starters.map((starter) => (
      <li key={starter.id}>
        <UnstyledButton className={classes.starter} onClick={() => onChoose(starter)}>
          <strong>{starter.name}</strong>
          <span>
            {SESSION_KIND_NAMES[starter.kind]}. {starter.says}
          </span>
        </UnstyledButton>
      </li>
    ))}
  </ul>
);

/** The templates of the studio: found, made, copied, put away. An input list dropped anywhere becomes one. */
export const LibraryScreen = ({ initial, rigs: firstRigs, starters }: LibraryScreenProps) => {
  const router = useRouter();
  const { list, query, setQuery, kind, setKind, reload, more, filtered } = useTemplates(initial);
  const acts = useLibraryActs(reload);
  const { rigs, reload: reloadRigs } = useRigs(firstRigs);
  const searchRef = useRef<HTMLInputElement>(null);

  const importFile = useCallback(
    (file: File) =>
      modals.open({
        title: `Template from ${file.name}`,
        size: "xl",
        children: <ImportDialog file={file} rigs={rigs} onMade={(id) => router.push(`/templates/${id}/inputs`)} />,
      }),
    [rigs, router],
  );
  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDropAccepted: ([file]) => file && importFile(file),
    onDropRejected: () => tellRefusal("Drop one file at a time: an input list as CSV or tabs, or a template as JSON."),
  });
  const askNew = (starter?: Starter) =>
    modals.open({
      title: "New template",
      children: (
        <NewTemplateDialog
          rigs={rigs}
          starters={starters}
          {...(starter ? { starter } : {})}
          onMade={(id) => router.push(`/templates/${id}/inputs`)}
        />
      ),
    });
  const takeText = useCallback(
    (text: string) => importFile(new File([text], "Pasted list.txt", { type: "text/plain" })),
    [importFile],
  );
  const askPaste = () =>
    modals.open({ title: "Template from pasted text", size: "lg", children: <PasteDialog onText={takeText} /> });
  usePastedList(takeText);
  const askRename = (template: TemplateSummary) =>
    modals.open({
      title: `Rename ${template.name}`,
      children: <RenameDialog name={template.name} onRename={(name) => acts.rename(template, name)} />,
    });
  useHotkeys([
    ["/", () => searchRef.current?.focus()],
    ["alt+N", () => askNew(), { preventDefault: true, usePhysicalKeys: true }],
    ["alt+I", open, { preventDefault: true, usePhysicalKeys: true }],
  ]);

  return (
    <div {...getRootProps()} className={classes.page}>
      <header className={classes.bar}>
        <Mark />
        <span className={classes.word}>wandel</span>
        <span className={classes.space} />
        <PageLink href="/studio" className={classes.link}>
          Rooms, people and defaults
        </PageLink>
        <LibraryPalette
          templates={list.templates}
          rigs={rigs}
          onNew={() => askNew()}
          onImport={open}
          onPaste={askPaste}
        />
        <ThemeToggle />
      </header>
      <main className={classes.main}>
        <WaitingNotice />
        <input {...getInputProps({ "aria-label": "Input list to read", style: { display: "none" } })} />
        <div className={classes.head}>
          <h1>Library</h1>
          <span className={classes.soft}>{counts(list, rigs.length, filtered)}</span>
          <span className={classes.space} />
          <Button variant="default" leftSection={<IconFileImport size={17} stroke={1.7} aria-hidden />} onClick={open}>
            From an input list
          </Button>
          <Button variant="default" onClick={askPaste}>
            Paste a list
          </Button>
          <Button leftSection={<IconPlus size={17} stroke={1.9} aria-hidden />} onClick={() => askNew()}>
            New template
          </Button>
        </div>
        <div className={classes.filters}>
          <TextInput
            ref={searchRef}
            className={classes.search}
            radius="xl"
            size="sm"
            aria-label="Search the library"
            placeholder="Name, player, microphone…"
            leftSection={<IconSearch size={16} stroke={1.8} aria-hidden />}
            rightSection={<Kbd size="xs">/</Kbd>}
            value={query}
            onChange={(event) => setQuery(event.currentTarget.value)}
          />
          <div role="group" aria-label="Kind of session" className={classes.kinds}>
            <UnstyledButton className={classes.kind} aria-pressed={kind === null} onClick={() => setKind(null)}>
              All
            </UnstyledButton>
            {SESSION_KINDS.map((value) => (
              <UnstyledButton
                key={value}
                className={classes.kind}
                aria-pressed={kind === value}
                onClick={() => setKind(value)}
              >
                {SESSION_KIND_NAMES[value]}
              </UnstyledButton>
            ))}
          </div>
        </div>
        {list.templates.length ? (
          <ul className={classes.rows} aria-label="Templates">
            {list.templates.map((template) => (
              <TemplateRow
                key={template.id}
                template={template}
                onRename={() => askRename(template)}
                onDuplicate={() => void acts.duplicate(template)}
                onDelete={() => void acts.remove(template)}
              />
            ))}
          </ul>
        ) : (
          <div className={classes.empty}>
            <h2>{filtered ? "Nothing found" : "No templates yet"}</h2>
            <p>
              {filtered
                ? "No template has this in its name, its tracks, players or microphones. Search for less, or for another kind."
                : "A template says which line is plugged in where and on which track it arrives. Drop the input list you were sent anywhere on this page, or begin with one of these."}
            </p>
            {!filtered && <Starters starters={starters} onChoose={askNew} />}
          </div>
        )}
        {list.cursor && (
          <Button variant="default" mt="md" onClick={() => void more()}>
            Show more
          </Button>
        )}
        <p className={classes.soft}>
          Drop an input list anywhere on this page, or paste its text, to make a template from it.
        </p>
        <RigsSection rigs={rigs} onChanged={reloadRigs} />
      </main>
      {isDragActive && <div className={classes.drop}>Drop it here: an input list becomes tracks on a rig</div>}
    </div>
  );
};

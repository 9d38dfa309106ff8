"use client";

import { Button, Kbd, TextInput, UnstyledButton } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { IconFileImport, IconPlus, IconSearch } from "@tabler/icons-react";
import dynamic from "next/dynamic";
import { type RefObject, useCallback, useEffect, useRef, useState } from "react";
import { useDropzone } from "react-dropzone";
import type { RigList, SessionList, TemplateList, TemplateSummary } from "@/contracts/answers";
import { SESSION_KIND_NAMES, SESSION_KINDS } from "@/core/model/session-kinds";
import type { Starter } from "@/core/starters/starters";
import { counted } from "@/core/units/counted";
import type { Act } from "../acts/act-model";
import { keyOf, type Meaning } from "../acts/chords";
import { KeysButton, OverPage } from "../frame/over-page";
import { type Moving, usePageActs } from "../frame/page-acts";
import { POPUPS } from "../shared/combobox";
import { useGo } from "../shared/going";
import { Mark } from "../shared/mark";
import { tellRefusal } from "../shared/notices";
import { openModal } from "../shared/open-modal";
import { PageLink } from "../shared/page-link";
import { useSteady } from "../shared/steady";
import { ThemeToggle } from "../shared/theme-toggle";
import { BinSection } from "./bin-section";
import { DocumentDialog } from "./document-dialog";
import classes from "./library.module.css";
import { LibraryPalette } from "./library-palette";
import { PasteDialog } from "./paste-dialog";
import { RigsSection } from "./rigs-section";
import { SessionsSection } from "./sessions-section";
import { NewTemplateDialog, RenameDialog } from "./template-dialogs";
import { TemplateRow } from "./template-row";
import { useLibraryActs, useRigs, useTemplates } from "./use-templates";
import { WaitingNotice } from "./waiting-notice";

const ReadingScreen = dynamic(() => import("../reading/reading-screen").then((screen) => screen.ReadingScreen), {
  ssr: false,
  loading: () => <p role="status">Reading the file…</p>,
});

interface LibraryScreenProps {
  readonly initial: TemplateList;
  readonly rigs: RigList["rigs"];
  readonly sessions: SessionList;
  /** Starters the studio wants to see. */
  readonly starters: readonly Starter[];
}

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

type Searching = Pick<ReturnType<typeof useTemplates>, "query" | "setQuery" | "kind" | "setKind">;

const Filters = ({
  query,
  setQuery,
  kind,
  setKind,
  searchRef,
}: Searching & { readonly searchRef: RefObject<HTMLInputElement | null> }) => (
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
);

const Nothing = ({
  filtered,
  starters,
  onChoose,
}: {
  readonly filtered: boolean;
  readonly starters: readonly Starter[];
  readonly onChoose: (starter: Starter) => void;
}) => (
  <div className={classes.empty}>
    <h2>{filtered ? "Nothing found" : "No templates yet"}</h2>
    <p>
      {filtered
        ? "No template has this in its name, its tracks, players or microphones. Search for less, or for another kind."
        : "A template says which line is plugged in where and on which track it arrives. Drop the input list you were sent anywhere on this page, or begin with one of these."}
    </p>
    {!filtered && <Starters starters={starters} onChoose={onChoose} />}
  </div>
);

/** The dialogs from which templates come, and that of their name. */
const useAsking = (rigs: RigList["rigs"], starters: readonly Starter[]) => {
  const go = useGo();
  const onMade = useCallback((id: string) => go(`/templates/${id}/inputs`), [go]);
  const importFile = useCallback(
    (file: File) =>
      /\.json$/i.test(file.name)
        ? openModal({
            title: `Template from ${file.name}`,
            children: <DocumentDialog file={file} rigs={rigs} onMade={onMade} />,
          })
        : openModal({
            fullScreen: true,
            withCloseButton: false,
            padding: 0,
            closeOnEscape: false,
            title: `Reading ${file.name}`,
            // The bar of the screen says it to the eye.
            classNames: { header: "visually-hidden" },
            children: <ReadingScreen file={file} rigs={rigs} onMade={onMade} />,
          }),
    [rigs, onMade],
  );
  const takeText = useCallback(
    (text: string) => importFile(new File([text], "Pasted list.txt", { type: "text/plain" })),
    [importFile],
  );
  return {
    importFile,
    takeText,
    askNew: (starter?: Starter) =>
      openModal({
        title: "New template",
        children: (
          <NewTemplateDialog rigs={rigs} starters={starters} {...(starter ? { starter } : {})} onMade={onMade} />
        ),
      }),
    askPaste: () =>
      openModal({ title: "Template from pasted text", size: "lg", children: <PasteDialog onText={takeText} /> }),
    askRename: (template: TemplateSummary, onRename: (name: string) => Promise<void>) =>
      openModal({
        title: `Rename ${template.name}`,
        children: <RenameDialog name={template.name} onRename={onRename} />,
      }),
  };
};

const MOVING: Moving = [
  ["/", "Search the library"],
  ["Tab, Shift Tab", "From template to template"],
  ["Enter", "Open the template"],
];

/** The templates of the studio: found, made, copied, put away. An input list dropped anywhere becomes one. */
export const LibraryScreen = ({ initial, rigs: firstRigs, sessions, starters }: LibraryScreenProps) => {
  const { list, reload, more, filtered, ...searching } = useTemplates(initial);
  const acts = useLibraryActs(reload);
  const { rigs, reload: reloadRigs } = useRigs(firstRigs);
  const go = useGo();
  const searchRef = useRef<HTMLInputElement>(null);

  const { importFile, takeText, askNew, askPaste, askRename } = useAsking(rigs, starters);
  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDropAccepted: ([file]) => file && importFile(file),
    onDropRejected: () =>
      tellRefusal("Drop one file at a time: an input list as text, CSV, .xlsx or .ods, or a template as JSON."),
  });
  usePastedList(takeText);
  const afterBin = useSteady(async (): Promise<void> => void (await Promise.all([reload(), reloadRigs()])));
  const toSearch = (): void => searchRef.current?.focus();
  useHotkeys([["/", toSearch]]);
  const [held, setHeld] = useState<string | null>(null);
  const here = list.templates.find(({ id }) => id === held);
  // The one that was used last, until the keys or the pointer are on another.
  const startable = here ?? list.templates.find(({ unreadable }) => !unreadable);
  const ofRow = (id: string, label: string, meaning: Meaning, run: (template: TemplateSummary) => void): Act => ({
    id,
    label: here ? `${label} ${here.name}` : `${label} the template`,
    key: keyOf(meaning),
    whyNot: here ? undefined : "Go to a template in the list first.",
    run: () => here && run(here),
  });
  const gather = useSteady((): readonly Act[] => [
    { id: "new", label: "New template…", key: keyOf("add"), run: () => askNew() },
    { id: "import", label: "Template from an input list…", key: keyOf("add-all"), run: open },
    { id: "paste", label: "Template from pasted text…", run: askPaste },
    { id: "search", label: "Search the library", key: keyOf("filter"), run: toSearch },
    {
      id: "session",
      label: startable ? `Start a session of ${startable.name}…` : "Start a session…",
      key: keyOf("session"),
      whyNot: startable ? undefined : "There is no template yet to start a session of.",
      run: () => startable && go(`/templates/${startable.id}/life?start=1`),
    },
    ofRow("edit", "Rename", "edit", (template) => askRename(template, (name) => acts.rename(template, name))),
    ofRow("duplicate", "Duplicate", "duplicate", (template) => void acts.duplicate(template)),
    ofRow("remove", "Delete", "remove", (template) => void acts.remove(template)),
  ]);
  usePageActs(gather, "the library", MOVING);

  return (
    <div {...getRootProps()} className={classes.page}>
      <header className={classes.bar}>
        <Mark />
        <span className={classes.word}>wandel</span>
        <span className={classes.space} />
        <PageLink href="/studio" className={classes.link}>
          Rooms, people and defaults
        </PageLink>
        <LibraryPalette templates={list.templates} rigs={rigs} acts={gather} />
        <KeysButton />
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
        <Filters {...searching} searchRef={searchRef} />
        {list.templates.length ? (
          <ul className={classes.rows} aria-label="Templates">
            {list.templates.map((template) => (
              <TemplateRow
                key={template.id}
                template={template}
                onHeld={() => setHeld(template.id)}
                onRename={() => askRename(template, (name) => acts.rename(template, name))}
                onDuplicate={() => void acts.duplicate(template)}
                onDelete={() => void acts.remove(template)}
              />
            ))}
          </ul>
        ) : (
          <Nothing filtered={filtered} starters={starters} onChoose={askNew} />
        )}
        {list.cursor && (
          <Button variant="default" mt="md" onClick={() => void more()}>
            Show more
          </Button>
        )}
        <p className={classes.soft}>
          Drop an input list anywhere on this page, or paste its text, to make a template from it.
        </p>
        <SessionsSection initial={sessions} query={searching.query} />
        <RigsSection rigs={rigs} onChanged={reloadRigs} />
        <BinSection onChanged={afterBin} />
        <div id={POPUPS} />
      </main>
      <OverPage />
      {isDragActive && <div className={classes.drop}>Drop it here: an input list becomes tracks on a rig</div>}
    </div>
  );
};

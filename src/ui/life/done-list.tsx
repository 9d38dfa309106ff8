"use client";

import { Button, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { IconSearch } from "@tabler/icons-react";
import { useCallback, useEffect, useState } from "react";
import type { Done } from "@/contracts/answers";
import { api, ServiceError } from "../shared/api";
import { sayDate } from "../shared/format-date";
import { PageLink } from "../shared/page-link";
import { nameThisBrowser, whoIsHere } from "../shared/who";
import { useDesk } from "../state/desk-context";
import classes from "./life.module.css";

interface Page {
  readonly done: readonly Done[];
  readonly before: number | null;
}

const LOOK_MS = 250;

/** Who works in this browser: what they do is told under this name. */
const Named = () => {
  const [name, setName] = useState("");
  useEffect(() => setName(whoIsHere()), []);
  return (
    <TextInput
      size="xs"
      aria-label="Your name in this browser"
      placeholder="Your name in this browser"
      maxLength={80}
      value={name}
      onChange={(event) => {
        setName(event.currentTarget.value);
        nameThisBrowser(event.currentTarget.value);
      }}
    />
  );
};

/** Everything that was done to the template, newest first, found by words; each state can be read. */
export const DoneList = () => {
  const id = useDesk((desk) => desk.doc.id);
  const revision = useDesk((desk) => desk.base.revision);
  const [query, setQuery] = useState("");
  const [asked] = useDebouncedValue(query.trim(), LOOK_MS);
  const [page, setPage] = useState<Page | null>(null);
  const [error, setError] = useState<string | null>(null);
  const look = useCallback(
    async (before?: number) => {
      try {
        const found = await api.history(id, { query: asked, ...(before ? { before } : {}) });
        setError(null);
        setPage((there) => ({ done: [...(before && there ? there.done : []), ...found.done], before: found.before }));
      } catch (failure) {
        if (!(failure instanceof ServiceError)) throw failure;
        setError(failure.message);
      }
    },
    [id, asked],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was saved is told there
  useEffect(() => void look(), [look, revision]);
  return (
    <section aria-labelledby="what-was-done">
      <div className={classes.listHead}>
        <h2 id="what-was-done">What was done</h2>
        <TextInput
          size="xs"
          aria-label="Search what was done"
          placeholder="Fiddle, phantom, Nadia…"
          leftSection={<IconSearch size={14} aria-hidden />}
          value={query}
          onChange={(event) => setQuery(event.currentTarget.value)}
        />
        <Named />
      </div>
      {error && <p role="alert">{error}</p>}
      {page && !page.done.length && <p className={classes.soft}>Nothing was done that says “{asked}”.</p>}
      <ol className={classes.doneList} aria-label="What was done, newest first">
        {page?.done.map((done) => (
          <li key={done.revision}>
            <PageLink
              href={`/revisions/${id}/${done.revision}/inputs`}
              aria-label={`Read revision ${done.revision}: ${done.names.join("; ")}`}
            >
              {done.names.join("; ") || "Made"}
            </PageLink>
            {done.version && <em>{done.version}</em>}
            <span className={classes.soft}>
              {done.by && `${done.by} · `}
              <time dateTime={done.savedAt} suppressHydrationWarning>
                {sayDate(done.savedAt)}
              </time>{" "}
              · {done.revision}
            </span>
          </li>
        ))}
      </ol>
      {page?.before && (
        <Button variant="default" size="xs" onClick={() => void look(page.before ?? undefined)}>
          Show more
        </Button>
      )}
    </section>
  );
};

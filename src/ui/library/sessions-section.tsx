"use client";

import { Button } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useEffect, useRef, useState } from "react";
import type { SessionList } from "@/contracts/answers";
import { sayDay } from "../life/dates";
import { api, ServiceError } from "../shared/api";
import { tellRefusal } from "../shared/notices";
import { PageLink } from "../shared/page-link";
import { Selvedge } from "../shared/selvedge";
import classes from "./library.module.css";

/** So many are shown before more are asked for. */
const FIRST = 5;

const LOOK_MS = 200;

interface SessionsSectionProps {
  readonly initial: SessionList;
  /** What the library is searched for. */
  readonly query: string;
}

/** Sessions by date, newest first, each with the template it is a copy of and how far it is. */
export const SessionsSection = ({ initial, query }: SessionsSectionProps) => {
  const [list, setList] = useState(initial);
  const [asked] = useDebouncedValue(query.trim(), LOOK_MS);
  const first = useRef(true);
  useEffect(() => {
    // What the page came with is what nothing was searched for.
    if (first.current && !asked) return;
    first.current = false;
    const abort = new AbortController();
    api
      .listSessions({ query: asked }, abort.signal)
      .then(setList)
      // The window says by itself when the server is away; what is shown stays.
      .catch(() => {});
    return () => abort.abort();
  }, [asked]);
  const [all, setAll] = useState(false);
  const shown = all ? list.sessions : list.sessions.slice(0, FIRST);
  const more = async (): Promise<void> => {
    if (!all) return setAll(true);
    try {
      const next = await api.listSessions({ query: asked, ...(list.cursor ? { cursor: list.cursor } : {}) });
      setList({ sessions: [...list.sessions, ...next.sessions], cursor: next.cursor });
    } catch (error) {
      if (!(error instanceof ServiceError)) throw error;
      tellRefusal(error.message);
    }
  };
  return (
    <section aria-label="Sessions" className={classes.rigs}>
      <div className={classes.head}>
        <h2>Sessions</h2>
        <span className={classes.soft}>
          {list.sessions.length
            ? "copies for a date; none changes its template"
            : asked
              ? "none has this in it"
              : "None yet: open a template and press Start session."}
        </span>
      </div>
      <ul className={classes.rows} aria-label="Sessions">
        {shown.map(({ id, name, date, place, state, selvedge, from }) => (
          <li key={id} className={classes.session}>
            <div>
              <PageLink href={`/templates/${id}/inputs`} className={classes.open}>
                {name}
              </PageLink>
              <span className={classes.meta}>
                {[sayDay(date), place, from?.name].filter((part) => part && part !== name).join(" · ")}
              </span>
            </div>
            <Selvedge colours={selvedge} />
            <span data-state={state}>{state}</span>
          </li>
        ))}
      </ul>
      {(list.cursor || list.sessions.length > shown.length) && (
        <Button variant="default" size="compact-md" mt="xs" onClick={() => void more()}>
          Show more sessions
        </Button>
      )}
    </section>
  );
};

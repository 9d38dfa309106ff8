"use client";

import { Button, Group } from "@mantine/core";
import { type Deletable, KINDS } from "@/contracts/kinds";
import { api } from "../shared/api";
import { useGo } from "../shared/going";
import classes from "../shared/opened.module.css";
import { PageLink } from "../shared/page-link";
import { useSubmit } from "../shared/use-submit";

interface UnreadableProps {
  readonly what: Deletable;
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

/** A document that can't be read is shown as such: it can be saved as it is stored, and taken out. */
export const Unreadable = ({ what, id, name, why }: UnreadableProps) => {
  const go = useGo();
  const { busy, error, submit } = useSubmit();
  const remove = () =>
    submit(async () => {
      await api.deleted(what, id);
      go("/");
    });
  return (
    <main className={classes.opening}>
      <p>
        <PageLink href="/">Library</PageLink>
      </p>
      <h1>{name} can’t be read</h1>
      <p>{why}</p>
      <Group>
        <Button component="a" href={`${KINDS[what].path(id)}/export?format=raw`}>
          Save as it is stored
        </Button>
        <Button variant="default" loading={busy} onClick={() => void remove()}>
          Delete the {what}
        </Button>
      </Group>
      {error && <p role="alert">{error}</p>}
    </main>
  );
};

import { Button, Group } from "@mantine/core";
import { modals } from "@mantine/modals";
import type { FormEvent } from "react";
import classes from "./act-dialogs.module.css";

/** The buttons at the foot of a dialog. `first`: Enter does it at once, as there is nothing to fill in. */
export const Footer = ({ does, first = false }: { readonly does: string; readonly first?: boolean }) => (
  <Group justify="flex-end" mt="md">
    <Button variant="default" onClick={() => modals.closeAll()}>
      Cancel
    </Button>
    <Button type="submit" {...(first ? { "data-autofocus": true } : {})}>
      {does}
    </Button>
  </Group>
);

/** What a form of a dialog does when it is sent; the dialog stays open where it could not be done. */
export const submitting = (done: () => boolean) => (event: FormEvent) => {
  event.preventDefault();
  if (done()) modals.closeAll();
};

export interface AskFirst {
  readonly title: string;
  readonly says: string;
  readonly does: string;
  readonly onDo: () => void;
}

/** Says how far an act reaches before it is done. It is closed first, so that what is done may take the keys. */
export const FirstForm = ({ says, does, onDo }: Omit<AskFirst, "title">) => (
  <form
    onSubmit={(event) => {
      event.preventDefault();
      modals.closeAll();
      onDo();
    }}
  >
    <p className={classes.says}>{says}</p>
    <Footer does={does} first />
  </form>
);

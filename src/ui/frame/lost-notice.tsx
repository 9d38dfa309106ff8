"use client";

import { CloseButton } from "@mantine/core";
import { useDoc, useDocContext } from "../state/doc-context";
import classes from "./frame.module.css";

/** What could not be done again after another window's change, and why. Stays until it is put away. */
export const LostNotice = () => {
  const lost = useDoc((desk) => desk.lost);
  const mended = useDoc((desk) => desk.mended);
  const { store, what } = useDocContext();
  if (mended)
    return (
      <div role="alert" className={`${classes.lost} no-print`}>
        <strong style={{ flex: 1 }}>
          This window had come to show something else than the server keeps. The {what} was taken anew from there, and
          what was not saved yet was done again on it. Look through it once.
        </strong>
        <CloseButton aria-label="Dismiss this notice" onClick={() => store.setState({ mended: false })} />
      </div>
    );
  if (!lost.length) return null;
  return (
    <div role="alert" className={`${classes.lost} no-print`}>
      <div style={{ flex: 1 }}>
        <strong>{lost.length === 1 ? "One edit" : `${lost.length} edits`} made here could not be kept:</strong>
        <ul>
          {lost.map(({ name, why }, at) => (
            <li key={at}>
              {name}: {why}
            </li>
          ))}
        </ul>
      </div>
      <CloseButton aria-label="Dismiss this notice" onClick={() => store.setState({ lost: [] })} />
    </div>
  );
};

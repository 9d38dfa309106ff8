"use client";

import { Modal } from "@mantine/core";
import { useStore } from "zustand";
import { canBeDone } from "../acts/act-model";
import classes from "./key-sheet.module.css";
import { type Moving, overPage, pageActs } from "./page-acts";

/** Keys of every screen. */
const EVERYWHERE: Moving = [
  ["Ctrl K", "Do or find anything"],
  ["Ctrl Z, Ctrl Shift Z", "Undo, redo"],
  ["Alt I", "To the panel at the right, and back"],
  ["Shift F10, the menu key", "What can be done here"],
  ["?", "All keys of this screen"],
];

interface ListProps {
  readonly title: string;
  readonly keys: readonly {
    readonly key: string;
    readonly does: string;
    readonly run?: (() => void) | undefined;
    readonly why?: string | undefined;
  }[];
}

/** Keys with what they do; what can be done now can be pressed here as well. */
const List = ({ title, keys }: ListProps) =>
  keys.length > 0 && (
    <section>
      <h3 className={classes.title}>{title}</h3>
      <dl className={classes.list}>
        {keys.map(({ key, does, run, why }) => (
          <div key={`${key} ${does}`}>
            <dt>{key}</dt>
            <dd>
              {run ? (
                <button type="button" className={classes.does} onClick={run}>
                  {does}
                </button>
              ) : (
                does
              )}
              {why && <span className={classes.why}>{why}</span>}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );

const shown = (moving: Moving) => moving.map(([key, does]) => ({ key, does }));

/** Every key of a screen, and every act. They come from the acts themselves, so that the sheet can't be wrong. */
export const KeySheet = () => {
  const opened = useStore(overPage, ({ keys }) => keys);
  const { gather, title, moving } = useStore(pageActs);
  const close = () => overPage.setState({ keys: false });
  const acts = opened ? (gather?.() ?? []) : [];
  const listed = acts.map((act) => ({
    key: act.key ?? "",
    does: act.label,
    why: act.whyNot,
    run: canBeDone(act)
      ? () => {
          close();
          act.run();
        }
      : undefined,
  }));
  return (
    <Modal opened={opened} onClose={close} title={`All keys of ${title || "this screen"}`} size="xl">
      <div className={classes.sheet}>
        <List title="Acts" keys={listed} />
        <div>
          <List title="Moving about" keys={shown(moving)} />
          <List title="On every screen" keys={shown(EVERYWHERE)} />
        </div>
      </div>
    </Modal>
  );
};

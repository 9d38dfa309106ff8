"use client";

import type { ReactNode } from "react";
import classes from "./section.module.css";

interface SectionProps {
  readonly title: string;
  readonly hint?: string;
  readonly actions?: ReactNode;
  readonly children: ReactNode;
}

/** One matter of a screen that has many: its heading, what can be added, and the parts. */
export const Section = ({ title, hint, actions, children }: SectionProps) => (
  <section className={classes.section} aria-label={title}>
    <div className={classes.sectionHead}>
      <h2>{title}</h2>
      {hint && <span className={classes.hint}>{hint}</span>}
      <span className={classes.space} />
      {actions}
    </div>
    {children}
  </section>
);

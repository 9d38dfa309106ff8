"use client";

import dynamic from "next/dynamic";
import classes from "./findings.module.css";

/** The findings, fetched when they are asked for; their place is kept meanwhile. */
export const FindingsPanel = dynamic(() => import("./findings-panel").then((panel) => panel.FindingsPanel), {
  ssr: false,
  loading: () => <aside id="findings-panel" className={classes.panel} aria-label="Findings" aria-busy />,
});

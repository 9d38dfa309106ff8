import type { Colour } from "@/core/model/colours";
import { dyeVar } from "../theme/tokens";
import classes from "./selvedge.module.css";

/** A strip of the threads of a template in order: how big it is, and of what, at a glance. */
export const Selvedge = ({ colours }: { readonly colours: readonly Colour[] }) => {
  const counts = new Map<Colour, number>();
  for (const colour of colours) counts.set(colour, (counts.get(colour) ?? 0) + 1);
  const words = [...counts].map(([colour, count]) => `${count} ${colour}`).join(", ");
  const step = Math.min(15, 300 / Math.max(1, colours.length));
  return (
    <svg
      className={classes.selvedge}
      width="300"
      height="34"
      viewBox="0 0 300 34"
      preserveAspectRatio="none"
      role="img"
      aria-label={colours.length ? `${colours.length} threads: ${words}` : "No threads yet"}
    >
      {colours.length === 0 && <line x1="0" x2="300" y1="17" y2="17" stroke="var(--hairline)" strokeDasharray="4 4" />}
      {colours.map((colour, at) => (
        <rect
          key={at}
          x={at * step}
          y="0"
          width={step > 3 ? step - 2 : step * 0.7}
          height="34"
          rx={step > 6 ? 2 : 0}
          fill={dyeVar(colour)}
        />
      ))}
    </svg>
  );
};

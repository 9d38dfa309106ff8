import type { Dye } from "@/core/model/dyes";
import { dyeVar } from "../theme/tokens";
import classes from "./selvedge.module.css";

/** A strip of the threads of a template in order: how big it is, and of what, at a glance. */
export const Selvedge = ({ dyes }: { readonly dyes: readonly Dye[] }) => {
  const counts = new Map<Dye, number>();
  for (const dye of dyes) counts.set(dye, (counts.get(dye) ?? 0) + 1);
  const words = [...counts].map(([dye, count]) => `${count} ${dye}`).join(", ");
  const step = Math.min(15, 300 / Math.max(1, dyes.length));
  return (
    <svg
      className={classes.selvedge}
      width="300"
      height="34"
      viewBox="0 0 300 34"
      preserveAspectRatio="none"
      role="img"
      aria-label={dyes.length ? `${dyes.length} threads: ${words}` : "No threads yet"}
    >
      {dyes.length === 0 && <line x1="0" x2="300" y1="17" y2="17" stroke="var(--hairline)" strokeDasharray="4 4" />}
      {dyes.map((dye, at) => (
        <rect key={at} x={at * step} y="0" width={step > 3 ? step - 2 : step * 0.7} height="34" rx={step > 6 ? 2 : 0} fill={dyeVar(dye)} />
      ))}
    </svg>
  );
};

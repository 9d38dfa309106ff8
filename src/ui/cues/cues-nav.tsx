import { usePathname } from "next/navigation";
import { PageLink } from "../shared/page-link";
import { usePlace } from "../state/desk-context";
import classes from "./cues.module.css";

const VIEWS = [
  { name: "Cues", path: "" },
  { name: "Passes", path: "/passes" },
  { name: "Levels", path: "/levels" },
] as const;

/** What lies beside the cues: passes and levels. */
export const CuesNav = () => {
  const place = usePlace();
  const path = usePathname();
  return (
    <nav className={classes.views} aria-label="Cues, passes and levels">
      {VIEWS.map((view) => {
        const href = `${place}/cues${view.path}`;
        return (
          <PageLink key={view.name} href={href} aria-current={path === href ? "page" : undefined}>
            {view.name}
          </PageLink>
        );
      })}
    </nav>
  );
};

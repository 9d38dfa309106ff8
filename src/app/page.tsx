import { STARTERS } from "@/core/starters/starters";
import { database } from "@/server/db/database";
import { listTemplates } from "@/server/services/library";
import { listRigs } from "@/server/services/rigs";
import { listSessions } from "@/server/services/sessions";
import { loadStudio } from "@/server/services/studio";
import { LibraryScreen } from "@/ui/library/library-screen";

export const dynamic = "force-dynamic";

export default async function LibraryPage() {
  const [initial, { rigs }, sessions, { document: studio }] = await Promise.all([
    listTemplates(database(), {}),
    listRigs(database()),
    listSessions(database(), {}),
    loadStudio(database()),
  ]);
  return (
    <LibraryScreen
      initial={initial}
      rigs={rigs}
      sessions={sessions}
      starters={STARTERS.filter((starter) => !Object.hasOwn(studio.hiddenStarters, starter.id))}
    />
  );
}

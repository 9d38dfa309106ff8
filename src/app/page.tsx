import { STARTERS } from "@/core/starters/starters";
import { database } from "@/server/db/database";
import { listTemplates } from "@/server/services/library";
import { listRigs } from "@/server/services/rigs";
import { loadStudio } from "@/server/services/studio";
import { LibraryScreen } from "@/ui/library/library-screen";

export const dynamic = "force-dynamic";

export default async function LibraryPage() {
  const [initial, { rigs }, { document: studio }] = await Promise.all([
    listTemplates(database(), {}),
    listRigs(database()),
    loadStudio(database()),
  ]);
  return (
    <LibraryScreen
      initial={initial}
      rigs={rigs}
      starters={STARTERS.filter((starter) => !Object.hasOwn(studio.hiddenStarters, starter.id))}
    />
  );
}

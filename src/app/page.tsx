import { database } from "@/server/db/database";
import { listTemplates } from "@/server/services/library";
import { listRigs } from "@/server/services/rigs";
import { LibraryScreen } from "@/ui/library/library-screen";

export const dynamic = "force-dynamic";

export default async function LibraryPage() {
  const [initial, { rigs }] = await Promise.all([listTemplates(database(), {}), listRigs(database())]);
  return <LibraryScreen initial={initial} rigs={rigs} />;
}

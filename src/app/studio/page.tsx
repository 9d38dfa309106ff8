import { database } from "@/server/db/database";
import { loadStudio } from "@/server/services/studio";
import { StudioProvider } from "@/ui/studio/studio-context";
import { StudioScreen } from "@/ui/studio/studio-screen";

export const dynamic = "force-dynamic";
export const metadata = { title: "Rooms, people and defaults" };

export default async function StudioPage() {
  return (
    <StudioProvider initial={await loadStudio(database())}>
      <StudioScreen />
    </StudioProvider>
  );
}

import { json, route } from "@/server/http/route";
import { loadStudio } from "@/server/services/studio";

export const GET = route(async ({ db }) => json(await loadStudio(db)));

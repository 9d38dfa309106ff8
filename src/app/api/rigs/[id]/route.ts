import { json, route } from "@/server/http/route";
import { loadRig } from "@/server/services/rigs";

export const GET = route(async ({ db, params }) => json(await loadRig(db, params.id ?? "")));

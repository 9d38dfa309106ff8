import { json, route } from "@/server/http/route";
import { rigTouches } from "@/server/services/rigs";

export const GET = route(async ({ db, params, signal }) => json(await rigTouches(db, params.id ?? "", signal)));

import { json, route } from "@/server/http/route";
import { lifeOf } from "@/server/services/life";

export const GET = route(async ({ db, params }) => json(await lifeOf(db, params.id ?? "")));

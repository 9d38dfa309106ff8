import { json, route } from "@/server/http/route";
import { templateFindings } from "@/server/services/library";

export const GET = route(async ({ db, params, signal }) => json(await templateFindings(db, params.id ?? "", signal)));
